// Tilt: nothing at nothing, perspective against exact projection, corners where they are dragged, a horizon without shimmer.
#include <QTest>
#include <cmath>

#include "fields/input.h"
#include "image/sampling.h"
#include "scene/scene.h"
#include "support/lens.h"

using namespace oa;

class TestTilt : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAnglesAreTheSameToTheByte();
  void anglesAreSeenAsAPinholeSeesThem();
  void cornersComeToLieWhereTheyAre();
  void whatLiesBeyondTheHorizonIsGone();
  void farAwayItDoesNotShimmer();
  void theTunnelComesHome();
  void noMoreIsAskedForThanIsShown();
};

void TestTilt::noAnglesAreTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "tilt", [](const auto& set) { set("back", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

// Each place of the picture is put into space, turned, and looked at: where it is seen, it must be read.
void TestTilt::anglesAreSeenAsAPinholeSeesThem() {
  const double back = 40 * kDegree, aside = 25 * kDegree, turn = 15 * kDegree, far = 320 * 1.2;
  const test::PlacesRead read("tilt", [](const auto& set) {
    set("back", 40.0), set("aside", 25.0), set("turn", 15.0), set("distance", 1.2), set("pivot", Point{0.5, 0.5}), set("fade", 0.0);
  });
  int seen = 0;
  for (int row = 20; row < 160; row += 10)
    for (int column = 20; column < 300; column += 10) {
      const double u = column, v = row;
      double x = u - 160, y = v - 90, z = 0;
      const auto turned = [](double& a, double& b, double by) {
        const double t = a * std::cos(by) - b * std::sin(by);
        b = a * std::sin(by) + b * std::cos(by);
        a = t;
      };
      turned(x, y, turn);   // within its plane
      turned(x, z, aside);  // the right edge goes back
      turned(y, z, -back);  // the upper edge goes back
      const double px = 160 + x * far / (far + z) - 0.5, py = 90 + y * far / (far + z) - 0.5;
      const int ix = static_cast<int>(std::lround(px)), iy = static_cast<int>(std::lround(py));
      if (std::abs(px - ix) > 0.12 || std::abs(py - iy) > 0.12 || ix < 0 || iy < 0 || ix >= 320 || iy >= 180) continue;
      const Point p = read.at(ix, iy);
      // A twelfth of a pixel off may be some pixels of what lies far away.
      QVERIFY2(std::hypot(p.x - u, p.y - v) < 0.5, qPrintable(QStringLiteral("%1, %2 for %3, %4").arg(p.x).arg(p.y).arg(u).arg(v)));
      ++seen;
    }
  QVERIFY2(seen > 8, qPrintable(QString::number(seen)));
}

void TestTilt::cornersComeToLieWhereTheyAre() {
  const Point corners[4] = {{0.2, 0.1}, {0.9, 0.05}, {0.95, 0.9}, {0.1, 0.8}};
  const test::PlacesRead read("tilt", [&](const auto& set) {
    set("by", std::string("corners"));
    const char* const ids[4] = {"upperLeft", "upperRight", "lowerRight", "lowerLeft"};
    for (int k = 0; k < 4; ++k) set(ids[k], corners[k]);
    set("fade", 0.0);
  });
  const Point frame[4] = {{0, 0}, {320, 0}, {320, 180}, {0, 180}};
  for (int k = 0; k < 4; ++k) {
    // A few pixels within the corner.
    const Point at{corners[k].x * 320 + (k == 0 || k == 3 ? 3 : -4), corners[k].y * 180 + (k < 2 ? 3 : -4)};
    const Point p = read.at(static_cast<int>(at.x), static_cast<int>(at.y));
    QVERIFY2(std::hypot(p.x - frame[k].x, p.y - frame[k].y) < 14, qPrintable(QStringLiteral("%1: %2, %3").arg(k).arg(p.x).arg(p.y)));
  }
  // Lines stay lines: along one in the picture, what is read lies on one too.
  const Point a = read.at(100, 60), b = read.at(150, 80), c = read.at(200, 100);
  QVERIFY(std::abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) < 25);
}

void TestTilt::whatLiesBeyondTheHorizonIsGone() {
  Scene scene = test::stepOn("noise", "tilt", [](const auto& set) { set("back", 80.0), set("pivot", Point{0.5, 0.9}); });
  scene.background.reset();
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(f.at(160, 2, 3) == 0 && f.at(160, 177, 3) > 0.99f);
  for (int y = 1; y < 180; ++y) QVERIFY(f.at(160, y, 3) >= f.at(160, y - 1, 3) - 1e-4f);
}

// A fine checker that is turned slowly: near the horizon it must be as even as grey, from frame to frame too.
void TestTilt::farAwayItDoesNotShimmer() {
  Scene scene = test::stepOn("pattern", "tilt", [](const auto& set) {
    set("back", 78.0), set("pivot", Point{0.5, 0.8}), set("fade", 0.0);
  });
  test::setValue(scene, 0, 0, "kind", std::string("checks"));
  test::setValue(scene, 0, 0, "scale", 24.0);
  scene.frames = 240;
  test::param(scene, 0, 1, "turn").motion = test::turn();
  const auto one = test::renderFloat(scene, 10);
  const auto next = test::renderFloat(scene, 11);
  double far = 0, near = 0;
  for (int x = 0; x < 320; ++x) {
    for (int y = 60; y < 72; ++y) far = std::max(far, static_cast<double>(std::abs(one.at(x, y, 0) - next.at(x, y, 0))));
    for (int y = 150; y < 180; ++y) near = std::max(near, static_cast<double>(std::abs(one.at(x, y, 0) - next.at(x, y, 0))));
  }
  QVERIFY2(far < 0.2 && near > 0.2, qPrintable(QStringLiteral("far %1, near %2").arg(far).arg(near)));
}

void TestTilt::theTunnelComesHome() {
  Scene scene = test::stepOn("gradient", "tilt", [](const auto& set) { set("by", std::string("tunnel")), set("radius", 80.0); });
  test::param(scene, 0, 1, "travel").motion = test::turn();
  const auto first = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 24).rgba == first.rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 6), first).mean > 0.01);
  // No seam round it, dark at its end.
  for (int x = 0; x < 320; ++x) QVERIFY(std::abs(first.at(x, 89, 0) - first.at(x, 90, 0)) < 0.1f);
  QVERIFY(first.at(160, 90, 0) < 0.02f);
}

