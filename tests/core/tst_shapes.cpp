// Shapes and spreads: coverage against areas counted finely, distances of scattered places, passes and their density.
#include <QTest>
#include <cmath>
#include <functional>
#include <map>
#include <numbers>

#include "base/random.h"
#include "shapes/marks.h"
#include "shapes/scattered.h"
#include "shapes/spread.h"
#include "image/sampling.h"
#include "support/pictures.h"

using namespace oa;

namespace {

constexpr double kPi = std::numbers::pi;

PlaneView frame(int width, int height) { return PlaneView::cover(width, height, width, height); }

// The opacity of one white mark, pixel by pixel.
std::vector<double> painted(const MarkShape& shape, const MarkPlace& place, const PlaneView& view) {
  Mark mark;
  float fainter = 1;
  Marks marks;
  if (placeMark(mark, shape, place, view, fainter)) {
    mark.colour = {fainter, fainter, fainter, fainter};
    marks.push_back(mark);
  }
  const auto rows = markRows({shape}, marks, {}, MarkBlend::Over, view);
  const std::ptrdiff_t stride = paddedRow(view.width, 4);
  std::vector<float> out(static_cast<std::size_t>(stride) * static_cast<std::size_t>(view.height));
  rows->rows(0, view.height, out.data(), stride);
  std::vector<double> alpha;
  for (int y = 0; y < view.height; ++y)
    for (int x = 0; x < view.width; ++x) alpha.push_back(static_cast<double>(out[static_cast<std::size_t>(y * stride + x * 4 + 3)]));
  return alpha;
}

double sumOf(const std::vector<double>& values) {
  double sum = 0;
  for (const double v : values) sum += v;
  return sum;
}

MarkShape circle(double radius) {
  MarkShape shape;
  shape.outline.kind = OutlineShape::Kind::Circle;
  shape.outline.a = shape.halfWidth = shape.halfHeight = radius;
  return shape;
}

MarkShape box(double a, double b) {
  MarkShape shape;
  shape.outline.a = shape.halfWidth = a;
  shape.outline.b = shape.halfHeight = b;
  return shape;
}

// Whether a place, counted from the middle, lies within: said in another way than by distances.
using Inside = std::function<bool(double x, double y)>;

// The share of each pixel that lies within, counted in 32 x 32 parts.
std::vector<double> counted(const Inside& inside, const MarkPlace& place, int width, int height) {
  constexpr int kParts = 32;
  const double c = std::cos(place.turn * kPi / 180);
  const double s = std::sin(place.turn * kPi / 180);
  std::vector<double> shares;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      int within = 0;
      for (int i = 0; i < kParts * kParts; ++i) {
        const double px = x + (i % kParts + 0.5) / kParts - place.at.x;
        const int down = i / kParts;
        const double py = y + (down + 0.5) / kParts - place.at.y;
        within += inside((px * c + py * s) / place.size, (py * c - px * s) / place.size);
      }
      shares.push_back(within / static_cast<double>(kParts * kParts));
    }
  return shares;
}

}  // namespace

class TestShapes : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void coverageIsThatOfTheArea_data();
  void coverageIsThatOfTheArea();
  void smallOnesKeepTheirArea();
  void largeOnesKeepItAndAreOpaque();
  void blendsAreTheirFormulas();
  void everyTargetPaintsTheSame();
  void picturesAreReadWhereTheyLie();
  void whatIsEmptyIsPassedOverAlone();
  void whatIsNotSeenCostsNothing();
  void scatteredPlacesKeepTheirDistance();
  void gridsTravelRoundOutOfSight();
  void everyCopyMakesWholePasses();
  void asManyAreInSightAtAnyMoment();
  void linesHangEvenly();
  void ordersFollowTheirNames();
};

void TestShapes::coverageIsThatOfTheArea_data() {
  QTest::addColumn<int>("which");
  for (int i = 0; i < 9; ++i) QTest::newRow(qPrintable(QString::number(i))) << i;
}

