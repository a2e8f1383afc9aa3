// Shift rows: nothing at nothing, bands are whole and within their amount, as many are torn as asked, hops last as long as they should.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestShiftRows : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void bandsAreWholeAndWithinTheirAmount();
  void aShareOfThemIsTorn();
  void hopsAreHeld();
};

void TestShiftRows::noAmountIsTheSameToTheByte() {
  for (const char* id : {"amount", "share"}) {
    const Scene scene = test::stepOn("noise", "shiftrows", [&](const auto& set) { set(id, 0.0); });
    QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
  }
}

void TestShiftRows::bandsAreWholeAndWithinTheirAmount() {
  const test::PlacesRead read("shiftrows", [](const auto& set) {
    set("height", 10.0), set("amount", 30.0), set("share", 1.0), set("uneven", 0.0), set("held", 0.0);
  });
  std::vector<double> by;
  for (int y = 0; y < 180; ++y) {
    const double off = read.at(160, y).x - 160.5;
    QVERIFY(std::abs(off) < 30.5 && std::abs(read.at(160, y).y - (y + 0.5)) < 0.1);
    for (int x = 60; x < 260; x += 17) QVERIFY(std::abs(read.at(x, y).x - (x + 0.5) - off) < 0.2);
    by.push_back(off);
  }
  // From the middle of the frame on, every ten rows.
  int changes = 0;
  for (int y = 1; y < 180; ++y)
    if (std::abs(by[static_cast<std::size_t>(y)] - by[static_cast<std::size_t>(y) - 1]) > 0.3) {
      QCOMPARE(y % 10, 0);
      ++changes;
    }
  QVERIFY(changes > 12);
}

void TestShiftRows::aShareOfThemIsTorn() {
  int torn = 0;
  for (int seed = 1; seed <= 12; ++seed) {
    const test::PlacesRead read("shiftrows", [&](const auto& set) {
      set("height", 10.0), set("amount", 30.0), set("share", 0.3), set("uneven", 0.0), set("held", 0.0), set("seed", double(seed));
    });
    for (int band = 0; band < 18; ++band) torn += std::abs(read.at(160, band * 10 + 5).x - 160.5) > 0.2;
  }
  QVERIFY2(std::abs(torn - 0.3 * 12 * 18) < 24, qPrintable(QString::number(torn)));
}

void TestShiftRows::hopsAreHeld() {
  Scene scene = test::stepOn("noise", "shiftrows", [](const auto& set) { set("held", 6.0), set("height", 9.0); });
  test::setValue(scene, 0, 0, "churn", 0.0);
  for (Param& p : scene.layers[0].recipe[0].params) p.motion = Motion();
  for (int k = 0; k < 24; ++k) {
    const bool same = test::renderFloat(scene, k + 1).rgba == test::renderFloat(scene, k).rgba;
    QCOMPARE(same, (k + 1) % 6 != 0);
  }
}

QTEST_GUILESS_MAIN(TestShiftRows)
#include "tst_shiftrows.moc"
