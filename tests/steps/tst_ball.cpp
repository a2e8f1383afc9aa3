// Ball: nothing at nothing, against ray casting in double precision, whole turns, light where it should be, a shadow below.
#include <QTest>
#include <cmath>
#include <numbers>

#include "support/lens.h"

using namespace oa;

namespace {

void plain(const std::function<void(const std::string&, const Value&)>& set) {
  set("radius", 70.0), set("shade", 0.0), set("shine", 0.0), set("rim", 0.0), set("ground", 0.0), set("centre", Point{0.5, 0.5});
}

}  // namespace

class TestBall : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void againstRayCasting();
  void nothingBeyondItsEdge();
  void turnsByWholeTurns();
  void lightAndGround();
};

void TestBall::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "ball", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

// A ray along the eye's way meets the ball; the place is turned back into the ball's own directions; its longitude and latitude say
// what is read.
void TestBall::againstRayCasting() {
  const double lean = 25, nod = 30, turn = 40;
  const test::PlacesRead read("ball", [&](const auto& set) { plain(set), set("lean", lean), set("nod", nod), set("turn", turn); });
  int seen = 0;
  for (int y = 24; y < 156; y += 3)
    for (int x = 94; x < 226; x += 3) {
      const double px = (x + 0.5 - 160) / 70, py = (y + 0.5 - 90) / 70;
      if (px * px + py * py > 0.8) continue;
      const double pz = std::sqrt(1 - px * px - py * py);
      // First the lean is undone, then the nod.
      const double c = std::cos(lean * kDegree), s = std::sin(lean * kDegree), d = std::cos(nod * kDegree), e = std::sin(nod * kDegree);
      const double ax = c * px + s * py, ay = c * py - s * px;
      const double by = d * ay - e * pz, bz = e * ay + d * pz;
      double around = std::atan2(ax, bz) / (2 * std::numbers::pi) - turn / 360;
      around -= std::floor(around);
      double u = (around + 0.25) * 2;
      u -= 2 * std::floor(u / 2);
      const Point wanted{(1 - std::abs(u - 1)) * 320, (0.5 + std::asin(by) / std::numbers::pi) * 180};
      if (!read.inFrame(wanted, 8)) continue;
      const Point p = read.at(x, y);
      QVERIFY2(std::hypot(p.x - wanted.x, p.y - wanted.y) < 3,
               qPrintable(QStringLiteral("%1, %2: %3, %4 for %5, %6").arg(x).arg(y).arg(p.x).arg(p.y).arg(wanted.x).arg(wanted.y)));
      ++seen;
    }
  QVERIFY(seen > 300);
}

void TestBall::nothingBeyondItsEdge() {
  Scene scene = test::stepOn("gradient", "ball", plain);
  scene.background.reset();
  const auto f = test::renderFloat(scene, 0);
  for (int y = 0; y < 180; ++y)
    for (int x = 0; x < 320; ++x) {
      const double far = std::hypot(x + 0.5 - 160, y + 0.5 - 90);
      if (far > 71) QVERIFY(f.at(x, y, 3) == 0);
      if (far < 69) QVERIFY(f.at(x, y, 3) > 0.999f);
    }
}

void TestBall::turnsByWholeTurns() {
  Scene scene = test::stepOn("noise", "ball", [](const auto& set) { plain(set), set("spins", 3.0); });
  test::setValue(scene, 0, 0, "churn", 0.0);
  for (Param& p : scene.layers[0].recipe[0].params) p.motion = Motion();
  test::param(scene, 0, 1, "spins").motion = test::turn();
  const auto first = test::renderFloat(scene, 1);
  QVERIFY(test::compare(test::renderFloat(scene, 9), first).largest < 1e-3);
  QVERIFY(test::compare(test::renderFloat(scene, 5), first).mean > 0.005);
}

void TestBall::lightAndGround() {
  Scene scene =
      test::stepOn("flat", "ball", [](const auto& set) { plain(set), set("shade", 1.0), set("light", 180.0), set("ground", 1.0); });
  scene.background.reset();
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(f.at(115, 90, 1) > 2 * f.at(215, 90, 1));
  // On the ground it is dark, and only there.
  QVERIFY(f.at(160, 164, 3) > 0.4f && f.at(160, 164, 1) < 0.05f);
  QVERIFY(f.at(160, 10, 3) == 0 && f.at(20, 164, 3) == 0);
}

QTEST_GUILESS_MAIN(TestBall)
#include "tst_ball.moc"