void TestShapes::coverageIsThatOfTheArea() {
  QFETCH(int, which);
  MarkShape shape = box(17, 9);
  Inside inside = [](double x, double y) { return std::abs(x) < 17 && std::abs(y) < 9; };
  switch (which) {
    case 1:
      shape = circle(13.3);
      inside = [](double x, double y) { return std::hypot(x, y) < 13.3; };
      break;
    case 2:  // a ring
      shape = circle(15);
      shape.outline.line = 4;
      inside = [](double x, double y) { return std::hypot(x, y) < 15 && std::hypot(x, y) > 11; };
      break;
    case 3:  // round corners
      shape = box(17, 9);
      shape.outline.round = 5;
      shape.outline.a = 12;
      shape.outline.b = 4;
      inside = [](double x, double y) { return std::hypot(std::max(0.0, std::abs(x) - 12), std::max(0.0, std::abs(y) - 4)) < 5; };
      break;
    case 4:  // a star, by the sum of angles
    case 5: {
      shape = box(16, 16);
      placeCorners(shape.outline, 5, which == 4, which == 4 ? 0.45 : 1);
      const OutlineShape outline = shape.outline;
      inside = [outline](double x, double y) {
        double sum = 0;
        for (int i = 0; i < outline.corners; ++i) {
          const Point p = outline.at[static_cast<std::size_t>(i)];
          const Point q = outline.at[static_cast<std::size_t>((i + 1) % outline.corners)];
          const double ax = p.x - x;
          const double ay = p.y - y;
          const double bx = q.x - x;
          const double by = q.y - y;
          sum += std::atan2(ax * by - ay * bx, ax * bx + ay * by);
        }
        return std::abs(sum) > kPi;
      };
      break;
    }
    case 6:  // an arc with round ends, open below by a quarter
      shape = circle(15);
      shape.outline.kind = OutlineShape::Kind::Arc;
      shape.outline.a = 12;
      shape.outline.round = 3;
      shape.outline.open = {std::sin(kPi / 4), std::cos(kPi / 4)};
      inside = [](double x, double y) {
        const double end = 12 * std::sqrt(0.5);
        const bool along = std::abs(std::hypot(x, y) - 12) < 3 && std::atan2(std::abs(x), y) > kPi / 4;
        return along || std::hypot(std::abs(x) - end, y - end) < 3;
      };
      break;
    case 7:  // a drop: its circle, and what lies between the tangents through its point
      shape = box(8, 16);
      shape.outline.kind = OutlineShape::Kind::Drop;
      inside = [](double x, double y) {
        if (std::hypot(x, y - 8) < 8) return true;
        const double reach = 24;  // from the circle's middle up to the point
        const double half = std::asin(8 / reach);
        const double below = y + 16;
        return below > 0 && below < reach - 8 * std::sin(half) && std::abs(x) < below * std::tan(half);
      };
      break;
    case 8:  // a petal: two circles
      shape = box(7, 15);
      shape.outline.kind = OutlineShape::Kind::Petal;
      inside = [](double x, double y) {
        const double radius = (7.0 * 7 + 15.0 * 15) / 14;
        return std::hypot(x - (radius - 7), y) < radius && std::hypot(x + (radius - 7), y) < radius;
      };
      break;
    default:
      break;
  }
  for (const MarkPlace place : {MarkPlace{{24.3, 23.6}}, MarkPlace{{24, 24}, 33, 0.8}, MarkPlace{{24.5, 24.1}, 118, 1.2}}) {
    const auto made = painted(shape, place, frame(48, 48));
    const auto truth = counted(inside, place, 48, 48);
    double worst = 0;
    for (std::size_t i = 0; i < made.size(); ++i) worst = std::max(worst, std::abs(made[i] - truth[i]));
    // By distance an edge is straight within a pixel: only corners and ends of it differ more than a little.
    QVERIFY2(worst < (which == 4 || which == 8 || which == 7 ? 0.34 : which == 0 ? 0.26 : 0.13), qPrintable(QString::number(worst)));
    QVERIFY2(std::abs(sumOf(made) - sumOf(truth)) < 0.012 * sumOf(truth) + 0.5,
             qPrintable(QStringLiteral("%1 of %2").arg(sumOf(made)).arg(sumOf(truth))));
  }
}

