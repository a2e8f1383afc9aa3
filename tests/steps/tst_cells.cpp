// Cells: distances against brute force, a tile without an edge, orbits and churn that come home, and what the looks promise.
#include <QTest>
#include <cmath>

#include "simd/cell_field.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene cells(const char* look, double cell = 40, int width = 256, int height = 128) {
  Scene scene = test::oneLayer("cells", width, height, 48);
  test::setValue(scene, 0, 0, "look", std::string(look));
  test::setValue(scene, 0, 0, "cell", cell);
  return scene;
}

struct Plain {
  double first = 1e30;
  double second = 1e30;
  double edge = 0;
  double line = 1e30;  // to the nearest line half way between two points, for round distances
};

// One pixel's distances to all points of the tile and its eight neighbours, straight from the definitions.
Plain bruteForce(const CellField& field, double x, double y) {
  const CellSettings& s = field.settings();
  const double u = s.u0 + s.ux * x + s.uy * y;
  const double v = s.v0 + s.vx * x + s.vy * y;
  const double tileU = std::floor(u / s.periodX) * s.periodX;
  const double tileV = std::floor(v / s.periodY) * s.periodY;
  const auto length = [&](double du, double dv) {
    const double corners = s.corners == CellCorners::Square ? std::max(std::abs(du), std::abs(dv)) : std::abs(du) + std::abs(dv);
    return corners + (std::hypot(du, dv) - corners) * s.roundness;
  };
  struct Place {
    double du, dv, away;
  };
  std::vector<Place> places;
  // Small tiles stand around many times within reach.
  const int around = 1 + 4 / std::min(s.periodX, s.periodY);
  for (int ty = -around; ty <= around; ++ty)
    for (int tx = -around; tx <= around; ++tx)
      for (int j = 0; j < s.periodY; ++j)
        for (int i = 0; i < s.periodX; ++i) {
          const CellPoint& p = field.pointOf(i, j);
          const double du = u - (tileU + tx * s.periodX + i + static_cast<double>(p.x));
          const double dv = v - (tileV + ty * s.periodY + j + static_cast<double>(p.y));
          places.push_back({du, dv, length(du, dv)});
        }
  std::sort(places.begin(), places.end(), [](const Place& a, const Place& b) { return a.away < b.away; });
  const Place own = places[0];
  Plain result{own.away, places[1].away};
  const double beyond = std::pow(s.edgeReach, -2);
  double sum = beyond;
  for (std::size_t i = 1; i < places.size(); ++i) {
    const double apart = length(places[i].du - own.du, places[i].dv - own.dv);
    const double further = places[i].away * places[i].away - own.away * own.away;
    sum += std::max(0.0, std::pow(apart / std::max(1e-6, further), 2) - beyond);
    result.line = std::min(result.line, further / (2 * std::hypot(places[i].du - own.du, places[i].dv - own.dv)));
  }
  result.edge = 1 / std::sqrt(sum);
  return result;
}

}  // namespace

class TestCells : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void distancesMatchBruteForce_data();
  void distancesMatchBruteForce();
  void edgesHaveOneWidth();
  void theFrameIsATile();
  void pointsStayNearTheirCells();
  void orbitsAndChurnComeHome();
  void withoutScatterItIsALattice();
  void patchesAreFlat();
  void linesDarkenAndBrighten();
  void invertMirrorsTheTones();
  void finerLayersAddDetail();
};

