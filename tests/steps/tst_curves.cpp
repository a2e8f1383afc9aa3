// Curves: the identity, known heights, channels alone, and curves that never swing beyond their points.
#include <QTest>
#include <cmath>

#include "image/tone_curve.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// A grey ramp across (or a coloured one) through curves.
Scene ramp(bool coloured) {
  Scene scene = test::oneLayer("gradient", 512, 4);
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, coloured ? Stops{{0, {0, 0.2f, 1, 1}}, {1, {1, 0.8f, 0, 1}}} : Stops{{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  test::addStep(scene, "curves");
  return scene;
}

}  // namespace

class TestCurves : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void straightCurvesChangeNothing();
  void heightsAreThoseOfTheCurve();
  void channelsAreAlone();
  void fieldsHaveTheirTones();
  void curvesStayBetweenTheirPoints();
  void curvesGoThroughTheirPoints();
};

void TestCurves::straightCurvesChangeNothing() {
  for (const bool coloured : {false, true}) {
    Scene with = ramp(coloured);
    Scene without = with;
    without.layers[0].recipe.pop_back();
    QVERIFY(test::renderFloat(with, 0).rgba == test::renderFloat(without, 0).rgba);
  }
}

void TestCurves::heightsAreThoseOfTheCurve() {
  const Curve curve{{0, 0.1}, {0.3, 0.8}, {0.6, 0.4}, {1, 0.9}};
  Scene scene = ramp(false);
  test::setValue(scene, 0, 1, "all", curve);
  const auto f = test::renderFloat(scene, 0);
  for (int x = 0; x < 512; ++x) QVERIFY(std::abs(f.at(x, 1, 0) - curveAt(curve, (x + 0.5) / 512)) < 4e-3);
}

void TestCurves::channelsAreAlone() {
  Scene scene = ramp(true);
  const auto before = test::renderFloat(scene, 0);
  test::setValue(scene, 0, 1, "green", Curve{{0, 1}, {1, 0}});
  const auto after = test::renderFloat(scene, 0);
  for (int x = 0; x < 512; ++x) {
    QCOMPARE(after.at(x, 1, 0), before.at(x, 1, 0));
    QCOMPARE(after.at(x, 1, 2), before.at(x, 1, 2));
    QVERIFY(std::abs(after.at(x, 1, 1) - (1 - before.at(x, 1, 1))) < 2e-3);
  }
}

void TestCurves::fieldsHaveTheirTones() {
  Scene scene = test::oneLayer("noise", 96, 54);
  const auto before = test::renderFloat(scene, 0);
  test::addStep(scene, "curves");
  test::setValue(scene, 0, 1, "all", Curve{{0, 1}, {1, 0}});
  const auto after = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < before.rgba.size(); i += 4) QVERIFY(std::abs(after.rgba[i] + before.rgba[i] - 1) < 2e-3);
  // The noise's own tone curve does the same.
  Scene own = test::oneLayer("noise", 96, 54);
  test::setValue(own, 0, 0, "tone", Curve{{0, 1}, {1, 0}});
  QVERIFY(test::compare(test::renderFloat(own, 0), after).largest < 2e-3);
}

void TestCurves::curvesStayBetweenTheirPoints() {
  const Curve curves[] = {{{0, 0}, {0.1, 0.9}, {0.12, 1}, {1, 1}}, {{0, 0.5}, {0.5, 0.5}, {0.51, 0}, {1, 1}}, {{0.2, 1}, {0.8, 0}}};
  for (const Curve& curve : curves)
    for (int i = 0; i <= 1000; ++i) {
      const double x = i / 1000.0;
      const double y = curveAt(curve, x);
      double low = std::min(curve.front().y, curve.back().y);
      double high = std::max(curve.front().y, curve.back().y);
      for (std::size_t k = 0; k + 1 < curve.size(); ++k)
        if (x >= curve[k].x && x <= curve[k + 1].x) {
          low = std::min(curve[k].y, curve[k + 1].y);
          high = std::max(curve[k].y, curve[k + 1].y);
        }
      if (x < curve.front().x) low = high = curve.front().y;
      if (x > curve.back().x) low = high = curve.back().y;
      QVERIFY2(y >= low - 1e-12 && y <= high + 1e-12, qPrintable(QString::number(x)));
    }
}

void TestCurves::curvesGoThroughTheirPoints() {
  const Curve curve{{0, 0.2}, {0.25, 0.1}, {0.5, 0.9}, {1, 0.6}};
  for (const Point& p : curve) QVERIFY(std::abs(curveAt(curve, p.x) - p.y) < 1e-12);
  const auto baked = bakeCurve(curve, 101);
  for (int i = 0; i <= 100; ++i)
    QVERIFY(std::abs(static_cast<double>(baked[static_cast<std::size_t>(i)]) - curveAt(curve, i / 100.0)) < 1e-6);
  QVERIFY(isStraight(straightCurve()) && !isStraight(curve));
  QVERIFY(isStraight({{0, 0}, {0.4, 0.4}, {1, 1}}) && !isStraight({{0.1, 0.1}, {1, 1}}));
}

QTEST_GUILESS_MAIN(TestCurves)
#include "tst_curves.moc"