void TestShapes::smallOnesKeepTheirArea() {
  for (const double radius : {0.1, 0.25, 0.4, 0.6, 0.9, 1.3, 2.5}) {
    // Over all ways to lie between pixels.
    double sum = 0;
    for (int i = 0; i < 8; ++i)
      for (int k = 0; k < 8; ++k) sum += sumOf(painted(circle(radius), {{8 + k / 8.0, 8 + i / 8.0}}, frame(16, 16)));
    const double area = kPi * radius * radius;
    QVERIFY2(std::abs(sum / 64 - area) < 0.04 * area, qPrintable(QStringLiteral("%1: %2 of %3").arg(radius).arg(sum / 64).arg(area)));
    sum = 0;
    for (int i = 0; i < 8; ++i)
      for (int k = 0; k < 8; ++k) sum += sumOf(painted(box(6, radius / 2), {{10 + k / 8.0, 10 + i / 8.0}}, frame(20, 20)));
    QVERIFY2(std::abs(sum / 64 - 12 * radius) < 0.06 * 12 * radius, qPrintable(QStringLiteral("%1: %2").arg(radius).arg(sum / 64)));
  }
}

// From thin to thick neither jumps: the area at every size, and what is thick covers.
void TestShapes::largeOnesKeepItAndAreOpaque() {
  double before = 0;
  for (double radius = 1.5; radius < 13; radius += 0.1) {
    const auto made = painted(circle(radius), {{16.3, 15.8}}, frame(32, 32));
    const double area = kPi * radius * radius;
    QVERIFY2(std::abs(sumOf(made) / area - 1) < 0.004, qPrintable(QStringLiteral("%1: %2 of %3").arg(radius).arg(sumOf(made)).arg(area)));
    const double middle = made[16 * 32 + 16];
    QVERIFY2(middle >= before - 1e-6 && middle > 0.96, qPrintable(QStringLiteral("%1: %2").arg(radius).arg(middle)));
    if (radius >= 4) QCOMPARE(middle, 1.0);
    before = middle;
  }
}

namespace {

// Discs of all kinds over each other.
Marks manyMarks(const std::vector<MarkShape>& shapes, const PlaneView& view, int count, SecondColours& seconds) {
  Marks marks;
  for (int i = 0; i < count; ++i) {
    const auto random = [&](std::uint64_t which) { return randomUnit(static_cast<std::uint64_t>(i) + 1, which); };
    Mark mark;
    float fainter = 1;
    mark.shape = static_cast<std::uint32_t>(static_cast<std::size_t>(i) % shapes.size());
    if (!placeMark(mark, shapes[mark.shape], {{random(0) * 140 - 10, random(1) * 100 - 10}, random(2) * 360, 0.1 + random(3)}, view,
                   fainter))
      continue;
    std::array<float, 4> second{};
    const auto alpha = static_cast<float>(0.2 + 0.7 * random(4)) * fainter;
    for (std::size_t c = 0; c < 3; ++c) {
      mark.colour[c] = alpha * static_cast<float>(random(5 + c));
      second[c] = alpha * static_cast<float>(random(8 + c));
    }
    mark.colour[3] = second[3] = alpha;
    seconds.push_back(second);
    marks.push_back(mark);
  }
  return marks;
}

std::vector<MarkShape> manyShapes() {
  std::vector<MarkShape> shapes{circle(12), box(14, 6), circle(10), circle(14)};
  shapes[1].outline.softness = 6;
  shapes[2].outline.kind = OutlineShape::Kind::Dot;
  shapes[3].graded = shapes[3].outwards = true;
  shapes[3].alongX = shapes[3].alongY = 1 / 14.0;
  shapes[0].glow = 9;
  shapes[0].glowStrength = 0.5;
  shapes.push_back(box(13, 13));
  placeCorners(shapes.back().outline, 6, true, 0.5);
  return shapes;
}

double worstAgainstPlain(MarkBlend blend) {
  const PlaneView view = frame(120, 80);
  const auto shapes = manyShapes();
  SecondColours seconds;
  const auto marks = manyMarks(shapes, view, 160, seconds);
  const auto rows = markRows(shapes, marks, seconds, blend, view);
  const std::ptrdiff_t stride = paddedRow(view.width, 4);
  std::vector<float> out(static_cast<std::size_t>(stride) * 80);
  // In bands that have nothing to do with how marks are sorted.
  for (int y = 0; y < 80; y += 7) rows->rows(y, std::min(80, y + 7), out.data() + y * stride, stride);
  double worst = 0;
  for (int y = 0; y < 80; ++y)
    for (int x = 0; x < 120; ++x) {
      const auto truth = plainMarkPixel(shapes, marks, seconds, blend, x, y);
      for (std::size_t c = 0; c < 4; ++c)
        worst = std::max(worst, std::abs(truth[c] - static_cast<double>(out[static_cast<std::size_t>(y * stride + x * 4) + c])));
    }
  return worst;
}

}  // namespace

