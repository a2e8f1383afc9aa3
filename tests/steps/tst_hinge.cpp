// Hinge: flat it is the same, both halves recede exactly, mirrored they are equal, it flows for ever.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestHinge : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void flatItIsTheSameToTheByte();
  void halvesRecedeInPerspective();
  void mirroredHalvesAreEqual();
  void flowsForEverAndComesHome();
  void theFoldDoesNotShimmer();
};

void TestHinge::flatItIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "hinge",
                                   [](const auto& set) { set("depth", 0.0), set("flow", 0.0), set("mirrored", false), set("shade", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestHinge::halvesRecedeInPerspective() {
  const double depth = 0.4;
  const test::PlacesRead read("hinge",
                              [&](const auto& set) { set("depth", depth), set("flow", 0.0), set("mirrored", false), set("shade", 0.0); });
  int seen = 0;
  for (int y = 2; y < 180; y += 5)
    for (int x = 40; x < 280; x += 9) {
      // At the frame's edge it is as large as it was, in the fold 1 - depth times.
      const double v = y + 0.5 - 90, size = 1 - depth + depth * std::abs(v) / 90;
      const Point wanted{160 + (x + 0.5 - 160) / size, 90 + v / size};
      if (!read.inFrame(wanted, 3)) continue;
      const Point p = read.at(x, y);
      QVERIFY2(std::hypot(p.x - wanted.x, p.y - wanted.y) < 0.4, qPrintable(QStringLiteral("%1, %2").arg(x).arg(y)));
      ++seen;
    }
  QVERIFY(seen > 200);
}

void TestHinge::mirroredHalvesAreEqual() {
  const auto f = test::renderFloat(test::stepOn("noise", "hinge"), 5);
  QVERIFY(test::deviationOf(f, 0) > 0.02);
  for (int y = 0; y < 90; ++y)
    for (int x = 0; x < 320; ++x) QVERIFY(std::abs(f.at(x, y, 0) - f.at(x, 179 - y, 0)) < 0.03f);
}

void TestHinge::flowsForEverAndComesHome() {
  for (const double flow : {1.0, -2.0}) {
    Scene scene = test::stepOn("gradient", "hinge", [&](const auto& set) { set("flow", flow); });
    test::setValue(scene, 0, 0, "from", Point{0.5, 0});
    test::setValue(scene, 0, 0, "to", Point{0.5, 1});
    scene.frames = 240;
    test::param(scene, 0, 1, "flow").motion = test::turn();
    const auto first = test::renderFloat(scene, 0);
    QVERIFY(test::renderFloat(scene, 240).rgba == first.rgba);
    double largest = 0;
    for (const int k : {20, 70, 150, 238})
      largest = std::max(largest, test::compare(test::renderFloat(scene, k + 1), test::renderFloat(scene, k)).mean);
    QVERIFY(test::compare(test::renderFloat(scene, 239), first).mean < 1.6 * largest && largest > 1e-4);
  }
}

void TestHinge::theFoldDoesNotShimmer() {
  Scene scene = test::stepOn("pattern", "hinge", [](const auto& set) { set("depth", 0.95), set("shade", 0.0); });
  test::setValue(scene, 0, 0, "kind", std::string("checks"));
  test::setValue(scene, 0, 0, "scale", 20.0);
  scene.frames = 600;
  test::param(scene, 0, 1, "flow").motion = test::turn();
  const auto one = test::renderFloat(scene, 100);
  const auto next = test::renderFloat(scene, 101);
  for (int x = 0; x < 320; ++x)
    for (int y = 86; y < 94; ++y) QVERIFY(std::abs(one.at(x, y, 0) - next.at(x, y, 0)) < 0.2f);
}

QTEST_GUILESS_MAIN(TestHinge)
#include "tst_hinge.moc"
