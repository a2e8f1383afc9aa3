// Finishing by hand in the real window: the gallery and its variants, places in the picture, and jobs with their actions counted.
#include <QLineEdit>
#include <QScrollArea>
#include <QToolButton>
#include <algorithm>

#include "edit/timing.h"
#include "render/frames.h"
#include "scene/plan.h"
#include "sheets/passage_gallery.h"
#include "sheets/step_gallery.h"
#include "support/counted.h"
#include "support/pictures.h"
#include "support/room.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

struct Room {
  Window w;
  Hands hands{w};
  explicit Room(const char* source, const char* over = nullptr) {
    Scene scene;
    scene.rate = {30, 1};
    scene.frames = 240;
    scene.layers.push_back(newLayer(*findStep(source), "Ground"));
    if (over) scene.layers.push_back(newLayer(*findStep(over), "Over it"));
    showWith(w, &scene);
  }
  const Scene& scene() { return w.document().scene(); }
  const Layer& top() { return scene().layers.back(); }
  void openSteps() {
    hands.key(Qt::Key_T, Qt::ControlModifier);
    QTRY_VERIFY(w.stepGallery().isVisible());
  }
  // A card of the gallery, which is scrolled to where it is not seen.
  void pick(const char* step, const char* variant = "") {
    StepGallery& gallery = w.stepGallery();
    const int card = gallery.cardOf(step, variant);
    QVERIFY2(card >= 0, step);
    turn();
    if (gallery.card(card)->visibleRegion().isEmpty()) {
      hands.count();
      gallery.findChild<QScrollArea*>()->ensureWidgetVisible(gallery.card(card));
      QTRY_VERIFY(!gallery.card(card)->visibleRegion().isEmpty());
    }
    hands.click(gallery.card(card));
    QTRY_VERIFY(!gallery.isVisible());
  }
  void addStep(const char* step) {
    openSteps();
    pick(step);
    QCOMPARE(top().recipe.back().spec->id, std::string_view(step));
  }
  // By the name of one of its variants: a few found by name show theirs.
  void addVariant(const char* step, const char* variant) {
    openSteps();
    hands.count();
    QTest::keyClicks(w.stepGallery().search(), QLatin1String(variant));
    pick(step, variant);
  }
  oa::test::FloatFrame picture(std::int64_t k) { return oa::test::renderFloat(scene(), k, 320, 180); }
};

}  // namespace

class TestFinishing : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void everyStepIsOfferedWithThreeVariants();
  void changedColoursAreSeenBesideWhatWas();
  void whatShowsTheLayersBelowIsShownOverThem();
  void variantsAreFoundByName();
  void aCentreIsDraggedInThePicture();
  void aLayerThatPushesIsChosen();
  void cellsOutOfAFold();
  void pointsWarpedAndSwirled();
  void aTitleBentByDroplets();
  void sixBallsThatWearTheGround();
};

void TestFinishing::everyStepIsOfferedWithThreeVariants() {
  Room room("noise");
  room.openSteps();
  StepGallery& gallery = room.w.stepGallery();
  const int plain = gallery.count();
  room.hands.click(gallery.variants());
  int more = 0;
  for (const StepSpec* step : allSteps()) {
    for (const StepVariant& variant : step->variants) {
      const int card = gallery.cardOf(step->id, variant.name);
      QVERIFY2(card >= 0, variant.name.data());
      QVERIFY(!gallery.card(card)->toolTip().isEmpty() && gallery.card(card)->accessibleName().contains(QString::fromUtf8(variant.name)));
      ++more;
    }
    // What came with finishing has three of its own.
    const auto groups = {"light", "bend", "fold", "body", "surface"};
    const bool finishing = std::any_of(groups.begin(), groups.end(), [&](std::string_view g) { return g == step->group; });
    if (finishing && step->id != "warp" && step->id != "seamless" && step->id != "grain" && step->id != "pixelate")
      QVERIFY2(step->variants.size() >= 3, step->id.data());
  }
  QVERIFY2(more >= 80 && gallery.count() == plain + more, qPrintable(QString::number(more)));
  // And all of them at work.
  QTRY_VERIFY_WITH_TIMEOUT(gallery.heldFrames() >= gallery.count(), 60000);
}

