// What is shown is what is there: half-transparent grounds, joints that cannot be seen, scenes that look the same, memory that is
// told before it is used.
#include <QTest>
#include <cmath>

#include "check/joint.h"
#include "media/export.h"
#include "media/frame_source.h"
#include "render/budget.h"
#include "render/frames.h"
#include "scene/looks.h"
#include "simd/cell_field.h"
#include "support/scenes.h"

using namespace oa;

class TestTruth : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void halfTransparentGroundsAreTheSameInBothDepths();
  void whatCannotBeSeenDoesNotCountFully();
  void aMeterInStepsIsTheCheck();
  void namesAndLocksShowInNoPicture();
  void tooLargeScenesAreRefusedByName();
  void countsDoNotOverflow();
  void cellsStayBoundedByThePicture_data();
  void cellsStayBoundedByThePicture();
  void cellPointsAreTheSameWhereverTheyAreKept();
};

void TestTruth::halfTransparentGroundsAreTheSameInBothDepths() {
  Scene scene = test::oneLayer("gradient", 96, 54);
  scene.background = Colour{0.8f, 0.3f, 0.1f, 0.4f};
  scene.layers[0].opacity.base = 0.35;
  Renderer renderer(scene, 96, 54);
  Frame8 eight;
  Frame16 sixteen;
  renderInto(renderer, 0, Alpha::Straight, eight);
  renderInto(renderer, 0, sixteen);
  double worst = 0;
  for (std::size_t i = 0; i < eight.rgba.size(); ++i) worst = std::max(worst, std::abs(eight.rgba[i] - sixteen.rgba[i] / 257.0));
  // Dither moves a value by less than a level; straight against premultiplied would be a hundred.
  QVERIFY2(worst <= 1.01, qPrintable(QString::number(worst)));
  QVERIFY(eight.rgba[3] < 255 && eight.rgba[3] > 100);
}

void TestTruth::whatCannotBeSeenDoesNotCountFully() {
  // Nearly clear pixels that change their colour wildly against opaque ones that move a little.
  Scene clear = test::oneLayer("noise", 96, 54, 24);
  clear.background.reset();
  test::setValue(clear, 0, 0, "contrast", 6.0);
  test::param(clear, 0, 0, "churn").motion = test::turn(3);
  Scene faint = clear;
  faint.layers[0].opacity.base = 0.01;
  const double full = checkJoint(clear, false).scene.median;
  const double seen = checkJoint(faint, false).scene.median;
  QVERIFY2(full > 1 && seen < full * 0.02, qPrintable(QStringLiteral("%1, %2").arg(full).arg(seen)));
}

void TestTruth::aMeterInStepsIsTheCheck() {
  const Scene scene = test::demoScene("dusk.overagain");
  JointMeter meter(scene);
  int steps = 1;
  while (meter.step()) ++steps;
  QVERIFY(steps > 90);
  const JointReport whole = checkJoint(scene, false).scene;
  QCOMPARE(meter.report().joint, whole.joint);
  QCOMPARE(meter.report().median, whole.median);
  QCOMPARE(meter.report().clean, whole.clean);
}

void TestTruth::namesAndLocksShowInNoPicture() {
  const Scene scene = test::demoScene("dusk.overagain");
  Scene other = scene;
  other.name = "x";
  other.layers[0].name = "y";
  other.layers[0].locked = true;
  other.palette.colours = {Colour{}};
  other.extra = "{\"k\":1}";
  QVERIFY(looksSame(scene, other));
  for (const auto& change : std::initializer_list<std::function<void(Scene&)>>{
           [](Scene& s) { s.frames += 1; }, [](Scene& s) { s.layers[0].visible = false; }, [](Scene& s) { s.layers[0].opacity.base = 0.3; },
           [](Scene& s) { s.background.reset(); }, [](Scene& s) { s.linearLight = true; }, [](Scene& s) { s.layers.pop_back(); },
           [](Scene& s) { s.layers[1].recipe[0].params[1].base = 77.0; }, [](Scene& s) { s.layers[0].blend = BlendMode::Screen; }}) {
    Scene different = scene;
    change(different);
    QVERIFY(!looksSame(scene, different));
  }
}

