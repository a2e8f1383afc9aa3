// Finishing by hand in the real window: the gallery and its variants, places in the picture, and jobs with their actions counted.
#include <QLineEdit>
#include <QScrollArea>
#include <algorithm>

#include "render/frames.h"
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
  explicit Room(const char* source) {
    Scene scene;
    scene.rate = {30, 1};
    scene.frames = 240;
    scene.layers.push_back(newLayer(*findStep(source), "Ground"));
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
  void variantsAreFoundByName();
  void aCentreIsDraggedInThePicture();
  void aLayerThatPushesIsChosen();
  void cellsOutOfAFold();
  void pointsWarpedAndSwirled();
  void aTitleBentByDroplets();
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

QTEST_MAIN(TestFinishing)
#include "tst_finishing.moc"
