// Jobs with words and with the run, done by hand in the real window, their actions counted.
#include <QDir>
#include <algorithm>

#include "render/frames.h"
#include "scene/run.h"
#include "sheets/passage_gallery.h"
#include "support/counted.h"
#include "support/room.h"
#include "widgets/hold_row.h"
#include "widgets/motion_pill.h"
#include "widgets/run_strip.h"
#include "widgets/text_field.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

struct Room {
  Window w;
  Hands hands{w};
  explicit Room(const char* starter = nullptr) {
    if (starter) {
      showWith(w, nullptr);
      w.open(QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/") + QLatin1String(starter));
    } else {
      Scene scene;
      scene.rate = {30, 1};
      scene.frames = 150;
      scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
      showWith(w, &scene);
    }
  }
  const Scene& scene() { return w.document().scene(); }
  const Layer& top() { return scene().layers.back(); }
  // The part of the strip that offers it, and a card of the gallery.
  void passes(const char* how, bool leaving = false) {
    RunStrip& strip = w.runStrip();
    const auto part = leaving ? RunStrip::Part::Leave : RunStrip::Part::Arrive;
    if ((leaving ? runOf(scene()).leave : runOf(scene()).arrive) < 1) {
      hands.click(&strip, strip.rectOf(part).center().toPoint());
    } else {
      // What offers it is taken, so the key is pressed.
      hands.key(leaving ? Qt::Key_Period : Qt::Key_Comma, Qt::ControlModifier);
    }
    QTRY_VERIFY(w.passages().isVisible());
    const int card = w.passages().cardOf(how);
    QVERIFY2(card >= 0, how);
    hands.click(w.passages().card(card));
    QTRY_VERIFY(!w.passages().isVisible());
  }
  void swings(const char* step, const char* param) {
    auto* pill = paramRow(w, step, param)->findChild<MotionPill*>();
    hands.count();
    hands.count();
    QVERIFY(clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Swing")));
  }
};

}  // namespace

class TestRunJobs : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aLowerPanelWithARunningLight();
  void lettersFlickerOnOverFog();
  void aTitleOutOfASmearThenFootage();
  void aCardFromTheHarbour();
  void heroWordsAndHandMade();
};

void TestRunJobs::aLowerPanelWithARunningLight() {
  Room room("sea-fog.overagain");
  room.hands.addLayer(QStringLiteral("Lower panel"));
  room.passes("From the left");
  room.passes("From the left", true);
  const Id panel = room.top().id;
  room.hands.addLayer(QStringLiteral("Light round a panel"));
  room.hands.choose("outline", "along", QStringLiteral("Layer"));
  room.hands.choose("outline", "layer", QStringLiteral("Lower panel"));
  told("a lower panel with a running light that arrives, stays and leaves", room.hands, 10);
  const RecipeStep& light = room.top().recipe[0];
  QCOMPARE(static_cast<Id>(std::get<double>(light.params[static_cast<std::size_t>(findParam(light.spec->params, "layer"))].base)), panel);
  // The light goes with the panel on its way: at first both are out of sight.
  RenderOptions options;
  options.run = true;
  options.layer = room.top().id;
  Renderer renderer(room.scene(), 480, 270, options);
  const auto ink = [&](std::int64_t frame) {
    Frame16 picture;
    renderInto(renderer, frame, picture);
    double sum = 0;
    for (std::size_t i = 3; i < picture.rgba.size(); i += 4) sum += picture.rgba[i] / 65535.0;
    return sum;
  };
  const RunLength run = runOf(room.scene());
  QVERIFY(ink(0) < 1);
  QVERIFY(ink(run.arrive + 10) > 100);
}

void TestRunJobs::lettersFlickerOnOverFog() {
  Room room("sea-fog.overagain");
  room.hands.addLayer(QStringLiteral("Title"));
  room.passes("Letters flicker on");
  told("a title whose letters flicker on over fog", room.hands, 6);
  QCOMPARE(passingOf(*room.top().passes.arrive).order, PassOrder::Random);
}

void TestRunJobs::aTitleOutOfASmearThenFootage() {
  Room room("sea-fog.overagain");
  room.hands.addLayer(QStringLiteral("Title"));
  room.passes("Out of a smear");
  room.hands.drop({QStringLiteral("swinging-lantern.webm")});
  room.hands.choose("picture", "way", QStringLiteral("Through"));
  room.passes("Fade");
  told("a title that settles out of a smear, footage follows by a fade", room.hands, 8);
  QVERIFY(runOf(room.scene()).seconds > 0);
  QCOMPARE(passingOf(*room.scene().layers[room.scene().layers.size() - 2].passes.arrive).smear, Smear::Left);
}