void TestCells::distancesMatchBruteForce_data() {
  QTest::addColumn<double>("turn");
  QTest::addColumn<double>("scatter");
  QTest::addColumn<double>("orbit");
  QTest::addColumn<double>("roundness");
  QTest::addColumn<bool>("diamond");
  QTest::addColumn<double>("cell");
  QTest::newRow("aligned") << 0.0 << 1.0 << 0.0 << 1.0 << false << 30.0;
  QTest::newRow("turned") << 0.7 << 1.0 << 0.0 << 1.0 << false << 30.0;
  QTest::newRow("points far outside their cells") << 0.3 << 1.0 << 0.5 << 1.0 << false << 25.0;
  QTest::newRow("square") << 0.0 << 0.8 << 0.1 << 0.0 << false << 30.0;
  QTest::newRow("diamond, turned") << 1.1 << 1.0 << 0.3 << 0.0 << true << 30.0;
  QTest::newRow("half round") << 0.2 << 1.0 << 0.2 << 0.5 << true << 22.0;
  QTest::newRow("a lattice") << 0.0 << 0.0 << 0.0 << 1.0 << false << 30.0;
  QTest::newRow("cells of a few pixels") << 0.4 << 1.0 << 0.2 << 1.0 << false << 3.0;
  QTest::newRow("cells larger than blocks") << 0.4 << 1.0 << 0.2 << 1.0 << false << 190.0;
}

void TestCells::distancesMatchBruteForce() {
  QFETCH(double, turn);
  QFETCH(double, scatter);
  QFETCH(double, orbit);
  QFETCH(double, roundness);
  QFETCH(bool, diamond);
  QFETCH(double, cell);
  CellSettings s;
  s.ux = std::cos(turn) / cell;
  s.uy = std::sin(turn) / cell;
  s.vx = -std::sin(turn) / cell;
  s.vy = std::cos(turn) / cell;
  s.u0 = 2.3;
  s.v0 = 1.7;
  s.periodX = 7;
  s.periodY = 5;
  s.scatter = scatter;
  s.orbit = orbit;
  s.turned = 0.37;
  s.churn = 3;
  s.churned = 0.21;
  s.roundness = roundness;
  s.corners = diamond ? CellCorners::Diamond : CellCorners::Square;
  s.seed = 11;
  s.edgeReach = 0.8;
  const CellField field(s);
  constexpr int kStride = 64 + 16;
  constexpr int kWidth = 150;
  constexpr int kHeight = 70;
  test::forEachTarget([&](const char* target) {
    double worst = 0;
    const auto size = field.blockSize();
    for (int top = 0; top < kHeight; top += size.height)
      for (int left = 0; left < kWidth; left += size.width) {
        alignas(64) float first[kStride * 16];
        alignas(64) float second[kStride * 16];
        const int n = std::min(size.width, kWidth - left);
        const int bottom = std::min(kHeight, top + size.height);
        alignas(64) float edge[kStride * 16];
        alignas(64) float again[kStride * 16];
        field.block(left, n, top, bottom, {first, second, nullptr, nullptr}, kStride);
        field.block(left, n, top, bottom, {again, nullptr, nullptr, edge}, kStride);
        for (int y = top; y < bottom; y += 3)
          for (int x = left; x < left + n; x += 5) {
            const Plain plain = bruteForce(field, x, y);
            const int at = (y - top) * kStride + x - left;
            worst =
                std::max({worst, std::abs(plain.first - static_cast<double>(first[at])),
                          std::abs(plain.second - static_cast<double>(second[at])), std::abs(plain.edge - static_cast<double>(edge[at]))});
            QVERIFY(edge[at] <= 0.8f * 1.0001f);
            QVERIFY(again[at] == first[at]);
          }
      }
    QVERIFY2(worst < 2e-4, qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(target)).arg(worst)));
  });
}

void TestCells::edgesHaveOneWidth() {
  CellSettings s;
  s.ux = s.vy = 1 / 40.0;
  s.periodX = 9;
  s.periodY = 7;
  s.scatter = 1;
  s.orbit = 0.3;
  s.seed = 5;
  const CellField field(s);
  int close = 0;
  int nearPairs = 0;
  for (int y = 0; y < 280; y += 2)
    for (int x = 0; x < 360; x += 3) {
      const Plain plain = bruteForce(field, x, y);
      const double edge = cellReference(field, x, y).edge;
      QVERIFY(std::abs(edge - plain.edge) < 1e-9);
      // Never further than the nearest line, and close to it hardly nearer, however the two points lie.
      QVERIFY(edge <= 2 * plain.line + 1e-9);
      if (2 * plain.line > 0.05) {
        QVERIFY(edge > 0.04 * 0.5);
        // Here the plain difference would say "edge": two points lie side by side.
        nearPairs += plain.second - plain.first < 0.05;
        continue;
      }
      ++close;
      QVERIFY2(edge > 2 * plain.line * 0.6, qPrintable(QStringLiteral("%1 of %2").arg(edge).arg(2 * plain.line)));
    }
  QVERIFY2(close > 200 && nearPairs > 20, qPrintable(QStringLiteral("%1, %2").arg(close).arg(nearPairs)));
}

