// A plain shape about its own middle: how far its edge is, from anywhere.
#pragma once

#include <array>
#include <cstddef>

#include "base/geometry.h"

namespace oa {

inline constexpr int kMostSides = 24;

/// Lengths are in whatever its user counts in; x goes to the right, y down.
struct OutlineShape {
  enum class Kind {
    Rectangle,
    Circle,   ///< radius `a`
    Ellipse,  ///< half its axes: `a`, `b`
    Corners,  ///< a polygon through `at`
    Arc,      ///< of radius `a`, open below: `open` is half the angle that is left, as (sine, cosine)
    Drop,     ///< round below with radius `a`, from (0, b - a) up to a point at (0, -b)
    Petal,    ///< two arcs that meet in points at (0, -b) and (0, b), `a` wide on both sides
    Dot,      ///< no edge: fades from its middle out to radius `a`
  } kind = Kind::Rectangle;
  // Half its size, without what is rounded off.
  double a = 1;
  double b = 1;
  double round = 0;  ///< how far the edge lies outside of that
  double line = 0;   ///< width of an outline along the inside of the edge; 0: filled
  double softness = 0;
  Point open{0, -1};
  int corners = 0;
  std::array<Point, std::size_t{2} * kMostSides> at{};
  /// The side that ends in each of those corners, as vectors read it.
  struct Side {
    float x, y;    ///< its end
    float ex, ey;  ///< from there to its beginning
    float per;     ///< 1 / the square of its length
    float before;  ///< y of its beginning
  };
  std::array<Side, std::size_t{2} * kMostSides> sides{};
};

/// A polygon or star whose first corner points upwards: `reach` is how far its inner corners lie from the middle (1: a polygon).
/// `sides` is at most kMostSides.
void placeCorners(OutlineShape& shape, int sides, bool star, double reach);

}  // namespace oa
