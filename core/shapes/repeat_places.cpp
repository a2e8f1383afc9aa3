#include "shapes/repeat_places.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "base/outline.h"

namespace oa {

Point framePoint(const StepContext& context, std::string_view id) {
  const Point p = context.point(id);
  return {p.x * context.view().frameWidth, p.y * context.view().frameHeight};
}

SpreadSettings spreadOf(const StepContext& context, double margin) {
  SpreadSettings s;
  s.kind = spreadFromName(context.choice("spread"));
  s.frame = {context.view().frameWidth, context.view().frameHeight};
  s.margin = margin;
  s.centre = framePoint(context, "centre");
  s.turn = context.number("spin");
  s.distance = context.point("distance");
  s.columns = context.integer("columns");
  s.rows = context.integer("rows");
  s.stagger = context.number("stagger");
  const Point travel = context.point("travel");
  const double gone = context.progress("travel");
  s.travel = {travel.x * gone, travel.y * gone};
  s.count = context.integer("count");
  s.radius = context.number("radius");
  s.inner = context.number("inner");
  s.rings = context.integer("rings");
  s.turns = context.number("turns");
  s.aligned = context.toggle("aligned");
  s.from = framePoint(context, "from");
  s.to = framePoint(context, "to");
  s.droop = context.number("droop");
  s.lines = context.integer("lines");
  s.gap = context.point("gap");
  s.even = context.toggle("even");
  s.apart = context.number("apart");
  if (s.kind == SpreadKind::Path) {
    const Outline& path = context.outline("path");
    s.closed = path.closed;
    s.path = flattened(path, 0.5);
    for (Point& p : s.path) p = {p.x + s.centre.x, p.y + s.centre.y};
  }
  s.direction = context.number("direction");
  s.done = context.progress("passes");
  s.passes = static_cast<int>(std::lround(context.number("passes")));
  s.depths = context.integer("depths");
  s.far = context.number("far");
  s.faded = context.number("faded");
  s.sway = context.number("sway");
  s.hurry = context.number("hurry");
  s.seed = static_cast<std::uint64_t>(context.number("seed"));
  return s;
}

double KeepOut::left(Point p) const {
  if (kind == Kind::Nothing) return 1;
  const double x = std::abs(p.x - centre.x);
  const double y = std::abs(p.y - centre.y);
  double away = 0;
  if (kind == Kind::Rectangle) {
    away = x <= a && y <= b ? -1 : std::hypot(std::max(0.0, x - a), std::max(0.0, y - b));
  } else {
    const double k = std::hypot(x / std::max(1.0, a), y / std::max(1.0, b));
    away = (k - 1) * std::hypot(x, y) / std::max(1e-9, k);
  }
  if (away <= 0) return 0;
  const double t = soft > 0 ? std::min(1.0, away / soft) : 1;
  return t * t * (3 - 2 * t);
}

KeepOut keepOutOf(const StepContext& context) {
  const std::string_view kind = context.choice("keep");
  return {kind == "rectangle" ? KeepOut::Kind::Rectangle
          : kind == "ellipse" ? KeepOut::Kind::Ellipse
                              : KeepOut::Kind::Nothing,
          framePoint(context, "keepCentre"), context.number("keepWidth") / 2, context.number("keepHeight") / 2, context.number("keepSoft")};
}

}  // namespace oa
