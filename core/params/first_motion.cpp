#include "params/first_motion.h"

#include <algorithm>
#include <cmath>

namespace oa {

Motion firstMotion(const ParamSpec& spec, const Param& param, MotionKind kind) {
  Motion motion = param.motion;
  motion.kind = kind;
  if (kind == MotionKind::Still || kind == MotionKind::Turn) return motion;
  if (motion.far == param.base) {
    if (const auto* number = std::get_if<double>(&param.base)) {
      const double reach = spec.rule == LoopRule::Round ? 30 : (spec.high() - spec.low()) * 0.2;
      double far = spec.logScale ? *number * 1.5 : *number + reach;
      if (far > spec.max) far = *number - reach;
      if (spec.isWhole()) far = std::round(far);
      motion.far = std::clamp(far, spec.min, spec.max);
    } else if (const auto* point = std::get_if<Point>(&param.base)) {
      // A swing goes straight; what wanders or hops does so in both directions.
      const double down = kind == MotionKind::Swing ? 0 : 0.1;
      motion.far = Point{std::clamp(point->x + 0.1, spec.min, spec.max), std::clamp(point->y + down, spec.min, spec.max)};
    } else if (const auto* outline = std::get_if<Outline>(&param.base)) {
      // A little larger about its middle.
      Outline far = *outline;
      Point middle;
      for (const OutlinePoint& p : far.points) middle = {middle.x + p.at.x / far.points.size(), middle.y + p.at.y / far.points.size()};
      for (OutlinePoint& p : far.points)
        for (Point* part : {&p.at, &p.before, &p.after})
          *part = {middle.x + 1.15 * (part->x - middle.x), middle.y + 1.15 * (part->y - middle.y)};
      motion.far = far;
    } else if (const auto* colour = std::get_if<Colour>(&param.base)) {
      OkLab lab = toOkLab(*colour);
      lab.L += lab.L > 0.5 ? -0.25 : 0.25;
      Colour far = fromOkLab(lab);
      far.a = colour->a;
      motion.far = far;
    }
  }
  if (kind == MotionKind::Switch) {
    // Off and on: a share goes all the way, and for as long as it is off.
    if (const auto* number = std::get_if<double>(&param.base); number && spec.unit == Unit::Share && param.motion.far == param.base)
      motion.far = *number > 0.5 * (spec.low() + spec.high()) ? spec.low() : spec.high();
    if (motion.shares == HoldShares()) motion.shares = {0.05, 0.4, 0.05};
    if (param.motion.kind != MotionKind::Switch) motion.knots = std::max(motion.knots, 24);
  }
  if (kind == MotionKind::Keyframes && motion.keys.empty()) {
    const auto ease = Pace::fromName("ease-in-out");
    placeKeyframe(motion, {0, param.base, *ease, false});
    placeKeyframe(motion, {0.5, motion.far, *ease, false});
  }
  return motion;
}

}  // namespace oa
