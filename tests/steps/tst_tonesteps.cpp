// Fewer tones: how many, where, and how soft.
#include <QTest>
#include <cmath>
#include <set>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// A ramp from black to white across, through tone steps.
Scene ramp(double tones, double softness) {
  Scene scene = test::oneLayer("gradient", 600, 4);
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, Stops{{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  test::addStep(scene, "tonesteps");
  test::setValue(scene, 0, 1, "tones", tones);
  test::setValue(scene, 0, 1, "softness", softness);
  return scene;
}

}  // namespace

class TestToneSteps : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void thereAreAsManyTones();
  void treadsAreEquallyWide();
  void softEdgesRiseOnceAndSmoothly();
  void blackAndWhiteStay();
};

void TestToneSteps::thereAreAsManyTones() {
  for (const int tones : {2, 3, 7, 16}) {
    const auto f = test::renderFloat(ramp(tones, 0), 0);
    std::set<int> seen;
    for (int x = 0; x < 600; ++x) {
      // A pixel upon an edge may be on its way between two.
      const double step = f.at(x, 1, 0) * (tones - 1);
      if (std::abs(step - std::round(step)) < 1e-3) seen.insert(static_cast<int>(std::lround(step)));
    }
    QCOMPARE(static_cast<int>(seen.size()), tones);
  }
}

void TestToneSteps::treadsAreEquallyWide() {
  const auto f = test::renderFloat(ramp(6, 0), 0);
  for (int x = 0; x < 600; ++x) {
    if (x % 100 < 2 || x % 100 > 97) continue;
    QVERIFY(std::abs(f.at(x, 2, 0) - (x / 100) / 5.0) < 1e-4);
  }
}

void TestToneSteps::softEdgesRiseOnceAndSmoothly() {
  double before = -1;
  double steepest = 0;
  const auto f = test::renderFloat(ramp(5, 1), 0);
  for (int x = 0; x < 600; ++x) {
    const double v = f.at(x, 0, 0);
    QVERIFY(v >= before - 1e-6);
    if (x > 0) steepest = std::max(steepest, v - before);
    before = v;
  }
  QVERIFY2(steepest < 0.006, qPrintable(QString::number(steepest)));
}

void TestToneSteps::blackAndWhiteStay() {
  for (const double softness : {0.0, 0.5, 1.0}) {
    const auto f = test::renderFloat(ramp(4, softness), 0);
    QVERIFY(f.at(0, 0, 0) < 1e-3 && f.at(599, 0, 0) > 0.999);
  }
}

QTEST_GUILESS_MAIN(TestToneSteps)
#include "tst_tonesteps.moc"
