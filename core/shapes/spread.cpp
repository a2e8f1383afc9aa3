#include "shapes/spread.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "base/random.h"
#include "shapes/measured_line.h"
#include "shapes/scattered.h"

namespace oa {
namespace {

Point turned(Point p, double degrees) {
  if (degrees == 0) return p;
  const double c = std::cos(degrees * kDegree);
  const double s = std::sin(degrees * kDegree);
  return {p.x * c - p.y * s, p.x * s + p.y * c};
}

double halfDiagonal(const SpreadSettings& s) { return 0.5 * std::hypot(s.frame.x, s.frame.y); }

// How far the frame with its margin reaches from the centre, along each axis of the spread as it is turned.
Point reachOf(const SpreadSettings& s) {
  const double x = std::max(std::abs(s.centre.x), std::abs(s.frame.x - s.centre.x)) + s.margin;
  const double y = std::max(std::abs(s.centre.y), std::abs(s.frame.y - s.centre.y)) + s.margin;
  if (s.turn == 0) return {x, y};
  const double far = std::hypot(x, y);
  return {far, far};
}

// One axis of a grid: cells [first, first + count), and the length after which they come round again.
struct Axis {
  int first = 0;
  int count = 1;
  bool limited = false;
  double cell = 1;
  double period = 1;
  [[nodiscard]] double at(int i) const { return (limited ? i - 0.5 * (count - 1) : i) * cell; }
  // About the middle of all cells: that of an even count lies beside a cell's own.
  [[nodiscard]] double wrapped(double place, double gone) const {
    const double middle = limited ? 0 : 0.5 * cell;
    return (fract((place - middle) / period + gone + 0.5) - 0.5) * period + middle;
  }
  [[nodiscard]] double share(int i) const { return count > 1 ? (i - first) / static_cast<double>(count - 1) : 0; }
};

Axis axisOf(double cell, int limit, double reach, int most) {
  Axis axis;
  axis.cell = std::max(1.0, cell);
  if (limit > 0) {
    axis.limited = true;
    axis.count = std::min(limit, most);
    // Round again only out of sight.
    axis.period = std::max(axis.count * axis.cell, 2 * reach);
    return axis;
  }
  const int n = static_cast<int>(std::min(std::ceil(reach / axis.cell), most / 2.0 - 1));
  axis.first = -n;
  axis.count = 2 * n + 2;  // even: rows that are shifted by turns come round
  axis.period = axis.count * axis.cell;
  return axis;
}

PooledVector<Copy> grid(const SpreadSettings& s) {
  Point cell = s.distance;
  double stagger = s.kind == SpreadKind::Staggered ? s.stagger : 0;
  if (s.kind == SpreadKind::Honeycomb) {
    cell.y = cell.x * std::numbers::sqrt3 / 2;
    stagger = 0.5;
  }
  const Point reach = reachOf(s);
  constexpr int kMostOnAxis = 1000;
  const Axis across = axisOf(cell.x, s.columns, reach.x, kMostOnAxis);
  const Axis down = axisOf(cell.y, s.rows, reach.y, kMostOnAxis);
  const double far = std::max(1.0, 0.5 * std::hypot(across.count * across.cell, down.count * down.cell));
  PooledVector<Copy> copies;
  copies.reserve(static_cast<std::size_t>(across.count) * static_cast<std::size_t>(down.count));
  for (int j = 0; j < down.count; ++j) {
    const int row = down.first + j;
    // Where rows are shifted by turns, all of them together stay in the middle.
    const double shift = floorMod(row, 2) == 1 ? stagger * across.cell / 2 : -stagger * across.cell / 2;
    for (int i = 0; i < across.count; ++i) {
      const int column = across.first + i;
      Copy& copy = copies.emplace_back();
      Point p{across.at(column) + shift, down.at(row)};
      const double outwards = std::min(1.0, std::hypot(p.x, p.y) / far);
      if (!across.limited || s.travel.x != 0) p.x = across.wrapped(p.x, s.travel.x);
      if (!down.limited || s.travel.y != 0) p.y = down.wrapped(p.y, s.travel.y);
      const Point q = turned(p, s.turn);
      copy.at = {s.centre.x + q.x, s.centre.y + q.y};
      copy.turn = s.turn;
      // Columns are built from below.
      copy.stand((j * static_cast<double>(across.count) + i) / (static_cast<double>(across.count) * down.count),
                 s.kind == SpreadKind::Columns ? 1 - down.share(row) : down.share(row), across.share(column), outwards);
      copy.key = static_cast<std::uint64_t>(static_cast<std::uint32_t>(row)) << 32 | static_cast<std::uint32_t>(column);
    }
  }
  return copies;
}

PooledVector<Copy> ring(const SpreadSettings& s) {
  PooledVector<Copy> copies;
  const int count = std::max(1, s.count);
  for (int k = 0; k < s.rings; ++k) {
    const double share = s.rings > 1 ? static_cast<double>(k) / (s.rings - 1) : 1;
    const double radius = mix(s.inner, s.radius, share);
    for (int i = 0; i < count && copies.size() < kMostCopies; ++i) {
      Copy& copy = copies.emplace_back();
      const double turn = s.turn - 90 + 360 * (i + (k % 2 == 1 ? s.stagger : 0)) / count;
      const Point p = turned({radius, 0}, turn);
      copy.at = {s.centre.x + p.x, s.centre.y + p.y};
      copy.turn = s.aligned ? turn + 90 : 0;
      const double along = static_cast<double>(i) / count;
      copy.stand(along, s.rings > 1 ? share : 0, along, s.rings > 1 ? share : 0);
      copy.key = static_cast<std::uint64_t>(k) << 32 | static_cast<std::uint64_t>(i);
    }
  }
  return copies;
}

PooledVector<Copy> spiral(const SpreadSettings& s) {
  PooledVector<Copy> copies;
  const int count = std::max(1, s.count);
  for (int i = 0; i < count; ++i) {
    Copy& copy = copies.emplace_back();
    const double t = (i + 0.5) / count;
    double turn = s.turn;
    double radius = 0;
    if (s.kind == SpreadKind::Sunflower) {
      // By the golden angle (H. Vogel, "A better way to construct the sunflower head", Mathematical Biosciences 1979).
      turn += i * 137.50776405003785;
      radius = std::sqrt(mix(s.inner * s.inner, s.radius * s.radius, t));
    } else {
      // Evenly along the line: its length grows with the square of the radius.
      radius = std::sqrt(mix(s.inner * s.inner, s.radius * s.radius, t));
      turn += 360 * s.turns * (s.radius > s.inner ? (radius - s.inner) / (s.radius - s.inner) : t) - 90;
    }
    const Point p = turned({radius, 0}, turn);
    copy.at = {s.centre.x + p.x, s.centre.y + p.y};
    copy.turn = s.aligned ? turn + 90 : 0;
    copy.stand(t, t, fract(turn / 360), s.radius > 0 ? std::min(1.0, radius / s.radius) : 0);
    copy.key = static_cast<std::uint64_t>(i);
  }
  return copies;
}

constexpr int kLineParts = 64;

// A line that droops by a share of its length, as a parabola: near enough to a chain for what hangs so flat.
std::vector<Point> lineOf(const SpreadSettings& s, int line) {
  const Point from{s.from.x + s.gap.x * line, s.from.y + s.gap.y * line};
  const Point to{s.to.x + s.gap.x * line, s.to.y + s.gap.y * line};
  const double deep = s.droop * std::hypot(to.x - from.x, to.y - from.y);
  std::vector<Point> points;
  for (int i = 0; i <= kLineParts; ++i) {
    const double t = static_cast<double>(i) / kLineParts;
    points.push_back({mix(from.x, to.x, t), mix(from.y, to.y, t) + deep * 4 * t * (1 - t)});
  }
  return points;
}

// Along lines that hang, or along a path.
PooledVector<Copy> along(const SpreadSettings& s) {
  PooledVector<Copy> copies;
  const bool path = s.kind == SpreadKind::Path;
  const int lines = path ? 1 : s.lines;
  for (int l = 0; l < lines; ++l) {
    const MeasuredLine line(path ? s.path : lineOf(s, l), path && s.closed);
    const double length = line.length();
    const bool byDistance = s.apart > 0 && length > 0;
    const auto most = static_cast<double>(kMostCopies - copies.size());
    const int count =
        static_cast<int>(std::clamp(byDistance ? std::floor(length / s.apart) + (line.closed() ? 0 : 1) : s.count, 1.0, most));
    for (int i = 0; i < count; ++i) {
      // Round a closed line the last one does not stand where the first does.
      const double even = line.closed() || (path && s.passes != 0) ? static_cast<double>(i) / count
                          : count > 1                              ? static_cast<double>(i) / (count - 1)
                                                                   : 0.5;
      const double own = byDistance && !line.closed() ? i * s.apart / length : even;
      const double t = path ? (s.passes == 0 ? own : fract(own + s.passes * s.done)) : own;
      const MeasuredLine::Place place = line.at(t);
      Copy& copy = copies.emplace_back();
      copy.at = place.at;
      if (s.aligned) copy.turn = std::atan2(place.along.y, place.along.x) / kDegree;
      // Where an open path ends they grow and go.
      if (path && !line.closed() && s.passes != 0) copy.size = std::min({1.0, t * 14, (1 - t) * 14});
      copy.stand(own, lines > 1 ? static_cast<double>(l) / (lines - 1) : 0, own, std::abs(2 * own - 1));
      copy.key = static_cast<std::uint64_t>(l) << 32 | static_cast<std::uint64_t>(i);
    }
  }
  return copies;
}

CopyMaker scattered(const SpreadSettings& s) {
  const Point size{s.frame.x + 2 * s.margin, s.frame.y + 2 * s.margin};
  std::shared_ptr<const std::vector<Point>> places;
  if (s.even) places = poissonPlaces(size, std::max(1.0, s.distance.x), s.seed, 100000);
  const auto count = places ? places->size() : static_cast<std::size_t>(std::max(1, s.count));
  // Divisions are what takes time here.
  const double perReach = 1 / (2 * halfDiagonal(s));
  const double perCopy = 1 / static_cast<double>(count);
  const Point share{1 / size.x, 1 / size.y};
  return {count, [s, size, places, perReach, perCopy, share](std::size_t i, Copy& copy) {
            const Point p = places ? (*places)[i] : Point{size.x * randomUnit(s.seed, 2 * i), size.y * randomUnit(s.seed, 2 * i + 1)};
            copy.at = {p.x - s.margin, p.y - s.margin};
            const Point away{copy.at.x - s.centre.x, copy.at.y - s.centre.y};
            copy.stand(static_cast<double>(i) * perCopy, std::clamp(p.y * share.y, 0.0, 1.0), std::clamp(p.x * share.x, 0.0, 1.0),
                       std::min(1.0, std::sqrt(away.x * away.x + away.y * away.y) * perReach));
            copy.key = i;
          }};
}

// Each copy makes a whole number of passes over a way that is as long as the frame and as what it takes to be out of sight at both
// ends, from a place of its own on it: there are as many in sight at any moment.
CopyMaker falling(const SpreadSettings& s) {
  const double c = std::cos(s.direction * kDegree);
  const double n = std::sin(s.direction * kDegree);
  const double way = std::abs(c) * s.frame.x + std::abs(n) * s.frame.y + 2 * s.margin;
  const double wide = std::abs(n) * s.frame.x + std::abs(c) * s.frame.y + 2 * s.margin;
  const int depths = std::max(1, s.depths);
  const auto count = static_cast<std::size_t>(std::max(1, s.count));
  // The farthest are drawn first. There are more of them, as there would be: as many as their size leaves room for.
  const auto shareOf = [count](std::size_t i) { return (static_cast<double>(i) + 0.5) / static_cast<double>(count); };
  const auto depthOf = [shareOf, depths](std::size_t i) {
    const double share = shareOf(i);
    return std::min(depths - 1, static_cast<int>(depths * share * (share + 1) * 0.5));
  };
  std::vector<std::size_t> first(static_cast<std::size_t>(depths), count);
  for (std::size_t i = count; i-- > 0;) first[static_cast<std::size_t>(depthOf(i))] = i;
  return {count, [s, c, n, way, wide, depths, shareOf, depthOf, first](std::size_t i, Copy& copy) {
            const int depth = depthOf(i);
            const double near = depths > 1 ? static_cast<double>(depth) / (depths - 1) : 1;
            const std::uint64_t k = i - first[static_cast<std::size_t>(depth)];
            const Point place = evenPlace(k, mix64(s.seed + static_cast<std::uint64_t>(depth) * 977));
            const int passes = s.passes < 0 ? s.passes - depth : s.passes > 0 ? s.passes + depth : 0;
            const double own = randomUnit(s.seed, 7000003 + i);
            const double gone = fract(place.y + passes * s.done);
            const double side =
                s.sway * std::sin(2 * std::numbers::pi * (s.done * (passes == 0 ? 1 : passes) * 2 + own)) * mix(s.far, 1, near);
            const double a = (gone - 0.5) * way;
            const double b = (place.x - 0.5) * wide + side;
            copy.at = {0.5 * s.frame.x + c * a - n * b, 0.5 * s.frame.y + n * a + c * b};
            copy.size = mix(s.far, 1, near);
            copy.opacity = 1 - s.faded * (1 - near);
            copy.stand(shareOf(i), near, place.x, near);
            copy.key = i;
          }};
}

// Each grows from the centre out to the radius, and is there again when it has gone.
PooledVector<Copy> passing(const SpreadSettings& s) {
  const auto count = static_cast<std::size_t>(std::max(1, s.count));
  PooledVector<Copy> copies;
  std::vector<double> far(count);
  for (std::size_t i = 0; i < count; ++i) {
    Copy& copy = copies.emplace_back();
    const double own = static_cast<double>(i) / static_cast<double>(count);
    const double t = fract(own + s.passes * s.done);
    // As what comes nearer at an even speed does.
    const double reach = t / (1 + s.hurry * 4 * (1 - t));
    far[i] = t;
    copy.at = s.centre;
    copy.size = reach;
    copy.turn = s.turn * t;
    // It is not there all at once, nor gone all at once.
    copy.opacity = std::min(1.0, t * 8) * (s.faded > 0 ? std::min(1.0, (1 - t) / s.faded) : 1);
    copy.stand(own, own, own, own);
    copy.number = static_cast<std::uint32_t>(i);
    copy.key = i;
  }
  // The largest, which are behind, first.
  std::vector<std::size_t> order(count);
  for (std::size_t i = 0; i < count; ++i) order[i] = i;
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return far[a] > far[b]; });
  PooledVector<Copy> sorted;
  for (const std::size_t i : order) sorted.push_back(copies[i]);
  return sorted;
}

}  // namespace