void TestShapes::blendsAreTheirFormulas() {
  // One disc over another, at a pixel that both cover.
  const PlaneView view = frame(32, 32);
  Marks marks(2, Mark{});
  float fainter = 1;
  for (Mark& mark : marks) QVERIFY(placeMark(mark, circle(10), {{16, 16}}, view, fainter));
  marks[0].colour = {0.4f, 0, 0.2f, 0.5f};
  marks[1].colour = {0, 0.6f, 0.3f, 0.75f};
  const auto at = [&](MarkBlend blend) {
    const auto rows = markRows({circle(10)}, marks, {}, blend, view);
    std::vector<float> out(static_cast<std::size_t>(paddedRow(32, 4)));
    rows->rows(16, 17, out.data(), paddedRow(32, 4));
    return std::array{out[64], out[65], out[66], out[67]};
  };
  const auto same = [](const std::array<float, 4>& a, const std::array<float, 4>& b) {
    for (std::size_t c = 0; c < 4; ++c)
      if (std::abs(a[c] - b[c]) > 1e-6f) return false;
    return true;
  };
  QVERIFY(same(at(MarkBlend::Over), {0.1f, 0.6f, 0.35f, 0.875f}));
  QVERIFY(same(at(MarkBlend::Add), {0.4f, 0.6f, 0.5f, 1.0f}));
  QVERIFY(same(at(MarkBlend::Lighter), {0.4f, 0.6f, 0.3f, 0.75f}));
}

void TestShapes::everyTargetPaintsTheSame() {
  int targets = 0;
  test::forEachTarget([&](const char* target) {
    ++targets;
    for (const MarkBlend blend : {MarkBlend::Over, MarkBlend::Add, MarkBlend::Lighter}) QVERIFY2(worstAgainstPlain(blend) < 2e-4, target);
  });
  QVERIFY(targets >= 1);
}

// Single pixels, at the edges of blocks and within them, turned and sized: none is lost with the emptiness round it.
void TestShapes::whatIsEmptyIsPassedOverAlone() {
  Plane plane(40 + 2 * kPictureBorder, 40 + 2 * kPictureBorder, 4);
  for (int y = 0; y < plane.height(); ++y) std::fill_n(plane.row(y), plane.width() * 4, 0.0f);
  for (const auto& [x, y] : {std::pair{7, 7}, {8, 23}, {15, 16}, {24, 8}, {31, 32}, {40, 41}})
    for (int c = 0; c < 4; ++c) plane.row(y)[x * 4 + c] = 1;
  MarkShape shape;
  shape.halfWidth = shape.halfHeight = 20;
  shape.pictures = {std::make_shared<const StampPicture>(std::move(plane))};
  const PlaneView view = frame(128, 96);
  for (const double turn : {0.0, 17.0, 90.0, 233.0})
    for (const double size : {0.7, 1.0, 2.3}) {
      Marks marks{Mark{}};
      float fainter = 1;
      QVERIFY(placeMark(marks[0], shape, {{61.3, 47.8}, turn, size}, view, fainter));
      marks[0].colour[3] = 1;
      const auto rows = markRows({shape}, marks, {}, MarkBlend::Over, view);
      const Plane made = wholePlane(*rows, view.width, view.height);
      double seen = 0;
      for (int y = 0; y < view.height; ++y)
        for (int x = 0; x < view.width; ++x) {
          const auto plain = plainMarkPixel({shape}, marks, {}, MarkBlend::Over, x, y);
          seen += plain[3];
          QVERIFY(std::abs(plain[3] - static_cast<double>(made.row(y)[x * 4 + 3])) < 1e-3);
        }
      QVERIFY(seen > size);
    }
}

