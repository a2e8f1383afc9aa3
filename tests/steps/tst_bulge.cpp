// Bulge and pinch: nothing at nothing, how much the middle is enlarged, nothing beyond its reach, order kept.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestBulge : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void theMiddleIsEnlarged_data();
  void theMiddleIsEnlarged();
  void enlargedPartsStaySharp();
};

void TestBulge::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "bulge", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestBulge::theMiddleIsEnlarged_data() {
  QTest::addColumn<double>("amount");
  for (const double amount : {0.75, 0.3, -0.5, -1.0}) QTest::newRow(qPrintable(QString::number(amount))) << amount;
}

void TestBulge::theMiddleIsEnlarged() {
  QFETCH(double, amount);
  const test::PlacesRead read("bulge", [&](const auto& set) { set("amount", amount), set("reach", 80.0); });
  // Where the middle lies nothing has moved; beside it a pixel is 1 - amount pixels of the picture.
  const double step = read.at(162, 89).x - read.at(158, 89).x;
  QVERIFY2(std::abs(step / 4 - (1 - amount)) < 0.06, qPrintable(QString::number(step / 4)));
  QVERIFY(std::abs(read.at(159, 89).x + read.at(160, 89).x - 320) < 0.05);
  // What lies further out is read further out, and from the reach on where it is.
  for (int x = 161; x < 300; ++x) {
    QVERIFY(read.at(x, 89).x > read.at(x - 1, 89).x);
    if (x > 241) QVERIFY(std::abs(read.at(x, 89).x - (x + 0.5)) < 0.05);
  }
}

// A finer picture is asked for where it is enlarged: an edge within is as sharp there as a source draws it.
void TestBulge::enlargedPartsStaySharp() {
  Scene scene = test::stepOn("shape", "bulge", [](const auto& set) { set("amount", 0.75), set("reach", 4000.0); });
  test::setValue(scene, 0, 0, "width", 40.0);
  test::setValue(scene, 0, 0, "height", 40.0);
  const auto f = test::renderFloat(scene, 0);
  int soft = 0;
  for (int x = 160; x < 320; ++x) soft += f.at(x, 90, 0) > 0.03f && f.at(x, 90, 0) < 0.97f * f.at(160, 90, 0);
  QVERIFY2(f.at(160, 90, 0) > 0.1f && f.at(319, 90, 0) < 0.01f && soft <= 3, qPrintable(QString::number(soft)));
}

QTEST_GUILESS_MAIN(TestBulge)
#include "tst_bulge.moc"
