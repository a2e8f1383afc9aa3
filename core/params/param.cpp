#include "params/param.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <utility>

#include "base/random.h"

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
  } else if (auto* point = std::get_if<Point>(&value)) {
    *point = {std::clamp(point->x, spec.min, spec.max), std::clamp(point->y, spec.min, spec.max)};
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
      return {MotionKind::Still, MotionKind::Turn, MotionKind::Swing, MotionKind::Keyframes, MotionKind::Wander, MotionKind::Hops};
    case LoopRule::Progress:
      return {MotionKind::Still, MotionKind::Turn};
    default:
      return {MotionKind::Still, MotionKind::Swing, MotionKind::Keyframes, MotionKind::Wander, MotionKind::Hops};
  }
}

std::string_view motionName(MotionKind kind) {
  static constexpr std::string_view kNames[] = {"still", "turn", "swing", "keyframes", "wander", "hops"};
  return kNames[static_cast<std::size_t>(kind)];
}

int hopCount(const Motion& motion) { return motion.list.empty() ? motion.knots : static_cast<int>(motion.list.size()); }

int ownCount(const Motion& motion) {
  if (motion.kind == MotionKind::Keyframes) return static_cast<int>(motion.keys.size());
  return motion.kind == MotionKind::Hops ? static_cast<int>(motion.list.size()) : 0;
}

const Value& ownValue(const Motion& motion, int i) {
  const auto at = static_cast<std::size_t>(i);
  return motion.kind == MotionKind::Keyframes ? motion.keys[at].value : motion.list[at];
}

Value& ownValue(Motion& motion, int i) { return const_cast<Value&>(ownValue(std::as_const(motion), i)); }

double ownPlace(const Motion& motion, int i) {
  if (motion.kind == MotionKind::Keyframes) return motion.keys[static_cast<std::size_t>(i)].at;
  return (i + 0.5) / static_cast<double>(motion.list.size());
}

void placeKeyframe(Motion& motion, Keyframe key) {
  key.at = fract(key.at);
  std::erase_if(motion.keys, [&](const Keyframe& k) { return std::abs(k.at - key.at) < 1e-9; });
  const auto after = std::find_if(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return k.at > key.at; });
  motion.keys.insert(after, std::move(key));
}

bool reallyMoves(const ParamSpec& spec, const Param& param) {
  if (spec.rule == LoopRule::Held) return std::get<double>(param.base) > 0;
  const Motion& motion = param.motion;
  switch (motion.kind) {
    case MotionKind::Still:
      return false;
    case MotionKind::Keyframes:
      return std::any_of(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return k.value != motion.keys.front().value; });
    case MotionKind::Hops:
      if (!motion.list.empty())
        return std::any_of(motion.list.begin(), motion.list.end(), [&](const Value& v) { return v != motion.list.front(); });
      return motion.knots > 1 && motion.far != param.base;
    case MotionKind::Swing:
    case MotionKind::Wander:
      return motion.far != param.base;
    case MotionKind::Turn:
      break;
  }
  // A turn of nothing (no churn, no travel) stays where it is.
  if (spec.rule != LoopRule::Progress) return true;
  if (const auto* number = std::get_if<double>(&param.base)) return *number != 0;
  return std::get<Point>(param.base) != Point{};
}