void TestCells::theFrameIsATile() {
  for (const char* look : {"pebbles", "facets", "web", "flat", "second"}) {
    Scene scene = cells(look);
    test::setValue(scene, 0, 0, "churn", 2.0);
    // The tile, and the first column and row of the next one: a frame one pixel larger would show them.
    const auto f = test::renderFloat(scene, 9);
    test::setValue(scene, 0, 0, "travel", Point{1, 0});
    test::param(scene, 0, 0, "travel").motion = test::turn(1);
    QVERIFY(test::compare(test::renderFloat(scene, 0), test::renderFloat(scene, 48)).largest == 0);
    double inside = 0;
    double across = 0;
    for (int y = 0; y < f.height; ++y)
      for (int x = 0; x < f.width; ++x) {
        const double right = std::abs(f.at((x + 1) % f.width, y, 0) - f.at(x, y, 0));
        const double down = std::abs(f.at(x, (y + 1) % f.height, 0) - f.at(x, y, 0));
        (x == f.width - 1 ? across : inside) = std::max(x == f.width - 1 ? across : inside, right);
        (y == f.height - 1 ? across : inside) = std::max(y == f.height - 1 ? across : inside, down);
      }
    QVERIFY2(across <= inside * 1.02 + 1e-6, qPrintable(QStringLiteral("%1: %2, %3").arg(QLatin1String(look)).arg(across).arg(inside)));
  }
  // The definition itself: a whole tile on, everything is the same.
  CellSettings s;
  s.ux = s.vy = 0.05;
  s.periodX = 5;
  s.periodY = 3;
  const CellField field(s);
  for (int i = 0; i < 40; ++i) {
    const CellPixel here = cellReference(field, i * 1.9, i * 2.3);
    const CellPixel there = cellReference(field, i * 1.9 + 100, i * 2.3 - 60);
    QVERIFY(std::abs(here.nearest - there.nearest) < 1e-9 && std::abs(here.second - there.second) < 1e-9);
    QVERIFY(std::abs(here.edge - there.edge) < 1e-9);
  }
}

void TestCells::pointsStayNearTheirCells() {
  for (const double scatter : {0.0, 0.5, 1.0}) {
    CellSettings s;
    s.periodX = 40;
    s.periodY = 30;
    s.scatter = scatter;
    s.orbit = 0.2;
    s.churn = 5;
    s.churned = 0.43;
    const CellField field(s);
    double furthest = 0;
    for (int y = 0; y < 30; ++y)
      for (int x = 0; x < 40; ++x)
        furthest = std::max({furthest, std::abs(static_cast<double>(field.pointOf(x, y).x) - 0.5),
                             std::abs(static_cast<double>(field.pointOf(x, y).y) - 0.5)});
    QVERIFY(furthest <= scatter / 2 + 0.2 + 1e-6);
    QVERIFY(furthest > scatter / 2 * 0.9);
  }
}

void TestCells::orbitsAndChurnComeHome() {
  for (const char* what : {"turns", "churn"}) {
    Scene scene = cells("pebbles");
    test::setValue(scene, 0, 0, "turns", 0.0);
    test::setValue(scene, 0, 0, what, 3.0);
    test::param(scene, 0, 0, what).motion = test::turn(2);
    // Two laps: half the loop later it is home, to the last bit, and between it was elsewhere.
    QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
    QVERIFY(test::compare(test::renderFloat(scene, 12), test::renderFloat(scene, 0)).mean > 0.01);
    // No frame is a jump.
    double largest = 0;
    double sum = 0;
    for (int k = 0; k < 24; ++k) {
      const double step = test::compare(test::renderFloat(scene, k + 1), test::renderFloat(scene, k)).mean;
      largest = std::max(largest, step);
      sum += step / 24;
    }
    QVERIFY2(largest < 2.5 * sum, qPrintable(QStringLiteral("%1: %2 of %3").arg(QLatin1String(what)).arg(largest).arg(sum)));
  }
}