void TestFinishing::changedColoursAreSeenBesideWhatWas() {
  // One colour: where it is bent it stays what it is, so nothing but the step's own colours differs from place to place.
  Room room("flat");
  room.openSteps();
  StepGallery& gallery = room.w.stepGallery();
  QTRY_VERIFY_WITH_TIMEOUT(gallery.heldFrames() >= gallery.count(), 60000);
  const auto seen = [&](const char* step, double across) {
    const QImage card = gallery.card(gallery.cardOf(step))->grab().toImage();
    return card.pixelColor(static_cast<int>(card.width() * across), card.height() * 2 / 5);
  };
  const QColor was = seen("swirl", 0.25);
  QCOMPARE(seen("swirl", 0.75), was);
  for (const char* step : {"temperature", "colourmap"}) {
    QCOMPARE(seen(step, 0.25), was);
    QVERIFY2(seen(step, 0.75) != was, step);
  }
  // What is done to the picture is seen in all of it.
  QCOMPARE(seen("glow", 0.25), seen("glow", 0.75));
}

void TestFinishing::whatShowsTheLayersBelowIsShownOverThem() {
  Room room("flat", "below");
  const auto ground = room.picture(0);
  room.openSteps();
  StepGallery& gallery = room.w.stepGallery();
  QTRY_VERIFY_WITH_TIMEOUT(gallery.heldFrames() >= gallery.count(), 60000);
  const QImage card = gallery.card(gallery.cardOf("swirl"))->grab().toImage();
  const QColor seen = card.pixelColor(card.width() / 2, card.height() * 2 / 5);
  QVERIFY(std::abs(seen.redF() - ground.at(160, 90, 0)) < 0.01 && std::abs(seen.blueF() - ground.at(160, 90, 2)) < 0.01);
}

void TestFinishing::variantsAreFoundByName() {
  Room room("noise");
  room.addVariant("swirl", "Drain");
  const RecipeStep& swirl = room.top().recipe.back();
  QCOMPARE(std::get<double>(swirl.params[static_cast<std::size_t>(findParam(swirl.spec->params, "angle"))].base), 720.0);
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(room.top().recipe.size(), std::size_t{1});
  // One that moves brings its motion.
  room.addVariant("glow", "Breathing");
  const RecipeStep& glow = room.top().recipe.back();
  QCOMPARE(glow.params[static_cast<std::size_t>(findParam(glow.spec->params, "amount"))].motion.kind, MotionKind::Swing);
}

void TestFinishing::aCentreIsDraggedInThePicture() {
  Room room("noise");
  room.addStep("bulge");
  const auto centre = [&] {
    const RecipeStep& step = room.top().recipe.back();
    return std::get<Point>(step.params[static_cast<std::size_t>(findParam(step.spec->params, "centre"))].base);
  };
  const QRectF frame = room.w.view().frameRect();
  const auto before = room.picture(0);
  drag(&room.w.view(), frame.center(), frame.center() + QPointF(frame.width() * 0.2, -frame.height() * 0.15));
  QVERIFY2(std::abs(centre().x - 0.7) < 0.03 && std::abs(centre().y - 0.35) < 0.03,
           qPrintable(QStringLiteral("%1, %2").arg(centre().x).arg(centre().y)));
  QVERIFY(oa::test::compare(room.picture(0), before).mean > 1e-3);
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(centre(), (Point{0.5, 0.5}));
}

