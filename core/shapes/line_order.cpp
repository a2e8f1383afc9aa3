#include "shapes/line_order.h"

#include <algorithm>
#include <cmath>

#include "base/line.h"
#include "fields/field_params.h"

namespace oa {
namespace {

constexpr std::size_t kMostPoints = 400;

Outline straight() { return *outlineFromPath("M-640 0 L640 0"); }

}  // namespace

ParamSpec startLineParam() {
  ParamSpec line{.id = "startLine",
                 .label = "Line",
                 .help = "The line that they go by, from its first point on, in pixels from the middle. It is drawn in the picture.",
                 .type = ParamType::Outline,
                 .base = straight(),
                 .min = -16384,
                 .max = 16384,
                 .unit = Unit::Pixels,
                 .rule = LoopRule::Fixed};
  return field_params::when(std::move(line), "order", {kAlongALine});
}

ParamSpec startsBackParam(std::vector<std::string_view> orders) {
  ParamSpec back{.id = "startsBack",
                 .label = "There and back",
                 .help = "The last of them come when the first ones do, those in the middle last.",
                 .type = ParamType::Toggle,
                 .base = false,
                 .rule = LoopRule::Fixed};
  return field_params::when(std::move(back), "order", std::move(orders));
}

LineOrder::LineOrder(const Outline& line, const Point& middle) : points_(flattened(line, 0.5, kMostPoints)), length_(lengthOf(points_)) {
  for (Point& p : points_) p = {p.x + middle.x, p.y + middle.y};
}

double LineOrder::at(const Point& place) const {
  return length_ > 0 ? std::min(alongLine(points_, place) / length_, std::nextafter(1.0, 0.0)) : 0;
}

double thereAndBack(double share) { return 1 - std::abs(2 * share - 1); }

}  // namespace oa