const std::vector<std::string_view>& spreadNames() {
  static const std::vector<std::string_view> names{"grid", "staggered", "honeycomb", "ring",    "spiral",  "sunflower",
                                                   "line", "path",      "scattered", "falling", "columns", "passing"};
  return names;
}

SpreadKind spreadFromName(std::string_view name) {
  const auto& names = spreadNames();
  const auto found = std::find(names.begin(), names.end(), name);
  return found == names.end() ? SpreadKind::Grid : static_cast<SpreadKind>(found - names.begin());
}

std::vector<std::vector<Point>> spreadLines(const SpreadSettings& settings) {
  std::vector<std::vector<Point>> lines;
  if (settings.kind == SpreadKind::Line)
    for (int l = 0; l < settings.lines; ++l) lines.push_back(lineOf(settings, l));
  if (settings.kind == SpreadKind::Path && settings.path.size() > 1) lines.push_back(settings.path);
  return lines;
}

std::vector<Point> ellipseLine(Point centre, double a, double b) {
  constexpr int kParts = 96;
  std::vector<Point> line;
  for (int i = 0; i <= kParts; ++i) {
    const double turn = 2 * std::numbers::pi * i / kParts;
    line.push_back({centre.x + a * std::cos(turn), centre.y + b * std::sin(turn)});
  }
  return line;
}