void TestShapes::picturesAreReadWhereTheyLie() {
  // A picture of a slope, shown as it is and twice as large, and turned by a quarter.
  Plane plane(20 + 2 * kPictureBorder, 10 + 2 * kPictureBorder, 4);
  for (int y = 0; y < plane.height(); ++y)
    for (int x = 0; x < plane.width(); ++x)
      for (int c = 0; c < 4; ++c) {
        const bool inside = x >= kPictureBorder && y >= kPictureBorder && x < 20 + kPictureBorder && y < 10 + kPictureBorder;
        plane.row(y)[x * 4 + c] = !inside ? 0 : c == 3 ? 1 : static_cast<float>((x - kPictureBorder + 0.5) / 20);
      }
  MarkShape shape;
  shape.halfWidth = 10;
  shape.halfHeight = 5;
  shape.pictures = {std::make_shared<const StampPicture>(std::move(plane))};
  const PlaneView view = frame(64, 64);
  for (const double turn : {0.0, 90.0}) {
    Marks marks{Mark{}};
    float fainter = 1;
    QVERIFY(placeMark(marks[0], shape, {{32, 32}, turn, 2}, view, fainter));
    marks[0].colour[3] = 0.5f;
    for (const int along : {-14, -6, 0, 5, 13}) {
      const int x = turn == 0 ? 32 + along : 31;
      const int y = turn == 0 ? 31 : 32 + along;
      const auto pixel = plainMarkPixel({shape}, marks, {}, MarkBlend::Over, x, y);
      QVERIFY(std::abs(pixel[3] - 0.5) < 1e-6);
      QVERIFY2(std::abs(pixel[0] - 0.5 * (0.5 + (along + 0.5) / 40)) < 1e-3, qPrintable(QString::number(pixel[0])));
    }
  }
}

void TestShapes::whatIsNotSeenCostsNothing() {
  Mark mark;
  float fainter = 1;
  const PlaneView view = frame(100, 60);
  for (const Point at : {Point{-12, 30}, {113, 30}, {50, -12}, {50, 73}}) QVERIFY(!placeMark(mark, circle(10), {at}, view, fainter));
  QVERIFY(placeMark(mark, circle(10), {{-9, 30}}, view, fainter));
  for (const double size : {0.0, -1.0, std::nan(""), 1.0 / 0.0}) QVERIFY(!placeMark(mark, circle(10), {{50, 30}, 0, size}, view, fainter));
  QVERIFY(!placeMark(mark, circle(10), {{std::nan(""), 30}}, view, fainter));
}

void TestShapes::scatteredPlacesKeepTheirDistance() {
  for (const std::uint64_t seed : {1, 2, 77}) {
    const double distance = 31;
    const auto places = poissonPlaces({640, 400}, distance, seed, 100000);
    double nearest = 1e9;
    for (std::size_t i = 0; i < places->size(); ++i)
      for (std::size_t k = i + 1; k < places->size(); ++k)
        nearest = std::min(nearest, std::hypot((*places)[i].x - (*places)[k].x, (*places)[i].y - (*places)[k].y));
    QVERIFY2(nearest >= distance, qPrintable(QString::number(nearest)));
    // And there is hardly room for another one anywhere.
    int free = 0;
    for (int i = 0; i < 4000; ++i) {
      const Point p{640 * randomUnit(9, 2 * static_cast<std::uint64_t>(i)), 400 * randomUnit(9, 2 * static_cast<std::uint64_t>(i) + 1)};
      double away = 1e9;
      for (const Point& q : *places) away = std::min(away, std::hypot(p.x - q.x, p.y - q.y));
      free += away >= distance;
    }
    QVERIFY2(free < 60, qPrintable(QString::number(free)));
    QVERIFY(*poissonPlaces({640, 400}, distance, seed, 100000) == *places);
    QVERIFY(*poissonPlaces({640, 400}, distance, seed + 1, 100000) != *places);
  }
  QVERIFY(poissonPlaces({4000, 4000}, 0.001, 1, 5000)->size() <= 5000);
}

