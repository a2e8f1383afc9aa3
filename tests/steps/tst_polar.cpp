// Polar: nothing at nothing, where rings and lines are read, there and back, no seam.
#include <QTest>
#include <cmath>
#include <numbers>

#include "support/lens.h"

using namespace oa;

class TestPolar : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void ringsReadRows();
  void lineAndRingAreEachOthersWayBack();
  void mirroredThereIsNoSeam();
};

void TestPolar::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "polar", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestPolar::ringsReadRows() {
  const test::PlacesRead read("polar", [](const auto& set) { set("radius", 100.0), set("mirrored", false); });
  for (int y = 5; y < 175; y += 9)
    for (int x = 75; x < 245; x += 9) {
      const double dx = x + 0.5 - 160;
      const double dy = y + 0.5 - 90;
      const double far = std::hypot(dx, dy);
      double round = std::atan2(dx, -dy) / (2 * std::numbers::pi);
      if (round < 0) round += 1;
      const Point wanted{round * 320, 180 - far * 1.8};
      if (!read.inFrame(wanted, 6) || far < 20) continue;
      const Point p = read.at(x, y);
      QVERIFY2(std::abs(p.x - wanted.x) < 1 && std::abs(p.y - wanted.y) < 0.5,
               qPrintable(QStringLiteral("%1, %2 for %3, %4").arg(p.x).arg(p.y).arg(wanted.x).arg(wanted.y)));
    }
}

void TestPolar::lineAndRingAreEachOthersWayBack() {
  Scene scene = test::stepOn("noise", "polar",
                             [](const auto& set) { set("radius", 400.0), set("mirrored", false), set("way", std::string("line")); });
  test::setValue(scene, 0, 0, "cell", 120.0);
  test::addStep(scene, "polar");
  test::setValue(scene, 0, 2, "radius", 400.0);
  test::setValue(scene, 0, 2, "mirrored", false);
  const auto back = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  for (int y = 20; y < 160; ++y)
    for (int x = 20; x < 300; ++x)
      if (std::hypot(x - 160, y - 90) > 30 && std::hypot(x - 160, y - 90) < 85 && std::abs(x - 160) > 4)
        QVERIFY2(std::abs(back.at(x, y, 0) - bare.at(x, y, 0)) < 0.03f, qPrintable(QStringLiteral("%1, %2").arg(x).arg(y)));
}

void TestPolar::mirroredThereIsNoSeam() {
  for (const double copies : {1.0, 4.0}) {
    Scene scene = test::stepOn("gradient", "polar", [&](const auto& set) { set("copies", copies), set("radius", 200.0); });
    const auto f = test::renderFloat(scene, 3);
    for (int y = 0; y < 180; ++y)
      for (int x = 1; x < 320; ++x) {
        if (std::hypot(x - 160, y - 89.5) < 20) continue;
        QVERIFY(std::abs(f.at(x, y, 0) - f.at(x - 1, y, 0)) < 0.06f);
      }
  }
}

QTEST_GUILESS_MAIN(TestPolar)
#include "tst_polar.moc"