// At the horizon, and beyond it, nothing is read; what is shown is the same in a view that has none of it.
void TestTilt::noMoreIsAskedForThanIsShown() {
  class Asked final : public Input {
   public:
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override {
      pixels += static_cast<double>(view.width) * view.height;
      return planeRows(Plane(view.width, view.height, 4), false);
    }
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment&) const override { return pull(view); }
    [[nodiscard]] Moment moment() const override { return {0, 48}; }
    mutable double pixels = 0;
  };
  const auto set = [](const auto& to) { to("back", 75.0), to("pivot", Point{0.5, 0.8}), to("fade", 0.4); };
  Scene scene = test::stepOn("noise", "tilt", set, 640, 360);
  scene.background.reset();
  const RecipeStep& step = scene.layers[0].recipe[1];
  const PlaneView whole = PlaneView::cover(640, 360, 640, 360);
  const Asked asked;
  (void)step.spec->area(contextOf(step, {0, 48}, whole), asked);
  QVERIFY2(asked.pixels < 4.5 * 640 * 360, qPrintable(QString::number(asked.pixels)));
  // Turned horizons too.
  for (const double turn : {0.0, 0.4, 2.0}) {
    PlaneView view = whole.part(40, 20, 500, 300);
    view.xx = view.yy = std::cos(turn);
    view.yx = std::sin(turn);
    view.xy = -view.yx;
    // About the middle of the frame.
    view.left = 320 - (250 * view.xx + 150 * view.xy);
    view.top = 180 - (250 * view.yx + 150 * view.yy);
    const auto all = test::renderFloat(scene, 3, view);
    const auto low = test::renderFloat(scene, 3, view.part(0, 150, 500, 150));
    QVERIFY2(test::meanOf(all, 3) > 0.05 && test::meanOf(all, 3) < 0.95, qPrintable(QString::number(test::meanOf(all, 3))));
    const double largest = test::compare(test::cut(all, 0, 150, 500, 150), low).largest;
    QVERIFY2(largest < 0.02, qPrintable(QStringLiteral("%1: %2").arg(turn).arg(largest)));
  }
}

QTEST_GUILESS_MAIN(TestTilt)
#include "tst_tilt.moc"
