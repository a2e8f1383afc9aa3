#include "edit/values.h"

#include <algorithm>
#include <cmath>

#include "params/first_motion.h"

namespace oa::edit {

Value shifted(const ParamSpec& spec, const Value& value, const Value& from, const Value& to) {
  const auto by = [&](double v, double a, double b) {
    return spec.rule == LoopRule::Round ? v + (b - a) : std::clamp(v + (b - a), spec.min, spec.max);
  };
  if (const auto* v = std::get_if<double>(&value)) return by(*v, std::get<double>(from), std::get<double>(to));
  if (const auto* v = std::get_if<Point>(&value)) {
    const Point a = std::get<Point>(from);
    const Point b = std::get<Point>(to);
    return Point{by(v->x, a.x, b.x), by(v->y, a.y, b.y)};
  }
  return value == from ? to : value;
}

Param withBase(const ParamSpec& spec, const Param& param, const Value& value) {
  Param changed = param;
  for (std::size_t i = 0; i < motionCount(changed); ++i) {
    Motion& motion = motionOf(changed, i);
    // What is added to another motion is a way from the base value, and goes along with it.
    const bool added = i > 0 || !changed.more.empty();
    if (motion.kind == MotionKind::Still || motion.kind == MotionKind::Turn) motion.far = value;
    if (motion.kind == MotionKind::Wander || motion.kind == MotionKind::Hops || (added && motion.kind == MotionKind::Swing))
      motion.far = shifted(spec, motion.far, param.base, value);
    for (Keyframe& key : motion.keys) key.value = shifted(spec, key.value, param.base, value);
    if (added)
      for (Value& still : motion.list) still = shifted(spec, still, param.base, value);
  }
  changed.base = value;
  return changed;
}

Param withMotionAdded(const ParamSpec& spec, const Param& param, MotionKind kind) {
  Param changed = param;
  if (!moves(param)) {
    changed.motion = firstMotion(spec, param, kind);
    return changed;
  }
  if (!canAddMotions(spec) || motionCount(param) >= kMaxMotions) return changed;
  Motion rest;
  rest.far = param.base;
  rest.laps = std::min(kMaxLaps, std::abs(motionOf(param, motionCount(param) - 1).laps) + 1);
  rest.seed = static_cast<int>(motionCount(param)) + 1;
  changed.more.push_back(firstMotion(spec, {param.base, rest, {}, {}}, kind));
  return changed;
}

Param withMotionRemoved(const Param& param, std::size_t which) {
  Param changed = param;
  if (which >= motionCount(param)) return changed;
  if (param.more.empty()) {
    changed.motion.kind = MotionKind::Still;
    return changed;
  }
  if (which == 0) changed.motion = changed.more.front();
  changed.more.erase(changed.more.begin() + static_cast<std::ptrdiff_t>(which == 0 ? 0 : which - 1));
  return changed;
}

}  // namespace oa::edit
