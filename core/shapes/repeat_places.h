// Where the copies of a repeat lie, and where none are wanted: read from its parameters.
#pragma once

#include <string_view>

#include "params/step_context.h"
#include "shapes/spread.h"

namespace oa {

/// A place in shares of the frame, in pixels of the plane.
Point framePoint(const StepContext& context, std::string_view id);

/// How a repeat is spread, so far beyond the frame as copies reach.
SpreadSettings spreadOf(const StepContext& context, double margin);

/// The place that is kept free: how much of a copy is left at a place, 0 to 1.
struct KeepOut {
  enum class Kind { Nothing, Rectangle, Ellipse } kind = Kind::Nothing;
  Point centre;
  double a = 0;
  double b = 0;
  double soft = 0;
  [[nodiscard]] double left(Point p) const;
};
KeepOut keepOutOf(const StepContext& context);

}  // namespace oa
