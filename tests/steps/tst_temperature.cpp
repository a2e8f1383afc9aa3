// Temperature: nothing at nothing, warm is redder and less blue, greys are as light as they were, there and back.
#include <QTest>
#include <cmath>

#include "image/colour.h"
#include "support/lens.h"

using namespace oa;

namespace {

std::array<double, 3> seen(double warmth, double tint) {
  Scene scene = test::stepOn("flat", "temperature", [&](const auto& set) { set("warmth", warmth), set("tint", tint); });
  test::setValue(scene, 0, 0, "colour", Colour{0.5f, 0.5f, 0.5f, 1});
  const auto f = test::renderFloat(scene, 0);
  return {static_cast<double>(f.at(3, 3, 0)), static_cast<double>(f.at(3, 3, 1)), static_cast<double>(f.at(3, 3, 2))};
}

}  // namespace

class TestTemperature : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void nothingIsTheSameToTheByte();
  void warmColdRoseAndGreen();
  void greysAreAsLight();
};

void TestTemperature::nothingIsTheSameToTheByte() {
  const Scene scene = test::stepOn("gradient", "temperature", [](const auto& set) { set("warmth", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestTemperature::warmColdRoseAndGreen() {
  const auto warm = seen(0.6, 0), cold = seen(-0.6, 0), rose = seen(0, 0.6), green = seen(0, -0.6);
  QVERIFY(warm[0] > warm[1] && warm[1] > warm[2] && cold[2] > cold[1] && cold[1] > cold[0]);
  QVERIFY(rose[1] < rose[0] && rose[1] < rose[2] && green[1] > green[0] && green[1] > green[2]);
}

void TestTemperature::greysAreAsLight() {
  for (const double warmth : {-1.0, -0.3, 0.5, 1.0}) {
    const auto p = seen(warmth, warmth / 2);
    double sum = 0;
    for (std::size_t k = 0; k < 3; ++k) sum += static_cast<double>(kLuma[k]) * p[k];
    QVERIFY(std::abs(sum - 0.5) < 1e-4);
  }
}

QTEST_GUILESS_MAIN(TestTemperature)
#include "tst_temperature.moc"
