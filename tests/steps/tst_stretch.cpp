// Stretch: nothing at nothing, the middle is not touched, beyond it there are streaks, and they fade.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestStretch : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void theMiddleStaysAndStreaksBegin();
  void oneSideOnly();
  void streaksFade();
};

void TestStretch::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "stretch", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestStretch::theMiddleStaysAndStreaksBegin() {
  const Scene scene = test::stepOn("noise", "stretch", [](const auto& set) { set("amount", 0.5), set("soft", 0.25); });
  const auto f = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  for (int y = 0; y < 180; ++y) {
    // Half of the half is left: 80 pixels, the last quarter of them and as much beyond going over.
    for (int x = 160 - 58; x < 160 + 58; ++x) QVERIFY(std::abs(f.at(x, y, 0) - bare.at(x, y, 0)) < 1e-4f);
    for (int x = 262; x < 320; ++x) QVERIFY(std::abs(f.at(x, y, 0) - f.at(261, y, 0)) < 1e-4f);
    for (int x = 0; x < 58; ++x) QVERIFY(std::abs(f.at(x, y, 0) - f.at(58, y, 0)) < 1e-4f);
  }
}

void TestStretch::oneSideOnly() {
  const test::PlacesRead read("stretch",
                              [](const auto& set) { set("amount", 1.0), set("sides", std::string("ahead")), set("angle", 90.0); });
  for (int y = 0; y < 180; y += 3) {
    const Point p = read.at(100, y);
    QVERIFY(std::abs(p.x - 100.5) < 0.1);
    QVERIFY(std::abs(p.y - std::min(90.0, y + 0.5)) < 0.3);
  }
}

void TestStretch::streaksFade() {
  Scene scene =
      test::stepOn("noise", "stretch", [](const auto& set) { set("amount", 0.5), set("fade", 60.0), set("sides", std::string("ahead")); });
  scene.background.reset();
  const auto f = test::renderFloat(scene, 3);
  for (int y = 0; y < 180; y += 20) {
    QVERIFY(f.at(20, y, 3) == 1 && f.at(230, y, 3) == 1 && f.at(310, y, 3) == 0);
    for (int x = 240; x < 310; ++x) QVERIFY(f.at(x, y, 3) <= f.at(x - 1, y, 3));
  }
}

QTEST_GUILESS_MAIN(TestStretch)
#include "tst_stretch.moc"