namespace {

SpreadSettings spread(SpreadKind kind) {
  SpreadSettings s;
  s.kind = kind;
  s.frame = {400, 240};
  s.centre = {200, 120};
  s.margin = 20;
  s.distance = {50, 40};
  s.stagger = 0.5;
  return s;
}

// Farther from the frame than the margin, but for what one step brings it nearer.
bool hidden(const SpreadSettings& s, Point p, double step) {
  const double x = std::max({0.0, -p.x, p.x - s.frame.x});
  const double y = std::max({0.0, -p.y, p.y - s.frame.y});
  return std::hypot(x, y) >= s.margin - step;
}

std::map<std::uint64_t, Copy> byId(const PooledVector<Copy>& copies) {
  std::map<std::uint64_t, Copy> map;
  for (const Copy& copy : copies) map[copy.id()] = copy;
  return map;
}

}  // namespace

void TestShapes::gridsTravelRoundOutOfSight() {
  for (const SpreadKind kind : {SpreadKind::Grid, SpreadKind::Staggered, SpreadKind::Honeycomb})
    for (const double turn : {0.0, 25.0})
      for (const int limit : {0, 3}) {
        SpreadSettings s = spread(kind);
        s.turn = turn;
        s.columns = s.rows = limit;
        const auto first = byId(spreadCopies(s));
        auto before = first;
        constexpr int kSteps = 40;
        for (int k = 1; k <= kSteps; ++k) {
          s.travel = {static_cast<double>(k) / kSteps, -static_cast<double>(k) / kSteps};
          const auto now = byId(spreadCopies(s));
          QCOMPARE(now.size(), first.size());
          for (const auto& [id, copy] : now) {
            const Point was = before.at(id).at;
            // No farther than a step, or round from where nobody sees it to where nobody does.
            if (std::hypot(copy.at.x - was.x, copy.at.y - was.y) > 60) QVERIFY(hidden(s, was, 19) && hidden(s, copy.at, 19));
            if (k == kSteps) QVERIFY(std::hypot(copy.at.x - first.at(id).at.x, copy.at.y - first.at(id).at.y) < 1e-6);
          }
          before = now;
        }
        // Without a limit the frame is full: no place in it is farther from a copy than cells are large.
        if (limit > 0) continue;
        for (int i = 0; i < 200; ++i) {
          const Point p{400 * randomUnit(3, 2 * static_cast<std::uint64_t>(i)), 240 * randomUnit(3, 2 * static_cast<std::uint64_t>(i) + 1)};
          double away = 1e9;
          for (const auto& [id, copy] : before) away = std::min(away, std::hypot(p.x - copy.at.x, p.y - copy.at.y));
          QVERIFY(away < 36);
        }
      }
}

void TestShapes::everyCopyMakesWholePasses() {
  for (const int passes : {1, 2, -1})
    for (const double direction : {90.0, 0.0, 37.0, -120.0}) {
      SpreadSettings s = spread(SpreadKind::Falling);
      s.count = 60;
      s.passes = passes;
      s.depths = 3;
      s.direction = direction;
      const auto first = spreadCopies(s);
      std::vector<int> rounds(60, 0);
      auto before = first;
      constexpr int kSteps = 300;
      for (int k = 1; k <= kSteps; ++k) {
        s.done = static_cast<double>(k) / kSteps;
        const auto now = spreadCopies(s);
        for (std::size_t i = 0; i < now.size(); ++i) {
          if (std::hypot(now[i].at.x - before[i].at.x, now[i].at.y - before[i].at.y) < 100) continue;
          ++rounds[i];
          QVERIFY(hidden(s, before[i].at, 10) && hidden(s, now[i].at, 10));
        }
        before = now;
      }
      for (std::size_t i = 0; i < first.size(); ++i) {
        QVERIFY(std::hypot(before[i].at.x - first[i].at.x, before[i].at.y - first[i].at.y) < 1e-6);
        // The farthest as often as told, the nearest once more for each depth.
        const int depth = static_cast<int>(std::lround(first[i].row * 2));
        QCOMPARE(rounds[i], std::abs(passes) + depth);
      }
    }
}

