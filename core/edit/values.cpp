#include "edit/values.h"

#include <algorithm>

namespace oa::edit {
namespace {

// `value` moved as `to` is moved from `from`: numbers and places by as much, within their range; of other values those that
// were equal become equal again.
Value moved(const ParamSpec& spec, const Value& value, const Value& from, const Value& to) {
  const auto shifted = [&](double v, double a, double b) {
    return spec.rule == LoopRule::Round ? v + b - a : std::clamp(v + b - a, spec.min, spec.max);
  };
  if (const auto* v = std::get_if<double>(&value)) return shifted(*v, std::get<double>(from), std::get<double>(to));
  if (const auto* v = std::get_if<Point>(&value)) {
    const Point a = std::get<Point>(from);
    const Point b = std::get<Point>(to);
    return Point{shifted(v->x, a.x, b.x), shifted(v->y, a.y, b.y)};
  }
  return value == from ? to : value;
}

}  // namespace

Param withBase(const ParamSpec& spec, const Param& param, const Value& value) {
  Param changed = param;
  Motion& motion = changed.motion;
  if (motion.kind == MotionKind::Still || motion.kind == MotionKind::Turn) motion.far = value;
  if (motion.kind == MotionKind::Wander || motion.kind == MotionKind::Hops) motion.far = moved(spec, motion.far, param.base, value);
  for (Keyframe& key : motion.keys) key.value = moved(spec, key.value, param.base, value);
  changed.base = value;
  return changed;
}

}  // namespace oa::edit
