// Roll: nothing at nothing, whole pixels stay whole, mirror images, whole frames within a lap.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestRoll : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noOffsetIsTheSameToTheByte();
  void wholePixelsComeInAtTheOtherSide();
  void mirroredThereIsNoSeam();
  void comesHome();
};

void TestRoll::noOffsetIsTheSameToTheByte() {
  for (const double whole : {0.0, 2.0, -4.0}) {
    const Scene scene = test::stepOn("noise", "roll", [&](const auto& set) { set("offset", Point{whole, 0}); });
    QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
  }
}

void TestRoll::wholePixelsComeInAtTheOtherSide() {
  const Scene scene = test::stepOn("gradient", "roll", [](const auto& set) { set("offset", Point{0.25, -0.5}), set("mirrored", false); });
  const auto f = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  for (int y = 0; y < 180; ++y)
    for (int x = 0; x < 320; ++x)
      for (int c = 0; c < 3; ++c) QVERIFY(std::abs(f.at(x, y, c) - bare.at((x + 240) % 320, (y + 90) % 180, c)) < 2e-5f);
}

void TestRoll::mirroredThereIsNoSeam() {
  const Scene scene = test::stepOn("gradient", "roll", [](const auto& set) { set("offset", Point{0.37, 0.61}); });
  const auto f = test::renderFloat(scene, 3);
  for (int y = 1; y < 180; ++y)
    for (int x = 1; x < 320; ++x)
      QVERIFY(std::abs(f.at(x, y, 0) - f.at(x - 1, y, 0)) < 0.02f && std::abs(f.at(x, y, 0) - f.at(x, y - 1, 0)) < 0.02f);
}

void TestRoll::comesHome() {
  for (const bool mirrored : {false, true}) {
    Scene scene = test::stepOn("gradient", "roll", [&](const auto& set) {
      set("offset", Point{0, 0}), set("travel", Point{1, -2}), set("mirrored", mirrored);
    });
    test::param(scene, 0, 1, "travel").motion = test::turn();
    const auto first = test::renderFloat(scene, 0);
    QVERIFY(first.rgba == test::renderFloat(scene, 24).rgba);
    QVERIFY(first.rgba == test::renderFloat(test::without(scene), 0).rgba);
    QVERIFY(test::compare(test::renderFloat(scene, 6), first).mean > 0.01);
  }
}

QTEST_GUILESS_MAIN(TestRoll)
#include "tst_roll.moc"
