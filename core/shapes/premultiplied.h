// Colours as shapes are painted in them.
#pragma once

#include <array>

#include "base/geometry.h"

namespace oa {

/// A straight colour multiplied by its opacity, and by another one.
inline std::array<float, 4> premultiplied(const Colour& c, double opacity = 1) {
  const float a = c.a * static_cast<float>(opacity);
  return {c.r * a, c.g * a, c.b * a, a};
}

}  // namespace oa
