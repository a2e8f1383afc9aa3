// Linear, radial and conic gradients by known values and symmetries.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// Black to white, mixed in display values, so that a pixel's value is its share of the way.
Scene ramp(const std::string& kind, Point from, Point to, int width = 200, int height = 100) {
  Scene scene = test::oneLayer("gradient", width, height);
  test::setValue(scene, 0, 0, "kind", kind);
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, Stops{{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  test::setValue(scene, 0, 0, "from", from);
  test::setValue(scene, 0, 0, "to", to);
  test::setValue(scene, 0, 0, "angle", 0.0);
  return scene;
}

constexpr double kTable = 2e-3;  // colours come from a table of a thousand entries

}  // namespace

class TestGradient : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void linearRunsFromEndToEnd();
  void radialIsRound();
  void conicGoesOnceRound();
  void beyondTheEnds();
  void travelComesHome();
  void turningByAWholeTurnIsNothing();
  void endsInOnePlaceAreDefined();
  void manyStops();
};

void TestGradient::linearRunsFromEndToEnd() {
  const auto f = test::renderFloat(ramp("linear", {0, 0.5}, {1, 0.5}), 0);
  for (int x = 0; x < 200; ++x)
    for (const int y : {0, 50, 99}) QVERIFY(std::abs(f.at(x, y, 0) - (x + 0.5) / 200) < kTable);
  const auto steep = test::renderFloat(ramp("linear", {0, 0}, {1, 1}), 0);
  // Along the direction, not the diagonal's mirror: constant across it.
  for (int i = 0; i < 40; ++i) QVERIFY(std::abs(steep.at(60 + i, 60 - 2 * i + 20, 0) - steep.at(60, 80, 0)) < 2 * kTable);
}

void TestGradient::radialIsRound() {
  const auto f = test::renderFloat(ramp("radial", {0.5, 0.5}, {1, 0.5}), 0);
  for (int y = 0; y < 100; y += 7)
    for (int x = 0; x < 200; x += 7) {
      const double r = std::hypot(x + 0.5 - 100, y + 0.5 - 50) / 100;
      QVERIFY(std::abs(f.at(x, y, 0) - std::min(1.0, r)) < kTable);
    }
}

void TestGradient::conicGoesOnceRound() {
  const auto f = test::renderFloat(ramp("conic", {0.5, 0.5}, {1, 0.5}), 0);
  for (int y = 0; y < 100; y += 7)
    for (int x = 0; x < 200; x += 7) {
      double turn = std::atan2(y + 0.5 - 50, x + 0.5 - 100) / (2 * M_PI);
      if (turn < 0) turn += 1;
      QVERIFY(std::abs(f.at(x, y, 0) - turn) < kTable);
    }
}

void TestGradient::beyondTheEnds() {
  Scene scene = ramp("linear", {0.25, 0.5}, {0.5, 0.5});
  const auto hold = test::renderFloat(scene, 0);
  QVERIFY(hold.at(10, 5, 0) < kTable && hold.at(190, 5, 0) > 1 - kTable);
  test::setValue(scene, 0, 0, "extend", std::string("again"));
  const auto again = test::renderFloat(scene, 0);
  for (int x = 0; x < 150; ++x) QVERIFY(std::abs(again.at(x, 3, 0) - again.at(x + 50, 3, 0)) < 2 * kTable);
  test::setValue(scene, 0, 0, "extend", std::string("back"));
  const auto back = test::renderFloat(scene, 0);
  for (int x = 0; x < 50; ++x) QVERIFY(std::abs(back.at(50 + x, 3, 0) - back.at(149 - x, 3, 0)) < 2 * kTable);
}

void TestGradient::travelComesHome() {
  for (const char* extend : {"again", "back"}) {
    Scene scene = ramp("linear", {0, 0.5}, {0.5, 0.5});
    test::setValue(scene, 0, 0, "extend", std::string(extend));
    test::setValue(scene, 0, 0, "travel", 1.0);
    test::param(scene, 0, 0, "travel").motion = test::turn(1);
    const auto start = test::renderFloat(scene, 0);
    QVERIFY(test::renderFloat(scene, scene.frames).rgba == start.rgba);
    // A quarter of the lap later the picture is the first, moved by a quarter of its own period.
    const int period = std::string(extend) == "back" ? 200 : 100;
    const auto later = test::renderFloat(scene, scene.frames / 4);
    for (int x = 0; x + period / 4 < 200; ++x)
      QVERIFY(std::abs(later.at(x + period / 4, 7, 0) - start.at(x, 7, 0)) < 0.02 || start.at(x, 7, 0) > 0.98 || start.at(x, 7, 0) < 0.02);
  }
}

void TestGradient::turningByAWholeTurnIsNothing() {
  for (const char* kind : {"linear", "radial", "conic"}) {
    Scene scene = ramp(kind, {0.3, 0.4}, {0.8, 0.6});
    const auto still = test::renderFloat(scene, 0);
    test::setValue(scene, 0, 0, "angle", 360.0);
    QVERIFY(test::compare(test::renderFloat(scene, 0), still).mean < 1e-4);
    test::setValue(scene, 0, 0, "angle", 180.0);
    const auto half = test::renderFloat(scene, 0);
    if (std::string(kind) != "radial") QVERIFY(test::compare(half, still).mean > 0.05);
  }
}

void TestGradient::endsInOnePlaceAreDefined() {
  for (const char* kind : {"linear", "radial", "conic"}) {
    const auto f = test::renderFloat(ramp(kind, {0.5, 0.5}, {0.5, 0.5}), 0);
    QVERIFY(test::allFinite(f));
  }
}

void TestGradient::manyStops() {
  Scene scene = ramp("linear", {0, 0}, {1, 0}, 640, 8);
  Stops stops;
  for (int i = 0; i < 64; ++i) stops.push_back({i / 63.0, i % 2 ? Colour{1, 1, 1, 1} : Colour{0, 0, 0, 1}});
  test::setStops(scene, 0, 0, stops);
  const auto f = test::renderFloat(scene, 0);
  int crossings = 0;
  for (int x = 0; x + 1 < 640; ++x) crossings += (f.at(x, 0, 0) < 0.5) != (f.at(x + 1, 0, 0) < 0.5);
  QCOMPARE(crossings, 63);
}

QTEST_GUILESS_MAIN(TestGradient)
#include "tst_gradient.moc"
