#include "base/outline.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"

namespace oa {
namespace {

Point mixPoints(Point a, Point b, double t) { return {mix(a.x, b.x, t), mix(a.y, b.y, t)}; }
Point sum(Point a, Point b, Point c) { return {a.x + b.x - c.x, a.y + b.y - c.y}; }

struct CubicPiece {
  Point a, b, c, d;
  [[nodiscard]] bool straight() const { return a == b && c == d; }
  [[nodiscard]] Point at(double t) const {
    // Evenly from end to end.
    if (straight()) return mixPoints(a, d, t);
    const double s = 1 - t;
    const double wa = s * s * s;
    const double wb = 3 * s * s * t;
    const double wc = 3 * s * t * t;
    const double wd = t * t * t;
    return {wa * a.x + wb * b.x + wc * c.x + wd * d.x, wa * a.y + wb * b.y + wc * c.y + wd * d.y};
  }
};

CubicPiece pieceOf(const Outline& o, std::size_t i) {
  const OutlinePoint& from = o.points[i];
  const OutlinePoint& to = o.points[(i + 1) % o.points.size()];
  return {from.at, from.after, to.before, to.at};
}

}  // namespace

Outline mixOutlines(const Outline& a, const Outline& b, double t) {
  if (a.points.size() != b.points.size()) return t < 0.5 ? a : b;
  Outline made = a;
  for (std::size_t i = 0; i < made.points.size(); ++i) {
    OutlinePoint& p = made.points[i];
    p = {mixPoints(p.at, b.points[i].at, t), mixPoints(p.before, b.points[i].before, t), mixPoints(p.after, b.points[i].after, t)};
  }
  return made;
}

Outline addOutlines(const Outline& value, const Outline& base, const Outline& led) {
  if (value.points.size() != base.points.size() || value.points.size() != led.points.size()) return value;
  Outline made = value;
  for (std::size_t i = 0; i < made.points.size(); ++i) {
    OutlinePoint& p = made.points[i];
    const OutlinePoint& l = led.points[i];
    const OutlinePoint& b = base.points[i];
    p = {sum(p.at, l.at, b.at), sum(p.before, l.before, b.before), sum(p.after, l.after, b.after)};
  }
  return made;
}

std::size_t pieceCount(const Outline& outline) {
  const std::size_t n = outline.points.size();
  return n < 2 ? 0 : outline.closed ? n : n - 1;
}

Point placeOn(const Outline& outline, std::size_t piece, double t) { return pieceOf(outline, piece).at(t); }

Outline withPointOn(const Outline& outline, std::size_t piece, double t) {
  Outline made = outline;
  const CubicPiece p = pieceOf(outline, piece);
  OutlinePoint& from = made.points[piece];
  OutlinePoint& to = made.points[(piece + 1) % made.points.size()];
  if (p.straight()) {
    const Point at = mixPoints(p.a, p.d, t);
    made.points.insert(made.points.begin() + static_cast<std::ptrdiff_t>(piece) + 1, {at, at, at});
    return made;
  }
  // De Casteljau's construction.
  const Point ab = mixPoints(p.a, p.b, t);
  const Point bc = mixPoints(p.b, p.c, t);
  const Point cd = mixPoints(p.c, p.d, t);
  const Point left = mixPoints(ab, bc, t);
  const Point right = mixPoints(bc, cd, t);
  from.after = ab;
  to.before = cd;
  made.points.insert(made.points.begin() + static_cast<std::ptrdiff_t>(piece) + 1, {mixPoints(left, right, t), left, right});
  return made;
}

std::vector<Point> flattened(const Outline& outline, double tolerance, std::size_t most) {
  std::vector<Point> line;
  if (outline.points.empty()) return line;
  line.push_back(outline.points.front().at);
  const std::size_t pieces = pieceCount(outline);
  for (std::size_t i = 0; i < pieces; ++i) {
    const CubicPiece p = pieceOf(outline, i);
    int parts = 1;
    if (!p.straight()) {
      // Off a straight line by at most an eighth of its second difference over the square of the parts.
      const double x = std::max(std::abs(p.a.x - 2 * p.b.x + p.c.x), std::abs(p.b.x - 2 * p.c.x + p.d.x));
      const double y = std::max(std::abs(p.a.y - 2 * p.b.y + p.c.y), std::abs(p.b.y - 2 * p.c.y + p.d.y));
      const double wanted = std::sqrt(0.75 * std::hypot(x, y) / std::max(1e-6, tolerance));
      const double allowed = std::max(1.0, static_cast<double>(most) / static_cast<double>(pieces));
      parts = static_cast<int>(std::clamp(std::ceil(wanted), 1.0, std::min(256.0, allowed)));
    }
    for (int k = 1; k <= parts; ++k) line.push_back(k == parts ? p.d : p.at(static_cast<double>(k) / parts));
  }
  return line;
}

Outline circleOutline(double radius) {
  // Four arcs, each off a circle by less than a thousandth of its radius.
  const double k = radius * 0.5522847498307936;
  Outline made;
  made.points = {{{0, -radius}, {-k, -radius}, {k, -radius}},
                 {{radius, 0}, {radius, -k}, {radius, k}},
                 {{0, radius}, {k, radius}, {-k, radius}},
                 {{-radius, 0}, {-radius, k}, {-radius, -k}}};
  return made;
}

}  // namespace oa
