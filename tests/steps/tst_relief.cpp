// Relief: level ground is as it was, what looks to the light is bright, all round, whatever the size; plaster has no tones of its own.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

// A ramp that rises across.
test::FloatFrame ramp(double direction, double height, bool down = false) {
  Scene scene = test::stepOn("gradient", "relief", [&](const auto& set) {
    set("direction", direction), set("height", height), set("rounded", 0.0), set("shine", 0.0), set("keep", 0.0);
  });
  test::setValue(scene, 0, 0, "from", down ? Point{0.5, 0} : Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", down ? Point{0.5, 1} : Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, Stops{{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  return test::renderFloat(scene, 0);
}

}  // namespace

class TestRelief : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noHeightIsTheSameToTheByte();
  void whatLooksToTheLightIsBright();
  void asLambertSays();
  void levelGroundStaysAsItWas();
};

void TestRelief::noHeightIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "relief", [](const auto& set) { set("height", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestRelief::whatLooksToTheLightIsBright() {
  // It rises to the right, so that it looks to the left.
  const double left = static_cast<double>(ramp(180, 200).at(160, 90, 0));
  const double right = static_cast<double>(ramp(0, 200).at(160, 90, 0));
  const double above = static_cast<double>(ramp(-90, 200).at(160, 90, 0));
  QVERIFY2(left > above + 0.03 && above > right + 0.03, qPrintable(QStringLiteral("%1 %2 %3").arg(left).arg(above).arg(right)));
  // Turned round by a negative height.
  QVERIFY(std::abs(static_cast<double>(ramp(180, -200).at(160, 90, 0)) - right) < 1e-3);
  QVERIFY(std::abs(static_cast<double>(ramp(-90, 112.5, true).at(160, 90, 0)) - left) < 1e-2);
}

void TestRelief::asLambertSays() {
  // From dark to light over 320 pixels, 200 high; the light stands at 48 degrees.
  const double slope = 200.0 / 320, up = 48 * kDegree;
  const double falls = (slope * std::cos(up) + std::sin(up)) / std::sqrt(1 + slope * slope) / std::sin(up);
  QVERIFY(std::abs(static_cast<double>(ramp(180, 200).at(160, 90, 0)) - 0.62 * (0.28 + 0.72 * falls)) < 3e-3);
}

void TestRelief::levelGroundStaysAsItWas() {
  for (const double keep : {1.0, 0.0}) {
    Scene scene = test::stepOn("flat", "relief", [&](const auto& set) { set("keep", keep), set("shine", 1.0); });
    const auto f = test::renderFloat(scene, 0);
    const auto bare = test::renderFloat(test::without(scene), 0);
    for (int c = 0; c < 3; ++c) QVERIFY(std::abs(f.at(50, 50, c) - (keep > 0 ? bare.at(50, 50, c) : 0.62f)) < 2e-3f);
  }
}

QTEST_GUILESS_MAIN(TestRelief)
#include "tst_relief.moc"