void TestRunJobs::aCardFromTheHarbour() {
  Room room("dusk.overagain");
  room.hands.addLayer(QStringLiteral("Pebble"));
  room.hands.type("outline", "centre", QStringLiteral("100"), 1);
  room.hands.type("outline", "size", QStringLiteral("4"));
  room.passes("From below");
  room.hands.addLayer(QStringLiteral("Signal flags"));
  room.passes("From above");
  room.hands.addLayer(QStringLiteral("Twinkle"));
  // Words that grow letter by letter, settle and fade for the next ones, over and over.
  room.hands.addLayer(QStringLiteral("These, then the next"));
  auto* field = paramRow(room.w, "words", "text")->findChild<TextField*>();
  field->setFocus();
  QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
  QTest::keyClicks(field, QStringLiteral("Fish and chips"));
  QTest::keyClick(field, Qt::Key_Return);
  QTest::keyClicks(field, QStringLiteral("On the quay"));
  QTest::keyClick(field, Qt::Key_Return);
  QTest::keyClicks(field, QStringLiteral("From six"));
  room.hands.count();
  room.passes("Letters grow");
  room.passes("Fade", true);
  told("a card: a hill rises, flags drop, sparkles come and go, words grow, settle, fade, next words", room.hands, 20);
  QCOMPARE(passingOf(*room.top().passes.arrive).by, PassBy::Letter);
  const RecipeStep& words = room.top().recipe[0];
  const auto valueOf = [&](const char* id) { return words.params[static_cast<std::size_t>(findParam(words.spec->params, id))].base; };
  QVERIFY(std::get<bool>(valueOf("pages")));
  QCOMPARE(std::get<oa::Text>(valueOf("text")).text, std::string("Fish and chips\nOn the quay\nFrom six"));
  // They share the loop: in each third another word, which is whole in its middle.
  Scene alone = room.scene();
  alone.layers = {room.top()};
  alone.layers[0].passes = {};
  alone.background.reset();
  std::vector<Frame16> thirds(3);
  Renderer renderer(alone, 480, 270);
  for (int i = 0; i < 3; ++i) renderInto(renderer, alone.frames * (2 * i + 1) / 6, thirds[static_cast<std::size_t>(i)]);
  for (const Frame16& frame : thirds) QCOMPARE(*std::max_element(frame.rgba.begin(), frame.rgba.end()), std::uint16_t{65535});
  QVERIFY(thirds[0].rgba != thirds[1].rgba && thirds[1].rgba != thirds[2].rgba && thirds[0].rgba != thirds[2].rgba);
}

// Large words before a turned wall of the same, their sizes swapped over the loop, twelve pictures a second.
void TestRunJobs::heroWordsAndHandMade() {
  Room room;
  room.hands.addLayer(QStringLiteral("Title"));
  const Id title = room.top().id;
  room.hands.count();
  room.w.commands().action(QStringLiteral("wall"))->trigger();
  room.w.document().setCurrentLayer(title);
  turn();
  room.hands.count();  // the pile's row
  room.swings("words", "size");
  room.hands.key(Qt::Key_F, Qt::ControlModifier);
  auto* hold = child<HoldRow>(room.w.findChild<QWidget*>(QStringLiteral("sheet-frame")), "holdRow");
  auto* rate = child<QComboBox>(room.w.findChild<QWidget*>(QStringLiteral("sheet-frame")), "rate");
  rate->setFocus();
  QTest::keyClicks(rate, QStringLiteral("24"));
  room.hands.count();
  room.hands.typeInto(hold->findChild<NumberField*>(), QStringLiteral("2"), true);
  told("hero words with a turned wall of the same, sizes that change, twelve pictures a second", room.hands, 15);
  QCOMPARE(room.scene().rate.value() / room.scene().hold, 12.0);
  const Layer& hero = room.top();
  QCOMPARE(hero.recipe[0].params[static_cast<std::size_t>(findParam(hero.recipe[0].spec->params, "size"))].motion.kind, MotionKind::Swing);
}

QTEST_MAIN(TestRunJobs)
#include "tst_run_jobs.moc"
