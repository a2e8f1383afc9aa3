// An order by how far along a line of one's own things lie.
#pragma once

#include <vector>

#include "base/geometry.h"
#include "base/outline.h"
#include "params/spec.h"

namespace oa {

inline constexpr std::string_view kAlongALine = "along a line";

/// The line's parameter "startLine", and "startsBack": there and back. They are shown for the orders given.
ParamSpec startLineParam();
ParamSpec startsBackParam(std::vector<std::string_view> orders);

class LineOrder {
 public:
  LineOrder() = default;
  /// The line lies about `middle`.
  LineOrder(const Outline& line, const Point& middle);
  /// Of the point of it that is nearest, its share of the whole: [0, 1). 0 without a line.
  [[nodiscard]] double at(const Point& place) const;

 private:
  std::vector<Point> points_;
  double length_ = 0;
};

/// There and back: the last as the first, those in the middle last.
double thereAndBack(double share);

}  // namespace oa
