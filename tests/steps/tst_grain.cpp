// Grain: its strength, size, colours, and stills that are held and come home.
#include <QTest>
#include <cmath>
#include <set>

#include "scene/plan.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene grain(double amount, double size = 1, int width = 256, int height = 128) {
  Scene scene = test::oneLayer("flat", width, height, 24);
  test::setValue(scene, 0, 0, "colour", Colour{0.5f, 0.5f, 0.5f, 1});
  test::addStep(scene, "grain");
  test::setValue(scene, 0, 1, "amount", amount);
  test::setValue(scene, 0, 1, "size", size);
  return scene;
}

}  // namespace

class TestGrain : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void tonesAreEvenlySpread();
  void sizeIsTheWidthOfAGrain();
  void stillsAreHeldAndComeHome();
  void greyOrColoured();
  void blackWhiteAndTransparencyAreKept();
  void smallPicturesShowLessOfFineGrain();
  void everyFrameOfTheLoopIsRendered();
};

void TestGrain::tonesAreEvenlySpread() {
  const auto f = test::renderFloat(grain(0.2), 0);
  // Uniform from 0.3 to 0.7: the deviation of its width over the root of 12.
  QVERIFY(std::abs(test::meanOf(f, 0) - 0.5) < 0.005);
  QVERIFY(std::abs(test::deviationOf(f, 0) - 0.4 / std::sqrt(12.0)) < 0.003);
  // Neighbours know nothing of each other.
  double sum = 0;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x + 1 < f.width; ++x) sum += (f.at(x, y, 0) - 0.5) * (f.at(x + 1, y, 0) - 0.5);
  QVERIFY(std::abs(sum / (255.0 * 128)) < 0.02 * 0.4 * 0.4 / 12);
}

void TestGrain::sizeIsTheWidthOfAGrain() {
  const auto f = test::renderFloat(grain(0.3, 4), 0);
  for (int y = 0; y < 128; ++y)
    for (int x = 0; x < 256; ++x) QCOMPARE(f.at(x, y, 0), f.at(x / 4 * 4, y / 4 * 4, 0));
  std::set<float> tones;
  for (int x = 0; x < 256; x += 4) tones.insert(f.at(x, 0, 0));
  QVERIFY(tones.size() > 60);
}

void TestGrain::stillsAreHeldAndComeHome() {
  Scene scene = grain(0.3);
  test::setValue(scene, 0, 1, "held", 5.0);  // 24 frames: the last still is one frame shorter
  std::vector<test::FloatFrame> frames;
  for (int k = 0; k < 24; ++k) frames.push_back(test::renderFloat(scene, k));
  for (int k = 0; k < 24; ++k)
    for (int other = 0; other < k; ++other)
      QCOMPARE(frames[static_cast<std::size_t>(k)].rgba == frames[static_cast<std::size_t>(other)].rgba, k / 5 == other / 5);
  QVERIFY(test::renderFloat(scene, 24).rgba == frames[0].rgba);
  test::setValue(scene, 0, 1, "held", 0.0);
  QVERIFY(test::renderFloat(scene, 0).rgba == test::renderFloat(scene, 17).rgba);
}

void TestGrain::greyOrColoured() {
  Scene scene = grain(0.3);
  const auto grey = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < grey.rgba.size(); i += 4) QVERIFY(grey.rgba[i] == grey.rgba[i + 1] && grey.rgba[i] == grey.rgba[i + 2]);
  test::setValue(scene, 0, 1, "coloured", true);
  const auto coloured = test::renderFloat(scene, 0);
  double sum = 0;
  for (std::size_t i = 0; i < coloured.rgba.size(); i += 4)
    sum += (static_cast<double>(coloured.rgba[i]) - 0.5) * (static_cast<double>(coloured.rgba[i + 1]) - 0.5);
  QVERIFY(std::abs(sum / (256.0 * 128)) < 0.03 * 0.6 * 0.6 / 12);
}

void TestGrain::blackWhiteAndTransparencyAreKept() {
  for (const Colour& colour : {Colour{0, 0, 0, 1}, Colour{1, 1, 1, 1}, Colour{0.2f, 0.9f, 0.5f, 0.25f}, Colour{1, 0, 0, 0}}) {
    Scene scene = grain(1);
    scene.background.reset();
    test::setValue(scene, 0, 0, "colour", colour);
    const auto f = test::renderFloat(scene, 0);
    for (std::size_t i = 0; i < f.rgba.size(); i += 4) {
      QVERIFY(std::abs(f.rgba[i + 3] - colour.a) < 1e-6f);
      for (std::size_t c = 0; c < 3; ++c) QVERIFY(f.rgba[i + c] >= 0 && f.rgba[i + c] <= f.rgba[i + 3] + 1e-6f);
    }
  }
}

void TestGrain::smallPicturesShowLessOfFineGrain() {
  const Scene scene = grain(0.3);
  const double full = test::deviationOf(test::renderFloat(scene, 0), 0);
  const double half = test::deviationOf(test::renderFloat(scene, 0, 128, 64), 0);
  const double averaged = test::deviationOf(test::halved(test::renderFloat(scene, 0)), 0);
  QVERIFY2(std::abs(half - averaged) < 0.1 * averaged && half < 0.6 * full, qPrintable(QString::number(half)));
}

void TestGrain::everyFrameOfTheLoopIsRendered() {
  // Something else repeats four times a loop; the grain does not.
  Scene scene = grain(0.3);
  scene.layers.push_back(newLayer(*findStep("noise"), "quick"));
  for (Param& p : scene.layers[1].recipe[0].params) p.motion.laps = 4;
  QCOMPARE(distinctFrames(scene), std::int64_t{24});
  scene.layers.erase(scene.layers.begin());
  QCOMPARE(distinctFrames(scene), std::int64_t{6});
}

QTEST_GUILESS_MAIN(TestGrain)
#include "tst_grain.moc"
