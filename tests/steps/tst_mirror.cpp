// Mirror: what is kept is not touched, what is mirrored equals it to the bit, quarters, lines at any angle.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestMirror : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void farAwayItChangesNothing();
  void halvesAreEqualToTheBit();
  void quartersAreEqualToTheBit();
  void anyLine();
  void facingMirrorsShowItForEver();
};

void TestMirror::farAwayItChangesNothing() {
  const Scene scene = test::stepOn("noise", "mirror", [](const auto& set) { set("line", Point{3, 0.5}); });
  QVERIFY(test::compare(test::renderFloat(scene, 3), test::renderFloat(test::without(scene), 3)).largest < 1e-5);
}

void TestMirror::halvesAreEqualToTheBit() {
  for (const bool flip : {false, true}) {
    const Scene scene = test::stepOn("noise", "mirror", [&](const auto& set) { set("flip", flip); });
    const auto f = test::renderFloat(scene, 3);
    const auto bare = test::renderFloat(test::without(scene), 3);
    for (int y = 0; y < 180; ++y)
      for (int x = 0; x < 160; ++x) {
        QVERIFY(f.at(x, y, 0) == f.at(319 - x, y, 0));
        const int kept = flip ? 319 - x : x;
        QVERIFY(std::abs(f.at(kept, y, 0) - bare.at(kept, y, 0)) < 1e-5f);
      }
  }
}

void TestMirror::quartersAreEqualToTheBit() {
  for (const int k : {0, 1, 2, 3}) {
    const Scene scene = test::stepOn("noise", "mirror", [&](const auto& set) {
      set("parts", std::string("quarters")), set("flip", k % 2 == 1), set("flipDown", k >= 2);
    });
    const auto f = test::renderFloat(scene, 3);
    const auto bare = test::renderFloat(test::without(scene), 3);
    for (int y = 0; y < 90; ++y)
      for (int x = 0; x < 160; ++x) {
        QVERIFY(f.at(x, y, 0) == f.at(319 - x, y, 0) && f.at(x, y, 0) == f.at(x, 179 - y, 0));
        const int keptX = k % 2 ? 319 - x : x;
        const int keptY = k >= 2 ? 179 - y : y;
        QVERIFY(std::abs(f.at(keptX, keptY, 0) - bare.at(keptX, keptY, 0)) < 1e-5f);
      }
  }
}

void TestMirror::anyLine() {
  const test::PlacesRead read("mirror", [](const auto& set) { set("angle", 30.0), set("line", Point{0.45, 0.6}); });
  const Point normal{std::cos(30 * kDegree), std::sin(30 * kDegree)};
  for (int y = 0; y < 180; y += 7)
    for (int x = 0; x < 320; x += 7) {
      const double over = std::max(0.0, (x + 0.5 - 144) * normal.x + (y + 0.5 - 108) * normal.y);
      const Point wanted{x + 0.5 - 2 * over * normal.x, y + 0.5 - 2 * over * normal.y};
      if (!read.inFrame(wanted)) continue;
      const Point p = read.at(x, y);
      QVERIFY(std::hypot(p.x - wanted.x, p.y - wanted.y) < 0.1);
    }
}

void TestMirror::facingMirrorsShowItForEver() {
  const Scene scene =
      test::stepOn("noise", "mirror", [](const auto& set) { set("parts", std::string("facing")), set("angle", 90.0), set("apart", 40.0); });
  const auto f = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  // From row 70 to row 109 it is as it was; beyond, mirrored, and mirrored again.
  for (int y = 72; y < 108; ++y)
    for (int x = 0; x < 320; ++x) {
      QVERIFY(std::abs(f.at(x, y, 0) - bare.at(x, y, 0)) < 1e-5f);
      QVERIFY(std::abs(f.at(x, 219 - y, 0) - f.at(x, y, 0)) < 1e-4f && std::abs(f.at(x, 139 - y, 0) - f.at(x, y, 0)) < 1e-4f);
      if (y > 90) QVERIFY(std::abs(f.at(x, y - 80, 0) - f.at(x, y, 0)) < 1e-4f);
    }
}

QTEST_GUILESS_MAIN(TestMirror)
#include "tst_mirror.moc"
