// Cloth: nothing at nothing, folds are lit on the side that they look to, an edge is held, it waves home.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestCloth : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void movesNoFurtherThanItsAmount();
  void heldItsEdgeStays();
  void wavesHome();
  void foldsAreLit();
};

void TestCloth::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "cloth", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestCloth::movesNoFurtherThanItsAmount() {
  const test::PlacesRead read("cloth",
                              [](const auto& set) { set("amount", 10.0), set("shade", 0.0), set("shine", 0.0), set("length", 90.0); });
  double most = 0;
  for (int y = 30; y < 150; y += 3)
    for (int x = 30; x < 290; x += 3) most = std::max(most, std::hypot(read.at(x, y).x - (x + 0.5), read.at(x, y).y - (y + 0.5)));
  QVERIFY2(most > 5 && most < 12, qPrintable(QString::number(most)));
}

void TestCloth::heldItsEdgeStays() {
  const test::PlacesRead read("cloth", [](const auto& set) {
    set("amount", 10.0), set("shade", 0.0), set("shine", 0.0), set("length", 90.0), set("held", 200.0), set("angle", 0.0);
  });
  double near = 0, far = 0;
  for (int y = 30; y < 150; y += 3) {
    near = std::max(near, std::abs(read.at(4, y).x - 4.5));
    for (int x = 220; x < 300; ++x) far = std::max(far, std::abs(read.at(x, y).x - (x + 0.5)));
  }
  QVERIFY2(near < 0.3 && far > 4, qPrintable(QStringLiteral("%1, %2").arg(near).arg(far)));
}

void TestCloth::wavesHome() {
  Scene scene = test::stepOn("gradient", "cloth", [](const auto& set) { set("travel", 2.0); });
  for (Param& p : scene.layers[0].recipe[0].params) p.motion = Motion();
  test::param(scene, 0, 1, "travel").motion = test::turn();
  const auto first = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 24).rgba == first.rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 12), first).largest < 1e-3);
  QVERIFY(test::compare(test::renderFloat(scene, 6), first).mean > 1e-3);
}

void TestCloth::foldsAreLit() {
  Scene scene = test::stepOn("flat", "cloth", [](const auto& set) { set("length", 80.0), set("shade", 0.8), set("shine", 0.0); });
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(test::deviationOf(f, 1) > 0.02);
  // Light is taken and given alike.
  QVERIFY(std::abs(test::meanOf(f, 1) - test::meanOf(test::renderFloat(test::without(scene), 0), 1)) < 0.03);
}

QTEST_GUILESS_MAIN(TestCloth)
#include "tst_cloth.moc"
