// Glass: nothing at nothing, ribs repeat, bricks lie half on, a rough surface is as rough as it says, pieces meet without a jump.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

test::PlacesRead through(const char* kind, double size = 40, double seed = 1) {
  return test::PlacesRead("glass", [&](const auto& set) {
    set("kind", std::string(kind)), set("size", size), set("strength", 10.0), set("shine", 0.0), set("seed", seed);
  });
}
Point off(const test::PlacesRead& read, int x, int y) {
  const Point p = read.at(x, y);
  return {p.x - (x + 0.5), p.y - (y + 0.5)};
}

}  // namespace

class TestGlass : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noStrengthIsTheSameToTheByte();
  void ribsRepeat();
  void bricksLieHalfOn();
  void roughAsItSays();
};

void TestGlass::noStrengthIsTheSameToTheByte() {
  for (const char* kind : {"ribbed", "bricks", "frosted"}) {
    const Scene scene =
        test::stepOn("noise", "glass", [&](const auto& set) { set("kind", std::string(kind)), set("strength", 0.0), set("shine", 0.0); });
    QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
  }
}

void TestGlass::ribsRepeat() {
  const auto read = through("ribbed");
  double most = 0;
  for (int x = 60; x < 220; ++x) {
    QVERIFY(std::abs(off(read, x, 90).x - off(read, x + 40, 90).x) < 0.3 && std::abs(off(read, x, 90).y) < 0.1);
    QVERIFY(std::abs(off(read, x, 90).x - off(read, x - 1, 90).x) < 4);
    most = std::max(most, off(read, x, 90).x);
  }
  QVERIFY2(most > 7 && most < 11, qPrintable(QString::number(most)));
}

void TestGlass::bricksLieHalfOn() {
  const auto read = through("bricks", 30);
  // Two rows on all is as before; one row on, half a brick.
  for (int x = 60; x < 200; x += 3) {
    QVERIFY(std::abs(off(read, x, 70).x - off(read, x, 130).x) < 0.4);
    QVERIFY(std::abs(off(read, x, 70).x - off(read, x + 30, 100).x) < 0.4);
  }
}

void TestGlass::roughAsItSays() {
  const auto read = through("frosted", 24);
  const auto other = through("frosted", 24, 2);
  double sum = 0, differs = 0;
  for (int y = 30; y < 150; y += 2)
    for (int x = 40; x < 280; x += 2) {
      sum += std::pow(off(read, x, y).x, 2);
      differs += std::pow(off(read, x, y).x - off(other, x, y).x, 2);
    }
  const double deviation = std::sqrt(sum / (60 * 120));
  QVERIFY2(deviation > 2 && deviation < 9 && differs > sum, qPrintable(QString::number(deviation)));
}

QTEST_GUILESS_MAIN(TestGlass)
#include "tst_glass.moc"
