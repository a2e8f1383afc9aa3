// Vignette: the middle stays, the corners sink, in the shape and at the place asked for.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene vignette(int width = 320, int height = 180) {
  Scene scene = test::oneLayer("flat", width, height);
  test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 1});
  test::addStep(scene, "vignette");
  test::setValue(scene, 0, 1, "amount", 1.0);
  test::setValue(scene, 0, 1, "colour", Colour{0, 0, 0, 1});
  return scene;
}

}  // namespace

class TestVignette : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theMiddleStaysAndCornersSink();
  void amountIsTheStrength();
  void shapeFollowsRoundness();
  void itLiesAboutItsCentre();
  void transparencyStays();
};

void TestVignette::theMiddleStaysAndCornersSink() {
  const auto f = test::renderFloat(vignette(), 0);
  QVERIFY(f.at(160, 90, 0) > 0.999f);
  QVERIFY(f.at(0, 0, 0) < 0.2f && f.at(319, 179, 0) < 0.2f);
  // Outwards it only gets darker.
  for (int x = 160; x + 1 < 320; ++x) QVERIFY(f.at(x + 1, 90, 0) <= f.at(x, 90, 0) + 1e-6f);
  for (int x = 0; x < 320; ++x) QVERIFY(std::abs(f.at(x, 30, 0) - f.at(319 - x, 149, 0)) < 1e-4f);
}

void TestVignette::amountIsTheStrength() {
  Scene scene = vignette();
  const auto full = test::renderFloat(scene, 0);
  test::setValue(scene, 0, 1, "amount", 0.25);
  const auto quarter = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < full.rgba.size(); i += 4) QVERIFY(std::abs((1 - quarter.rgba[i]) - 0.25f * (1 - full.rgba[i])) < 1e-4f);
  test::setValue(scene, 0, 1, "amount", 0.0);
  for (const float v : test::renderFloat(scene, 0).rgba) QCOMPARE(v, 1.0f);
}

void TestVignette::shapeFollowsRoundness() {
  Scene scene = vignette();
  test::setValue(scene, 0, 1, "size", 0.5);
  // Follows the frame: as dark at a share of the width as at the same share of the height.
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(std::abs(f.at(160 + 120, 90, 0) - f.at(160, 90 + 67, 0)) < 0.02f);
  // Round: as dark at equal distances.
  test::setValue(scene, 0, 1, "roundness", 1.0);
  const auto g = test::renderFloat(scene, 0);
  for (int r = 0; r < 89; ++r) QVERIFY(std::abs(g.at(160 + r, 90, 0) - g.at(160, 90 + r, 0)) < 0.01f);
}

void TestVignette::itLiesAboutItsCentre() {
  Scene scene = vignette();
  test::setValue(scene, 0, 1, "size", 0.3);
  test::setValue(scene, 0, 1, "centre", Point{0.25, 0.5});
  const auto f = test::renderFloat(scene, 0);
  int brightest = 0;
  for (int x = 0; x < 320; ++x)
    if (f.at(x, 90, 0) > f.at(brightest, 90, 0)) brightest = x;
  QVERIFY(f.at(80, 90, 0) > 0.99f && f.at(300, 90, 0) < 0.01f && brightest < 160);
}

void TestVignette::transparencyStays() {
  Scene scene = vignette();
  scene.background.reset();
  test::setValue(scene, 0, 0, "colour", Colour{1, 0.5f, 0, 0.5f});
  const auto f = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < f.rgba.size(); i += 4) {
    QVERIFY(std::abs(f.rgba[i + 3] - 0.5f) < 1e-6f);
    QVERIFY(f.rgba[i] <= f.rgba[i + 3] + 1e-6f);
  }
}

QTEST_GUILESS_MAIN(TestVignette)
#include "tst_vignette.moc"
