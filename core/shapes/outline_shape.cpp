#include "shapes/outline_shape.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace oa {

void placeCorners(OutlineShape& shape, int sides, bool star, double reach) {
  shape.kind = OutlineShape::Kind::Corners;
  shape.corners = star ? 2 * sides : sides;
  for (int i = 0; i < shape.corners; ++i) {
    const double turn = 2 * std::numbers::pi * i / shape.corners - std::numbers::pi / 2;
    const double far = star && i % 2 == 1 ? reach : 1;
    shape.at[static_cast<std::size_t>(i)] = {shape.a * far * std::cos(turn), shape.b * far * std::sin(turn)};
  }
  for (int i = 0; i < shape.corners; ++i) {
    const Point& p = shape.at[static_cast<std::size_t>(i)];
    const Point& q = shape.at[static_cast<std::size_t>(i == 0 ? shape.corners - 1 : i - 1)];
    const double ex = q.x - p.x;
    const double ey = q.y - p.y;
    const auto f = [](double v) { return static_cast<float>(v); };
    shape.sides[static_cast<std::size_t>(i)] = {f(p.x), f(p.y), f(ex), f(ey), f(1 / std::max(1e-12, ex * ex + ey * ey)), f(q.y)};
  }
}

}  // namespace oa
