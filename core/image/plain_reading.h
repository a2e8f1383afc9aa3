// Reading between pixels as it is defined, for the plain path.
#pragma once

#include <cmath>

namespace oa {

/// Hands the four pixels round (x, y) to `add(weight, x, y)`, each with its share of what lies there, bilinearly; those without a share
/// are left out.
template <class Add>
void eachOfFour(double x, double y, const Add& add) {
  const double cx = std::floor(x), cy = std::floor(y);
  for (int corner = 0; corner < 4; ++corner) {
    const double weight = (corner & 1 ? x - cx : 1 - x + cx) * (corner >> 1 ? y - cy : 1 - y + cy);
    if (weight > 1e-12) add(weight, static_cast<int>(cx) + (corner & 1), static_cast<int>(cy) + (corner >> 1));
  }
}

}  // namespace oa