std::vector<std::vector<Point>> spreadSkeleton(const SpreadSettings& s) {
  const auto placed = [&](Point p) {
    const Point q = turned(p, s.turn);
    return Point{s.centre.x + q.x, s.centre.y + q.y};
  };
  switch (s.kind) {
    case SpreadKind::Grid:
    case SpreadKind::Staggered:
    case SpreadKind::Honeycomb:
    case SpreadKind::Columns: {
      // The cell in the middle, and the two ways that cells follow each other in.
      const double x = s.distance.x;
      const double y = s.kind == SpreadKind::Honeycomb ? x * std::numbers::sqrt3 / 2 : s.distance.y;
      return {
          {placed({-x / 2, -y / 2}), placed({x / 2, -y / 2}), placed({x / 2, y / 2}), placed({-x / 2, y / 2}), placed({-x / 2, -y / 2})},
          {placed({x / 2, 0}), placed({1.5 * x, 0})},
          {placed({0, y / 2}), placed({0, 1.5 * y})}};
    }
    case SpreadKind::Ring: {
      std::vector<std::vector<Point>> rings;
      for (int k = 0; k < std::min(s.rings, 24); ++k) {
        const double radius = mix(s.inner, s.radius, s.rings > 1 ? static_cast<double>(k) / (s.rings - 1) : 1);
        rings.push_back(ellipseLine(s.centre, radius, radius));
      }
      return rings;
    }
    case SpreadKind::Spiral: {
      // Through as many places as make it round.
      SpreadSettings fine = s;
      fine.count = static_cast<int>(std::clamp(std::abs(s.turns) * 64, 64.0, 4000.0));
      std::vector<Point> line;
      for (const Copy& copy : spiral(fine)) line.push_back(copy.at);
      return {line};
    }
    case SpreadKind::Sunflower:
      return {ellipseLine(s.centre, s.radius, s.radius), ellipseLine(s.centre, s.inner, s.inner)};
    case SpreadKind::Falling: {
      // An arrow through the middle of the frame.
      const Point middle{s.frame.x / 2, s.frame.y / 2};
      const double length = 0.18 * std::min(s.frame.x, s.frame.y) * (s.passes < 0 ? -1 : 1);
      const auto at = [&](double along, double aside) {
        const Point q = turned({along * length, aside * length}, s.direction);
        return Point{middle.x + q.x, middle.y + q.y};
      };
      return {{at(-1, 0), at(1, 0)}, {at(0.75, -0.16), at(1, 0), at(0.75, 0.16)}};
    }
    case SpreadKind::Passing: {
      const double far = 0.1 * std::min(s.frame.x, s.frame.y);
      return {ellipseLine(s.centre, far, far), ellipseLine(s.centre, 2 * far, 2 * far), ellipseLine(s.centre, 3.4 * far, 3.4 * far)};
    }
    default:
      return spreadLines(s);
  }
}

