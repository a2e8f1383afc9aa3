// Ripple: nothing at nothing, crests where they belong, whole waves within a lap, dying down at the reach.
#include <QTest>
#include <cmath>
#include <numbers>

#include "support/lens.h"

using namespace oa;

class TestRipple : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void rowsMoveAsASine();
  void ringsMoveAlongTheirRadius();
  void wholeWavesGoBy();
  void diesDownAtItsReach();
};

void TestRipple::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "ripple", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestRipple::rowsMoveAsASine() {
  for (const bool aside : {false, true}) {
    const test::PlacesRead read("ripple", [&](const auto& set) {
      set("shape", std::string("rows"));
      set("push", std::string(aside ? "aside" : "along"));
      set("angle", 0.0);
      set("amount", 6.0);
      set("length", 80.0);
      set("reach", 16384.0);
    });
    for (int x = 20; x < 300; x += 7)
      for (const int y : {60, 90, 120}) {
        const double by = 6 * std::sin((x + 0.5 - 160) / 80 * 2 * std::numbers::pi);
        const Point p = read.at(x, y);
        QVERIFY(std::abs(p.x - (x + 0.5 + (aside ? 0 : by))) < 0.15 && std::abs(p.y - (y + 0.5 + (aside ? by : 0))) < 0.15);
      }
  }
}

void TestRipple::ringsMoveAlongTheirRadius() {
  const test::PlacesRead read("ripple", [](const auto& set) {
    set("amount", 5.0);
    set("length", 60.0);
    set("reach", 16384.0);
  });
  double most = 0;
  for (int y = 30; y < 150; y += 3)
    for (int x = 90; x < 230; x += 3) {
      const Point p = read.at(x, y);
      const Point from{x + 0.5 - 160, y + 0.5 - 90};
      const Point by{p.x - (x + 0.5), p.y - (y + 0.5)};
      QVERIFY(std::abs(from.x * by.y - from.y * by.x) < 0.2 * std::hypot(from.x, from.y));
      most = std::max(most, std::hypot(by.x, by.y));
    }
  QVERIFY(most > 4.5 && most < 5.3);
}

void TestRipple::wholeWavesGoBy() {
  Scene scene = test::stepOn("noise", "ripple", [](const auto& set) { set("travel", 3.0); });
  scene.layers[0].recipe[0].params = newStep(*findStep("noise")).params;
  for (Param& p : scene.layers[0].recipe[0].params) p.motion = Motion();
  test::setValue(scene, 0, 0, "churn", 0.0);
  test::param(scene, 0, 1, "travel").motion = test::turn();
  // Three waves in 24 frames: every eighth is the same.
  const auto first = test::renderFloat(scene, 1);
  QVERIFY(test::compare(test::renderFloat(scene, 9), first).largest < 1e-4);
  QVERIFY(test::compare(test::renderFloat(scene, 5), first).mean > 1e-3);
}

void TestRipple::diesDownAtItsReach() {
  const Scene scene = test::stepOn("noise", "ripple", [](const auto& set) { set("reach", 60.0), set("length", 20.0); });
  const auto with = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  int moved = 0;
  for (int y = 0; y < 180; ++y)
    for (int x = 0; x < 320; ++x) {
      const double off = static_cast<double>(std::abs(with.at(x, y, 0) - bare.at(x, y, 0)));
      if (std::hypot(x + 0.5 - 160, y + 0.5 - 90) > 61)
        QVERIFY(off < 1e-5);
      else
        moved += off > 0.01;
    }
  QVERIFY(moved > 3000);
}

QTEST_GUILESS_MAIN(TestRipple)
#include "tst_ripple.moc"
