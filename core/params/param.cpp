#include "params/param.h"

#include <algorithm>
#include <cmath>

namespace oa {
namespace {

Value mixValues(const Value& a, const Value& b, double t) {
  if (const auto* number = std::get_if<double>(&a)) return mix(*number, std::get<double>(b), t);
  if (const auto* point = std::get_if<Point>(&a)) {
    const Point& other = std::get<Point>(b);
    return Point{mix(point->x, other.x, t), mix(point->y, other.y, t)};
  }
  if (const auto* colour = std::get_if<Colour>(&a)) return mixColours(*colour, std::get<Colour>(b), t, ColourMixing::OkLab);
  return a;
}

Value clamped(const ParamSpec& spec, Value value) {
  if (auto* number = std::get_if<double>(&value)) {
    if (spec.rule != LoopRule::Round) *number = std::clamp(*number, spec.min, spec.max);
    if (spec.isWhole()) *number = std::round(*number);
  }
  return value;
}

}  // namespace

Param defaultParam(const ParamSpec& spec) {
  Param param;
  param.base = spec.base;
  param.motion.far = spec.base;
  if (spec.defaultLaps != 0) {
    param.motion.kind = MotionKind::Turn;
    param.motion.laps = spec.defaultLaps;
  }
  return param;
}

std::vector<MotionKind> allowedMotions(const ParamSpec& spec) {
  if (!spec.canMove()) return {MotionKind::Still};
  switch (spec.rule) {
    case LoopRule::Round:
      return {MotionKind::Still, MotionKind::Turn, MotionKind::Swing};
    case LoopRule::Progress:
      return {MotionKind::Still, MotionKind::Turn};
    default:
      return {MotionKind::Still, MotionKind::Swing};
  }
}

std::string_view motionName(MotionKind kind) {
  static constexpr std::string_view kNames[] = {"still", "turn", "swing"};
  return kNames[static_cast<std::size_t>(kind)];
}

bool reallyMoves(const ParamSpec& spec, const Param& param) {
  if (!param.motion.moves()) return false;
  if (param.motion.kind == MotionKind::Swing) return param.motion.far != param.base;
  // A turn of nothing (no churn, no travel) stays where it is.
  if (spec.rule != LoopRule::Progress) return true;
  if (const auto* number = std::get_if<double>(&param.base)) return *number != 0;
  return std::get<Point>(param.base) != Point{};
}

ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at) {
  const Motion& motion = param.motion;
  if (!motion.moves()) return {param.base, 0};
  const double done = motion.pace.at(lapPhase(at, motion.laps, motion.start));
  if (motion.kind == MotionKind::Swing) {
    const double w = swingAt(motion.shape, motion.shares, done);
    return {clamped(spec, mixValues(param.base, motion.far, w)), w};
  }
  if (spec.rule == LoopRule::Round) return {std::get<double>(param.base) + 360 * done, done};
  return {param.base, done};
}

double curveHeight(const ParamSpec& spec, const Param& param, double lapShare) {
  const Motion& motion = param.motion;
  if (!motion.moves()) {
    const auto* number = std::get_if<double>(&param.base);
    return number && spec.rule != LoopRule::Progress ? *number : 0;
  }
  const double done = motion.pace.at(fract(lapShare + motion.start));
  if (motion.kind == MotionKind::Swing) {
    const double w = swingAt(motion.shape, motion.shares, done);
    const auto* number = std::get_if<double>(&param.base);
    return number ? mix(*number, std::get<double>(motion.far), w) : w;
  }
  if (spec.rule == LoopRule::Round) return std::get<double>(param.base) + 360 * done;
  const auto* number = std::get_if<double>(&param.base);
  return number ? *number * done : done;
}

}  // namespace oa
