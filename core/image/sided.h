// A picture seen upright or lying on its side, so that both directions share one way.
#pragma once

#include "image/buffer.h"

namespace oa {

struct Sided {
  const Plane& plane;  ///< four channels
  bool lying;
  [[nodiscard]] int length() const { return lying ? plane.height() : plane.width(); }
  [[nodiscard]] int lines() const { return lying ? plane.width() : plane.height(); }
  [[nodiscard]] const float* at(int along, int line) const {
    return lying ? plane.row(along) + static_cast<std::ptrdiff_t>(line) * 4 : plane.row(line) + static_cast<std::ptrdiff_t>(along) * 4;
  }
};

}  // namespace oa
