// A rectangle with round corners as a line.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <numbers>
#include <vector>

#include "base/geometry.h"

namespace oa {

/// Clockwise from the upper left, ending where it begins; each corner of radius `round`, or as much as there is room for, in `parts`
/// pieces.
inline std::vector<Point> roundedBox(Point from, Point to, double round, int parts) {
  const double r = std::min({round, (to.x - from.x) / 2, (to.y - from.y) / 2});
  const std::array<Point, 4> middles{Point{to.x - r, from.y + r}, {to.x - r, to.y - r}, {from.x + r, to.y - r}, {from.x + r, from.y + r}};
  std::vector<Point> line{{from.x + r, from.y}};
  if (r <= 0) parts = 0;
  for (std::size_t k = 0; k < 4; ++k)
    for (int i = 0; i <= parts; ++i) {
      const double turn = (static_cast<double>(k) - 1 + (parts > 0 ? static_cast<double>(i) / parts : 0)) * std::numbers::pi / 2;
      line.push_back({middles[k].x + r * std::cos(turn), middles[k].y + r * std::sin(turn)});
    }
  line.back() = line.front();
  return line;
}

}  // namespace oa