namespace {

Value keyframesAt(const Motion& motion, const Value& base, double u) {
  if (motion.keys.empty()) return base;
  const std::size_t n = motion.keys.size();
  // The stretch that holds u: from the last keyframe at or before it; before the first one, the closing stretch.
  std::size_t from = n - 1;
  for (std::size_t i = 0; i < n && motion.keys[i].at <= u; ++i) from = i;
  const Keyframe& a = motion.keys[from];
  const Keyframe& b = motion.keys[from + 1 < n ? from + 1 : 0];
  if (a.hold || n == 1) return a.value;
  const double length = fract(b.at - a.at);
  return mixValues(a.value, b.value, length > 0 ? a.pace.at(fract(u - a.at) / length) : 0);
}

// Places and numbers go to both sides of their base, each part by a height of its own; colours go one way.
Value spreadValue(const Param& param, const std::function<double(std::uint64_t part)>& height) {
  if (const auto* number = std::get_if<double>(&param.base))
    return *number + (std::get<double>(param.motion.far) - *number) * (2 * height(0) - 1);
  if (const auto* point = std::get_if<Point>(&param.base)) {
    const Point& far = std::get<Point>(param.motion.far);
    return Point{point->x + (far.x - point->x) * (2 * height(0) - 1), point->y + (far.y - point->y) * (2 * height(1) - 1)};
  }
  return mixValues(param.base, param.motion.far, std::clamp(height(0), 0.0, 1.0));
}

// The value of a parameter whose motion has a share `u` of its lap behind it, before it is held within its range.
Value movedValue(const Param& param, double u) {
  const Motion& motion = param.motion;
  const auto seed = [&](std::uint64_t part) { return mix64(static_cast<std::uint64_t>(motion.seed) * 4 + part); };
  switch (motion.kind) {
    case MotionKind::Swing:
      return mixValues(param.base, motion.far, swingAt(motion.shape, motion.shares, motion.pace.at(u)));
    case MotionKind::Keyframes:
      return keyframesAt(motion, param.base, u);
    case MotionKind::Wander:
      return spreadValue(param, [&](std::uint64_t part) { return wanderAt(seed(part), motion.knots, u); });
    case MotionKind::Hops: {
      const int index = hopAt(hopCount(motion), u);
      if (!motion.list.empty()) return motion.list[static_cast<std::size_t>(index)];
      return spreadValue(param, [&](std::uint64_t part) { return hopHeight(seed(part), motion.knots, index); });
    }
    case MotionKind::Still:
    case MotionKind::Turn:
      break;
  }
  return param.base;
}

double plainHeight(const Value& value) {
  if (const auto* number = std::get_if<double>(&value)) return *number;
  if (const auto* point = std::get_if<Point>(&value)) return point->x;
  if (const auto* colour = std::get_if<Colour>(&value)) return toOkLab(*colour).L;
  return 0;
}

}  // namespace

ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at) {
  const Motion& motion = param.motion;
  if (spec.rule == LoopRule::Held) {
    const double frames = std::get<double>(param.base);
    return {param.base, frames > 0 ? std::floor(static_cast<double>(floorMod(at.frame, at.frames)) / frames) : 0};
  }
  if (!motion.moves()) return {param.base, 0};
  const double u = lapPhase(at, motion.laps, motion.start);
  if (motion.kind != MotionKind::Turn) return {clamped(spec, movedValue(param, u)), u};
  const double done = motion.pace.at(u);
  if (spec.rule == LoopRule::Round) return {std::get<double>(param.base) + 360 * done, done};
  return {param.base, done};
}

Value valueOnLap(const ParamSpec& spec, const Param& param, double u) { return clamped(spec, movedValue(param, u)); }

void listHops(const ParamSpec& spec, const Param& param, Motion& motion) {
  const int count = std::max(2, hopCount(param.motion));
  motion.list.clear();
  for (int i = 0; i < count; ++i) motion.list.push_back(valueOnLap(spec, param, (i + 0.5) / count));
}

double curveHeight(const ParamSpec& spec, const Param& param, double lapShare) {
  const Motion& motion = param.motion;
  const auto* number = std::get_if<double>(&param.base);
  if (!motion.moves()) return number && spec.rule != LoopRule::Progress ? *number : 0;
  const double u = fract(lapShare + motion.start);
  if (motion.kind == MotionKind::Swing && !number) return swingAt(motion.shape, motion.shares, motion.pace.at(u));
  if (motion.kind != MotionKind::Turn) return plainHeight(clamped(spec, movedValue(param, u)));
  const double done = motion.pace.at(u);
  if (spec.rule == LoopRule::Round) return *number + 360 * done;
  return number ? *number * done : done;
}

}  // namespace oa