void TestCells::withoutScatterItIsALattice() {
  Scene scene = cells("nearest", 32);
  test::setValue(scene, 0, 0, "scatter", 0.0);
  test::setValue(scene, 0, 0, "orbit", 0.0);
  const auto f = test::renderFloat(scene, 0);
  // 8 x 4 cells of 32 pixels, all alike: 0 in their middles, 1 / sqrt(2) at their corners.
  for (int y = 0; y < 128; ++y)
    for (int x = 0; x < 256; ++x) {
      const double dx = (x % 32 + 0.5 - 16) / 32;
      const double dy = (y % 32 + 0.5 - 16) / 32;
      QVERIFY(std::abs(f.at(x, y, 0) - std::hypot(dx, dy)) < 1e-4);
    }
}

void TestCells::patchesAreFlat() {
  const auto f = test::renderFloat(cells("flat", 48), 3);
  int equal = 0;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x + 1 < f.width; ++x) equal += f.at(x, y, 0) == f.at(x + 1, y, 0);
  QVERIFY2(equal > 0.93 * f.width * f.height, qPrintable(QString::number(equal)));
  // Soft edges leave the middles alone and part nothing with a jump.
  Scene soft = cells("patches", 48);
  test::setValue(soft, 0, 0, "softness", 1.0);
  const auto g = test::renderFloat(soft, 3);
  double jump = 0;
  for (int y = 0; y < g.height; ++y)
    for (int x = 0; x + 1 < g.width; ++x) jump = std::max(jump, static_cast<double>(std::abs(g.at(x + 1, y, 0) - g.at(x, y, 0))));
  QVERIFY2(jump < 0.35, qPrintable(QString::number(jump)));
}

void TestCells::linesDarkenAndBrighten() {
  const auto flat = test::renderFloat(cells("flat", 60), 0);
  const auto cracks = test::renderFloat(cells("cracks", 60), 0);
  const auto web = test::renderFloat(cells("web", 60), 0);
  int lines = 0;
  for (int y = 0; y < flat.height; ++y)
    for (int x = 0; x + 1 < flat.width; ++x) {
      // Between two pixels of different cells runs a line.
      if (flat.at(x, y, 0) == flat.at(x + 1, y, 0)) continue;
      ++lines;
      QVERIFY(cracks.at(x, y, 0) < 0.25 && web.at(x, y, 0) > 0.65);
    }
  QVERIFY(lines > 100);
  // Away from lines there is nothing of them: no cell is filled, as where two points lie close together.
  int dark = 0;
  for (std::size_t i = 0; i < web.rgba.size(); i += 4) dark += web.rgba[i] < 0.01f;
  QVERIFY2(dark > 0.5 * flat.width * flat.height, qPrintable(QString::number(dark)));
}

void TestCells::invertMirrorsTheTones() {
  Scene scene = cells("pebbles");
  const auto f = test::renderFloat(scene, 0);
  test::setValue(scene, 0, 0, "invert", true);
  const auto g = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < f.rgba.size(); i += 4) QVERIFY(std::abs(f.rgba[i] + g.rgba[i] - 1) < 1e-5f);
}

void TestCells::finerLayersAddDetail() {
  const auto roughness = [](double layers) {
    Scene scene = cells("nearest", 64);
    test::setValue(scene, 0, 0, "layers", layers);
    const auto f = test::renderFloat(scene, 0);
    double step = 0;
    for (int y = 0; y < f.height; ++y)
      for (int x = 0; x + 1 < f.width; ++x) step += static_cast<double>(std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0)));
    return step / test::deviationOf(f, 0);
  };
  QVERIFY(roughness(2) > 1.1 * roughness(1));
  QVERIFY(roughness(4) > 1.1 * roughness(2));
}

QTEST_GUILESS_MAIN(TestCells)
#include "tst_cells.moc"
