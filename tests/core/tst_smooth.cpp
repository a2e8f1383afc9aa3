// What is smooth is worked out every few pixels: nobody may tell.
#include <QtTest>

#include "graph/puller.h"
#include "render/reference.h"
#include "scene/place.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

class TestSmooth : public QObject {
  Q_OBJECT
 private slots:
  void bentOnesAgreeWithThePlainPath_data();
  void bentOnesAgreeWithThePlainPath();
  void partsFitTogether();
  void waysAreKept();
  void edgesAreKept();
  void wideBlursOfLightAgreeWithThePlainPath();
  void hiddenLayersAreNotMade();
};

namespace {

// Broad noise in colours that run into each other, as large as scenes are.
Scene broadScene() {
  Scene scene = test::oneLayer("noise", 1920, 1080, 48);
  test::setValue(scene, 0, 0, "cell", 420.0);
  test::setValue(scene, 0, 0, "detail", 2.0);
  return scene;
}

// Parts of the plane as fine as the frame is shown, here and there.
std::vector<PlaneView> parts(const Scene& scene) {
  const PlaneView whole = PlaneView::cover(scene.width, scene.height, scene.width, scene.height);
  return {whole.part(300, 200, 64, 36), whole.part(912, 510, 64, 36), whole.part(1700, 900, 64, 36)};
}

}  // namespace

void TestSmooth::bentOnesAgreeWithThePlainPath_data() {
  QTest::addColumn<QString>("step");
  QTest::addColumn<bool>("coloured");
  for (const char* step : {"swirl", "ripple", "bulge", "tilt", "hinge", "cloth", "warp"})
    for (const bool coloured : {false, true})
      QTest::newRow(qPrintable(QString("%1, %2").arg(step, coloured ? "a picture" : "a field"))) << step << coloured;
}

void TestSmooth::bentOnesAgreeWithThePlainPath() {
  QFETCH(QString, step);
  QFETCH(bool, coloured);
  Scene scene = broadScene();
  if (coloured) test::addStep(scene, "colourmap");
  test::addStep(scene, step.toStdString());
  for (const PlaneView& view : parts(scene)) {
    const auto fast = test::renderFloat(scene, 5, view);
    const auto d = test::compare(fast, referenceFrame(scene, 5, view));
    QVERIFY2(d.largest < 0.02, qPrintable(QString::number(d.largest)));
    QVERIFY2(d.mean < 0.002, qPrintable(QString::number(d.mean)));
  }
}

void TestSmooth::partsFitTogether() {
  Scene scene = broadScene();
  test::addStep(scene, "colourmap");
  test::addStep(scene, "swirl");
  const PlaneView whole = PlaneView::cover(1920, 1080, 1920, 1080);
  const auto all = test::renderFloat(scene, 3, whole);
  const PlaneView part = whole.part(531, 277, 203, 97);
  const auto own = test::renderFloat(scene, 3, part);
  const double largest = test::compare(test::cut(all, 531, 277, 203, 97), own).largest;
  QVERIFY2(largest < 2e-3, qPrintable(QString::number(largest)));
}

// What has a direction of its own keeps it where its layer is turned.
void TestSmooth::waysAreKept() {
  Scene scene = broadScene();
  test::addStep(scene, "blur");
  test::setValue(scene, 0, 1, "across", 240.0);
  test::setValue(scene, 0, 1, "down", 4.0);
  test::setValue(scene, 0, 1, "edges", std::string("beyond"));
  Scene turned = scene;
  turned.layers[0].place = defaultPlace();
  turned.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = 90.0;
  // A quarter of a turn shows the same pixels in other places.
  const PlaneView view = PlaneView::cover(1920, 1080, 1920, 1080);
  const auto flat = test::renderFloat(scene, 5, view.part(928, 508, 64, 64));
  const auto upright = test::renderFloat(turned, 5, view.part(928, 508, 64, 64));
  double largest = 0;
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 64; ++x) largest = std::max(largest, static_cast<double>(std::abs(flat.at(x, y, 0) - upright.at(63 - y, x, 0))));
  QVERIFY2(largest < 5e-3, qPrintable(QString::number(largest)));
}

// Where stops lie at one place, colours part by an edge: that is as sharp behind a lens as before it.
void TestSmooth::edgesAreKept() {
  Scene scene = broadScene();
  test::addStep(scene, "colourmap");
  test::setStops(scene, 0, 1, {{0, {0, 0, 0, 1}}, {0.5, {0, 0, 0, 1}}, {0.5, {1, 1, 1, 1}}, {1, {1, 1, 1, 1}}});
  test::addStep(scene, "bulge");
  const auto sharp = test::renderFloat(scene, 5, 1920, 1080);
  long between = 0;
  long edges = 0;
  for (int y = 0; y < 1080; y += 3)
    for (int x = 1; x < 1920; ++x) {
      const auto at = [&](int px) { return sharp.at(px, y, 0); };
      between += at(x) > 0.1f && at(x) < 0.9f;
      edges += (at(x) > 0.5f) != (at(x - 1) > 0.5f);
    }
  QVERIFY(edges > 200);
  QVERIFY2(between < 3 * edges, qPrintable(QString("%1 %2").arg(between).arg(edges)));
}

// Their light is encoded every few pixels only. Near the frame's edge as well, where there is no sample beyond.
void TestSmooth::wideBlursOfLightAgreeWithThePlainPath() {
  for (const double across : {40.0, 64.0}) {
    Scene scene = test::oneLayer("pattern", 160, 90, 24);
    test::addStep(scene, "colourmap");
    test::addStep(scene, "blur");
    test::setValue(scene, 0, 2, "across", across);
    test::setValue(scene, 0, 2, "down", across / 2);
    const auto d = test::compare(test::renderFloat(scene, 5, 160, 90), referenceFrame(scene, 5, 160, 90));
    QVERIFY2(d.largest < 0.02, qPrintable(QString("%1: %2").arg(across).arg(d.largest)));
    QVERIFY2(d.mean < 0.003, qPrintable(QString("%1: %2").arg(across).arg(d.mean)));
  }
}

void TestSmooth::hiddenLayersAreNotMade() {
  Scene scene = test::oneLayer("noise");
  const auto alone = test::renderFloat(scene, 5, 192, 108);
  // Below one that is opaque nothing is asked for, in groups that are seen through as well; below one that is not, everything is.
  Scene both = scene;
  both.layers.push_back(test::oneLayer("flat").layers.front());
  both.layers.back().id = 900;
  both.layers.back().recipe.front().id = 901;
  const PlaneView view = PlaneView::cover(192, 108, 192, 108);
  const auto stages = [&](const Scene& s) {
    const Plan planned(s);
    const Puller puller(planned, nullptr, nullptr);
    return puller.scene(view, Moment{5, s.frames, 5, 1})->stages();
  };
  QCOMPARE(stages(scene), std::size_t{1});
  QCOMPARE(stages(both), std::size_t{1});
  both.layers.back().opacity.base = 0.5;
  QCOMPARE(stages(both), std::size_t{2});
  both.layers.back().visible = false;
  QVERIFY(test::renderFloat(both, 5, 192, 108).rgba == alone.rgba);
}

QTEST_GUILESS_MAIN(TestSmooth)
#include "tst_smooth.moc"