namespace {

PooledVector<Copy> made(const SpreadSettings& settings) {
  switch (settings.kind) {
    case SpreadKind::Grid:
    case SpreadKind::Staggered:
    case SpreadKind::Honeycomb:
    case SpreadKind::Columns:
      return grid(settings);
    case SpreadKind::Ring:
      return ring(settings);
    case SpreadKind::Spiral:
    case SpreadKind::Sunflower:
      return spiral(settings);
    case SpreadKind::Line:
    case SpreadKind::Path:
      return along(settings);
    default:
      return passing(settings);
  }
}

}  // namespace

CopyMaker copyMaker(const SpreadSettings& settings) {
  if (settings.kind == SpreadKind::Scattered) return scattered(settings);
  if (settings.kind == SpreadKind::Falling) return falling(settings);
  auto copies = std::make_shared<PooledVector<Copy>>(made(settings));
  // What passes is drawn in another order at every moment, and knows its number.
  if (settings.kind != SpreadKind::Passing)
    for (std::size_t i = 0; i < copies->size(); ++i) (*copies)[i].number = static_cast<std::uint32_t>(i);
  const std::size_t count = copies->size();
  return {count, [copies = std::move(copies)](std::size_t i, Copy& copy) { copy = (*copies)[i]; }};
}

PooledVector<Copy> spreadCopies(const SpreadSettings& settings) {
  const CopyMaker maker = copyMaker(settings);
  PooledVector<Copy> copies(maker.count);
  for (std::size_t i = 0; i < maker.count; ++i) copies[i] = maker.at(i);
  return copies;
}

}  // namespace oa