void TestFinishing::aLayerThatPushesIsChosen() {
  Room room("noise");
  room.hands.addLayer(QStringLiteral("Colour points"));
  room.addStep("push");
  const auto before = room.picture(3);
  room.hands.choose("push", "layer", QStringLiteral("Ground"));
  QCOMPARE(std::get<double>(room.top().recipe.back().params[0].base), double(room.scene().layers[0].id));
  QVERIFY(oa::test::compare(room.picture(3), before).mean > 1e-4);
  // What a layer looks at cannot look back.
  QVERIFY(room.w.document().performHere(QStringLiteral("remove"), [](Scene& scene) -> Result<int> {
    scene.layers.erase(scene.layers.begin());
    return 0;
  }));
  QVERIFY(oa::test::allFinite(room.picture(3)));
}

void TestFinishing::cellsOutOfAFold() {
  Room room("noise");
  room.addStep("pixelate");
  room.addStep("colourmap");
  room.addStep("glow");
  room.addStep("hinge");
  told("pixelated toned noise that glows and flows out of a fold", room.hands, 10);
  QVERIFY(room.picture(240).rgba == room.picture(0).rgba);
  QVERIFY(oa::test::compare(room.picture(60), room.picture(0)).mean > 0.01);
}

void TestFinishing::pointsWarpedAndSwirled() {
  Room room("points");
  room.addStep("warp");
  room.addStep("swirl");
  told("colour points, warped and swirled", room.hands, 5);
  const auto f = room.picture(0);
  for (std::size_t i = 3; i < f.rgba.size(); i += 4) QVERIFY(f.rgba[i] > 0.999f);
}

void TestFinishing::aTitleBentByDroplets() {
  Room room("flat");
  room.hands.addLayer(QStringLiteral("Title"));
  room.addVariant("mirror", "Between two mirrors");
  room.addStep("droplets");
  room.addStep("grain");
  told("a title bent by droplets between two mirrors, with grain", room.hands, 10);
  const auto f = room.picture(0);
  // Ink in the middle, and as much of it above and below.
  const auto ink = [&](int from, int to) {
    double sum = 0;
    for (int y = from; y < to; ++y)
      for (int x = 0; x < 320; ++x) sum += std::abs(static_cast<double>(f.at(x, y, 0) - f.at(2, 2, 0)));
    return sum;
  };
  const double middle = ink(60, 120);
  QVERIFY2(middle > 100 && ink(0, 60) > 0.6 * middle && ink(120, 180) > 0.6 * middle,
           qPrintable(QStringLiteral("%1 %2 %3").arg(ink(0, 60)).arg(middle).arg(ink(120, 180))));
}