void TestTruth::tooLargeScenesAreRefusedByName() {
  Scene scene = test::oneLayer("noise", 8192, 8192);
  scene.layers[0].name = "Plain fog";
  scene.layers.push_back(scene.layers[0]);
  scene.layers[1].name = "Blurred fog";
  scene.layers[1].recipe.push_back(newStep(*findStep("blur")));
  QVERIFY(fitsBudget(scene, 640, 360).has_value());
  const auto refused = fitsBudget(scene, 8192, 8192, std::size_t{1} << 30);
  QVERIFY(!refused);
  const std::string said = refused.error().sentence();
  QVERIFY2(said.find("\"Blurred fog\"") != std::string::npos && said.find("GiB") != std::string::npos, said.c_str());
  // What is hidden needs nothing.
  scene.layers[1].visible = false;
  QVERIFY(memoryNeed(scene, 8192, 8192).bytes < memoryNeed(
                                                    [&] {
                                                      Scene s = scene;
                                                      s.layers[1].visible = true;
                                                      return s;
                                                    }(),
                                                    8192, 8192)
                                                        .bytes /
                                                    2);
  // The estimate is above what is really used: planes that a blur at this size holds, in bytes.
  QVERIFY(memoryNeed(scene, 1920, 1080).bytes > 0);
}

void TestTruth::countsDoNotOverflow() {
  Scene scene = test::oneLayer("noise", 16, 16, 1000000);
  test::param(scene, 0, 0, "churn").motion = test::turn(1);
  ExportSettings settings;
  settings.path = "x.mp4";
  settings.loops = 3000;
  const auto many = planExport(scene, settings);
  QVERIFY(!many && many.error().message.find("frames") != std::string::npos);
  settings.loops = 100;
  QCOMPARE(planExport(scene, settings)->frames(), std::int64_t{100000000});
  settings.loops = 1;
  for (const auto& [first, last] : std::initializer_list<std::pair<std::int64_t, std::int64_t>>{
           {INT64_MIN, INT64_MAX}, {INT64_MIN, INT64_MIN + 1}, {INT64_MAX - 1, INT64_MAX}, {0, INT64_MAX}, {INT64_MIN, 0}, {5, 4}}) {
    settings.range = {first, last};
    QVERIFY(!planExport(scene, settings).has_value());
  }
  settings.range = {-1, 0};
  QCOMPARE(planExport(scene, settings)->first(), std::int64_t{999999});
  QCOMPARE(planExport(scene, settings)->rendered(), std::int64_t{2});
}

void TestTruth::cellsStayBoundedByThePicture_data() {
  QTest::addColumn<double>("rest");
  QTest::addColumn<double>("swungTo");
  QTest::addColumn<double>("stretch");
  QTest::newRow("a swing down to the smallest") << 8192.0 << 8.0 << 1.0;
  QTest::newRow("the smallest, stretched") << 8.0 << 8.0 << 0.0;
  QTest::newRow("the smallest, drawn long") << 8.0 << 8.0 << 1e9;
}

void TestTruth::cellsStayBoundedByThePicture() {
  QFETCH(double, rest);
  QFETCH(double, swungTo);
  QFETCH(double, stretch);
  const StepSpec& cells = *findStep("cells");
  for (const int layers : {1, 5}) {
    Scene scene = test::oneLayer("cells", 8192, 8192, 2);
    const ParamSpec& wide = cells.params[static_cast<std::size_t>(findParam(cells.params, "stretch"))];
    test::setValue(scene, 0, 0, "cell", rest);
    test::setValue(scene, 0, 0, "stretch", std::clamp(stretch, wide.min, wide.max));
    test::setValue(scene, 0, 0, "layers", static_cast<double>(layers));
    test::param(scene, 0, 0, "cell").motion = test::swing(swungTo);
    const PlaneView frame = PlaneView::cover(8192, 8192, 117, 5);
    const StepContext context(cells.params, scene.layers[0].recipe[0].params, {1, 2}, frame);
    // Tables of a tile of 8192 x 8192 pixels were gigabytes; a picture of 117 x 5 needs no more than its pixels.
    QVERIFY(cells.bytes(context) <= sizeof(CellPoint) * (117 + 80.0) * (5 + 32.0) * layers + 1);
    const Frame8 picture = oa::frame(scene, 1, 117, 5);
    QCOMPARE(picture.rgba.size(), std::size_t{117 * 5 * 4});
  }
}

void TestTruth::cellPointsAreTheSameWhereverTheyAreKept() {
  CellSettings settings;
  settings.ux = settings.vy = 0.05;
  settings.u0 = -3.3;
  settings.v0 = 7.1;
  settings.periodX = 400;
  settings.periodY = 300;
  const CellField whole(settings);
  settings.width = 64;
  settings.height = 48;
  const CellField window(settings);
  QCOMPARE(whole.points(), std::size_t{400 * 300});
  QVERIFY(window.points() < 1000);
  for (std::int64_t y = -20; y < 40; ++y)
    for (std::int64_t x = -20; x < 40; ++x) {
      const CellPoint a = whole.pointOf(x, y);
      const CellPoint b = window.pointOf(x, y);
      QVERIFY(a.x == b.x && a.y == b.y && a.tone == b.tone);
    }
}

QTEST_GUILESS_MAIN(TestTruth)
#include "tst_truth.moc"
