// A line through points, with corners or curves, open or closed.
#pragma once

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"

namespace oa {

/// A point with the two that pull at the line beside it, as in a cubic Bézier spline; where they lie on the point itself the line
/// runs straight from there.
struct OutlinePoint {
  Point at;
  Point before = at;
  Point after = at;
  bool operator==(const OutlinePoint&) const = default;
};

struct Outline {
  std::vector<OutlinePoint> points;
  bool closed = true;
  bool operator==(const Outline&) const = default;
};

inline constexpr std::size_t kMostOutlinePoints = 10000;

/// Between two outlines of as many points; else the nearer one.
Outline mixOutlines(const Outline& a, const Outline& b, double t);
/// `value` and how far `led` lies from `base`, point by point, where all have as many; else `value`.
Outline addOutlines(const Outline& value, const Outline& base, const Outline& led);

/// How many pieces there are between points.
std::size_t pieceCount(const Outline& outline);
/// A place on piece `piece`, `t` in [0, 1].
Point placeOn(const Outline& outline, std::size_t piece, double t);
/// With one more point on a piece, where the line stays as it is.
Outline withPointOn(const Outline& outline, std::size_t piece, double t);

/// The line as short straight pieces that lie nowhere farther from it than `tolerance`, at most `most` of them; a closed one ends where
/// it began.
std::vector<Point> flattened(const Outline& outline, double tolerance, std::size_t most = 20000);

/// About the middle of (0, 0).
Outline circleOutline(double radius);

/// The first line of SVG path data (W3C SVG 1.1, section 8.3): all its commands, arcs and quadratic curves as cubic ones.
Result<Outline> outlineFromPath(std::string_view path);
/// All its lines, of kMostOutlinePoints points together.
Result<std::vector<Outline>> outlinesFromPath(std::string_view path);
/// As path data of absolute M, L, C and Z: the same again when it is read.
std::string pathText(const Outline& outline);

}  // namespace oa