void TestShapes::asManyAreInSightAtAnyMoment() {
  for (const double direction : {90.0, -70.0}) {
    SpreadSettings s = spread(SpreadKind::Falling);
    s.frame = {1920, 1080};
    s.margin = 40;
    s.count = 600;
    s.depths = 4;
    s.sway = 25;
    s.direction = direction;
    std::vector<int> counts;
    for (int k = 0; k < 24; ++k) {
      s.done = k / 24.0;
      int seen = 0;
      for (const Copy& copy : spreadCopies(s)) seen += copy.at.x > 0 && copy.at.y > 0 && copy.at.x < 1920 && copy.at.y < 1080;
      counts.push_back(seen);
    }
    for (const int count : counts)
      QVERIFY2(std::abs(count - counts[12]) <= 0.05 * counts[12], qPrintable(QStringLiteral("%1 and %2").arg(count).arg(counts[12])));
  }
}

void TestShapes::linesHangEvenly() {
  SpreadSettings s = spread(SpreadKind::Line);
  s.from = {20, 30};
  s.to = {380, 60};
  s.droop = 0.2;
  s.count = 25;
  s.lines = 2;
  s.gap = {5, 70};
  s.aligned = true;
  const auto copies = spreadCopies(s);
  QCOMPARE(copies.size(), std::size_t{50});
  QVERIFY(std::hypot(copies[0].at.x - 20, copies[0].at.y - 30) < 1e-9 && std::hypot(copies[24].at.x - 380, copies[24].at.y - 60) < 1e-9);
  QVERIFY(std::abs(copies[12].at.y - (45 + 0.2 * std::hypot(360, 30))) < 1.5);
  double least = 1e9;
  double most = 0;
  for (std::size_t i = 1; i < 25; ++i) {
    const double apart = std::hypot(copies[i].at.x - copies[i - 1].at.x, copies[i].at.y - copies[i - 1].at.y);
    least = std::min(least, apart);
    most = std::max(most, apart);
    QVERIFY(std::hypot(copies[i + 25].at.x - copies[i].at.x - 5, copies[i + 25].at.y - copies[i].at.y - 70) < 1e-9);
  }
  QVERIFY2(most < 1.02 * least, qPrintable(QStringLiteral("%1 to %2").arg(least).arg(most)));
  // Down at one end, up at the other.
  QVERIFY(copies[1].turn > 20 && copies[23].turn < -20);
}

void TestShapes::ordersFollowTheirNames() {
  for (const std::string_view name : spreadNames()) {
    SpreadSettings s = spread(spreadFromName(name));
    s.count = 40;
    s.rings = 3;
    s.radius = 100;
    s.inner = 10;
    s.to = {400, 0};
    s.path = {{0, 0}, {300, 100}, {100, 200}};
    const auto copies = spreadCopies(s);
    QVERIFY2(copies.size() >= 30, name.data());
    std::map<std::uint64_t, int> ids;
    for (const Copy& copy : copies) {
      for (const double share : {copy.along, copy.row, copy.column, copy.outwards}) QVERIFY2(share >= 0 && share <= 1, name.data());
      QVERIFY(copy.size >= 0 && copy.opacity >= 0 && copy.opacity <= 1);
      ++ids[copy.id()];
    }
    QCOMPARE(ids.size(), copies.size());
  }
  const auto grid = spreadCopies(spread(SpreadKind::Grid));
  for (const Copy& a : grid)
    for (const Copy& b : {grid.front(), grid[grid.size() / 2]}) {
      QCOMPARE(a.column < b.column, a.at.x < b.at.x - 1e-9);
      QCOMPARE(a.row < b.row, a.at.y < b.at.y - 1e-9);
      if (std::hypot(a.at.x - 200, a.at.y - 120) < std::hypot(b.at.x - 200, b.at.y - 120) - 1e-6) QVERIFY(a.outwards <= b.outwards);
    }
}

QTEST_APPLESS_MAIN(TestShapes)
#include "tst_shapes.moc"