// Blobs behind, and six balls that wear them a little later, with shadows, arriving one after the other.
void TestFinishing::sixBallsThatWearTheGround() {
  Room room("flat");
  room.hands.addLayer(QStringLiteral("Colour points"));
  const Id ground = room.top().id;
  room.hands.key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  room.addStep("ball");
  room.hands.key(Qt::Key_Comma, Qt::ControlModifier);
  QTRY_VERIFY(room.w.passages().isVisible());
  const int card = room.w.passages().cardOf("Spring");
  QVERIFY(card >= 0);
  room.hands.click(room.w.passages().card(card));
  QTRY_VERIFY(!room.w.passages().isVisible());
  room.hands.key(Qt::Key_R, Qt::ControlModifier | Qt::ShiftModifier);
  auto* sheet = child<QWidget>(&room.w, "sheet-several");
  QTRY_VERIFY(sheet->isVisible());
  room.hands.click(child<QPushButton>(sheet, "primary"));
  told("background blobs and six balls that wear them a little later, arriving one after the other", room.hands, 15);
  QCOMPARE(room.scene().layers.size(), std::size_t{8});
  const Ids balls = room.w.document().selection();
  QCOMPARE(balls.size(), std::size_t{6});
  QCOMPARE(pileOf(room.w)->selectedItems().size(), 6);
  const Plan& plan = room.w.document().plan();
  const std::vector<double> delays = edit::delaysOf(plan, balls);
  for (std::size_t i = 0; i < balls.size(); ++i) {
    const Layer& ball = *findLayer(room.scene(), balls[i]);
    QCOMPARE(plan.at(plan.at(plan.indexOf(balls[i])).target).layer->id, ground);
    QVERIFY(std::abs(std::get<double>(ball.passes.arrive->params.front().base) - 0.3 * static_cast<double>(i)) < 1e-9);
    QVERIFY2(std::abs(delays[i] - static_cast<double>(i) / 24) < 1e-6, qPrintable(QString::number(delays[i])));
  }
  // Each can be seen, beside the ground alone, and none wears what another one does.
  Scene bare = room.scene();
  for (Layer& layer : bare.layers)
    if (std::find(balls.begin(), balls.end(), layer.id) != balls.end()) layer.visible = false;
  const auto with = room.picture(100);
  const auto without = oa::test::renderFloat(bare, 100, 320, 180);
  // In the box round each: what is seen of it against the other picture, or of another one against it.
  const auto differ = [&](const oa::test::FloatFrame& f, std::size_t i, const oa::test::FloatFrame& g, std::size_t k) {
    const auto left = [&](std::size_t ball) {
      const Layer& layer = *findLayer(room.scene(), balls[ball]);
      return static_cast<int>(std::lround(std::get<Point>(layer.place[static_cast<std::size_t>(PlaceParam::Position)].base).x * 320)) - 15;
    };
    double sum = 0;
    for (int y = 72; y < 102; ++y)
      for (int x = 0; x < 30; ++x)
        for (int c = 0; c < 3; ++c) sum += std::abs(static_cast<double>(f.at(left(i) + x, y, c) - g.at(left(k) + x, y, c)));
    return sum / (30 * 30 * 3);
  };
  for (std::size_t i = 0; i < balls.size(); ++i)
    QVERIFY2(differ(with, i, without, i) > 0.01, qPrintable(QString::number(differ(with, i, without, i))));
  for (std::size_t i = 1; i < balls.size(); ++i)
    QVERIFY2(differ(with, i, with, i - 1) > 1e-3, qPrintable(QString::number(differ(with, i, with, i - 1))));
  QVERIFY(room.picture(240).rgba == room.picture(0).rgba);
  // Another number, and another layout, by the keyboard: at once, and undone with the rest.
  const auto layers = [&] { return room.scene().layers.size(); };
  room.hands.typeInto(child<NumberField>(sheet, "severalCount"), QStringLiteral("4"));
  QCOMPARE(layers(), std::size_t{6});
  auto* layout = child<QComboBox>(sheet, "severalLayout");
  layout->setFocus();
  QTest::keyClick(layout, Qt::Key_Down);
  QTest::keyClick(layout, Qt::Key_Down);
  const auto place = [&](std::size_t i) {
    const Ids now = room.w.document().selection();
    return std::get<Point>(findLayer(room.scene(), now[i])->place[static_cast<std::size_t>(PlaceParam::Position)].base);
  };
  QVERIFY(std::abs(place(0).x - 0.5) < 1e-9 && std::abs(place(0).y - 0.19) < 1e-9);
  QVERIFY(std::abs(place(2).y - 0.81) < 1e-9);
  // How far they reach, as it was typed, stays for the next layout.
  room.hands.typeInto(child<NumberField>(sheet, "severalReach"), QStringLiteral("50"));
  layout->setFocus();
  QTest::keyClick(layout, Qt::Key_Up);
  QVERIFY(std::abs(place(0).x - 0.5) < 1e-9 && std::abs(place(0).y - 0.25) < 1e-9 && std::abs(place(3).y - 0.75) < 1e-9);
  // Scattered, and scattered another way.
  for (int i = 0; i < 2; ++i) QTest::keyClick(layout, Qt::Key_Down);
  const Point scattered = place(1);
  room.hands.click(child<QToolButton>(sheet, "severalDice"));
  QVERIFY(scattered != place(1));
  QCOMPARE(layers(), std::size_t{6});
  auto& history = room.w.document().history();
  while (layers() != 3) {
    QVERIFY(history.canUndo());
    history.undo();
  }
  QVERIFY(child<QPushButton>(sheet, "primary")->isVisible());
}

QTEST_MAIN(TestFinishing)
#include "tst_finishing.moc"
