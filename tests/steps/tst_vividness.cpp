// Saturation, vibrance, hue and tint by what they keep and by known values.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene vivid(const Colour& colour) {
  Scene scene = test::oneLayer("flat", 16, 16);
  test::setValue(scene, 0, 0, "colour", colour);
  test::addStep(scene, "vividness");
  return scene;
}

struct Rgb {
  double r, g, b;
  [[nodiscard]] double luma() const { return 0.2126 * r + 0.7152 * g + 0.0722 * b; }
  [[nodiscard]] double spread() const { return std::max({r, g, b}) - std::min({r, g, b}); }
};
Rgb shown(const Scene& scene) {
  const auto f = test::renderFloat(scene, 0);
  return {f.at(3, 3, 0), f.at(3, 3, 1), f.at(3, 3, 2)};
}

const Colour kTeal{0.2f, 0.5f, 0.45f, 1};

}  // namespace

class TestVividness : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void neutralIsNothing();
  void noSaturationIsTheLuma();
  void vibranceSparesTheVivid();
  void hueTurnsComeHomeAndKeepLuma();
  void greysHaveNoHue();
  void tintRunsThroughItsColour();
};

void TestVividness::neutralIsNothing() {
  const Rgb c = shown(vivid(kTeal));
  QVERIFY(std::abs(c.r - kTeal.r) < 1e-5 && std::abs(c.g - kTeal.g) < 1e-5 && std::abs(c.b - kTeal.b) < 1e-5);
}

void TestVividness::noSaturationIsTheLuma() {
  Scene scene = vivid(kTeal);
  test::setValue(scene, 0, 1, "saturation", 0.0);
  const Rgb c = shown(scene);
  const double luma = 0.2126 * 0.2 + 0.7152 * 0.5 + 0.0722 * 0.45;
  QVERIFY(std::abs(c.r - luma) < 1e-5 && c.spread() < 1e-6);
  test::setValue(scene, 0, 1, "saturation", 1.5);
  const Rgb loud = shown(scene);
  QVERIFY(std::abs(loud.spread() - 1.5 * 0.3) < 1e-5 && std::abs(loud.luma() - luma) < 1e-5);
}

void TestVividness::vibranceSparesTheVivid() {
  const auto gain = [](const Colour& colour) {
    Scene scene = vivid(colour);
    const double before = shown(scene).spread();
    test::setValue(scene, 0, 1, "vibrance", 0.5);
    return shown(scene).spread() / before;
  };
  const double pale = gain({0.5f, 0.55f, 0.5f, 1});
  const double strong = gain({0.3f, 0.7f, 0.4f, 1});
  QVERIFY2(pale > 1.45 && strong < 1.32 && strong > 1, qPrintable(QStringLiteral("%1 %2").arg(pale).arg(strong)));
}

void TestVividness::hueTurnsComeHomeAndKeepLuma() {
  const Rgb before = shown(vivid(kTeal));
  Scene scene = vivid(kTeal);
  double moved = 0;
  for (const double angle : {30.0, 90.0, 180.0, -120.0}) {
    test::setValue(scene, 0, 1, "hue", angle);
    const Rgb c = shown(scene);
    QVERIFY2(std::abs(c.luma() - before.luma()) < 2e-3, qPrintable(QString::number(c.luma())));
    moved = std::max(moved, std::abs(c.r - before.r));
  }
  QVERIFY(moved > 0.1);
  test::setValue(scene, 0, 1, "hue", 720.0);
  QVERIFY(std::abs(shown(scene).r - before.r) < 1e-5);
}

void TestVividness::greysHaveNoHue() {
  Scene scene = vivid({0.4f, 0.4f, 0.4f, 1});
  test::setValue(scene, 0, 1, "hue", 77.0);
  test::setValue(scene, 0, 1, "saturation", 3.0);
  test::setValue(scene, 0, 1, "vibrance", 1.0);
  QVERIFY(std::abs(shown(scene).r - 0.4) < 2e-3 && shown(scene).spread() < 2e-3);
}

void TestVividness::tintRunsThroughItsColour() {
  for (const float grey : {0.0f, 0.5f, 1.0f}) {
    Scene scene = vivid({grey, grey, grey, 1});
    test::setValue(scene, 0, 1, "tint", Colour{0.8f, 0.3f, 0.1f, 1});
    test::setValue(scene, 0, 1, "amount", 1.0);
    const Rgb c = shown(scene);
    if (grey == 0.5f)
      QVERIFY(std::abs(c.r - 0.8) < 1e-4 && std::abs(c.g - 0.3) < 1e-4 && std::abs(c.b - 0.1) < 1e-4);
    else
      QVERIFY(std::abs(c.r - grey) < 1e-4 && std::abs(c.g - grey) < 1e-4);
  }
}

QTEST_GUILESS_MAIN(TestVividness)
#include "tst_vividness.moc"
