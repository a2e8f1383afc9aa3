#include "shapes/outline_shape.h"

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
}

}  // namespace oa
