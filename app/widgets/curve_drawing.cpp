#include "widgets/curve_drawing.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

namespace oa::app {

CurveRange curveRange(const ParamSpec& spec, const Param& param, const SoundLevels* levels) {
  CurveRange range{1e300, -1e300};
  // One motion is the same in every lap; a sum is drawn through the loop.
  const int steps = param.more.empty() ? 64 : 512;
  for (int i = 0; i < steps; ++i) {
    const double share = static_cast<double>(i) / steps;
    const double v = param.more.empty() ? curveHeight(spec, param, share, levels) : sumHeight(spec, param, share, levels);
    range.low = std::min(range.low, v);
    range.high = std::max(range.high, v);
  }
  if (range.high - range.low < 1e-9) {
    range.low -= 0.5;
    range.high += 0.5;
  }
  return range;
}

QPainterPath motionPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from, double to, const SoundLevels* levels) {
  const CurveRange range = curveRange(spec, param, levels);
  QPainterPath path;
  const int steps = std::max(24, static_cast<int>(box.width()));
  double last = 0;
  for (int i = 0; i <= steps; ++i) {
    const double share = from + (to - from) * i / steps;
    const double v = sumHeight(spec, param, share, levels);
    const double t = (v - range.low) / (range.high - range.low);
    const QPointF point(box.left() + box.width() * i / steps, box.bottom() - box.height() * t);
    // A turn falls back to where it began: a gap there, since the value itself is round.
    if (i == 0 || (param.motion.kind == MotionKind::Turn && std::abs(v - last) > 0.5 * (range.high - range.low)))
      path.moveTo(point);
    else
      path.lineTo(point);
    last = v;
  }
  return path;
}

namespace {

// Where a place is at a share of the loop, where a single motion leads it.
std::optional<Point> pointAt(const ParamSpec& spec, const Param& param, double share, const SoundLevels* levels) {
  const MotionKind kind = param.motion.kind;
  if (!std::holds_alternative<Point>(param.base) || !param.more.empty() || kind == MotionKind::Turn || kind == MotionKind::Still) return {};
  return std::get<Point>(valueOnLap(spec, param, fract(share * static_cast<double>(lapsOf(param.motion)) + param.motion.start), levels));
}

}  // namespace

QPainterPath downPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from, double to, const SoundLevels* levels) {
  const MotionKind kind = param.motion.kind;
  if (kind != MotionKind::Keyframes && kind != MotionKind::Wander && kind != MotionKind::Hops) return {};
  const int steps = std::max(24, static_cast<int>(box.width()));
  std::vector<double> heights;
  double low = 1e300;
  double high = -1e300;
  for (int i = 0; i <= steps; ++i) {
    const auto at = pointAt(spec, param, from + (to - from) * i / steps, levels);
    if (!at) return {};
    heights.push_back(at->y);
    low = std::min(low, at->y);
    high = std::max(high, at->y);
  }
  QPainterPath path;
  for (int i = 0; i <= steps; ++i) {
    // As in the picture: what goes down goes down.
    const double t = high - low > 1e-9 ? (heights[static_cast<std::size_t>(i)] - low) / (high - low) : 0.5;
    const QPointF point(box.left() + box.width() * i / steps, box.top() + box.height() * t);
    i == 0 ? path.moveTo(point) : path.lineTo(point);
  }
  return path;
}

SpeedCurve speedPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from, double to, double seconds, Point per,
                     const SoundLevels* levels) {
  const int steps = std::max(24, static_cast<int>(box.width()));
  const double step = (to - from) / steps;
  const CurveRange range = curveRange(spec, param, levels);
  std::vector<double> speeds;
  double low = 0;
  double high = 0;
  for (int i = 0; i <= steps; ++i) {
    const double share = from + step * i;
    const auto before = pointAt(spec, param, share - step / 2, levels);
    const auto behind = pointAt(spec, param, share + step / 2, levels);
    double way = before ? std::hypot((behind->x - before->x) * per.x, (behind->y - before->y) * per.y)
                        : sumHeight(spec, param, share + step / 2, levels) - sumHeight(spec, param, share - step / 2, levels);
    // What is round falls back to where it began without having gone there.
    if (param.motion.kind == MotionKind::Turn && std::abs(way) > 0.5 * (range.high - range.low))
      way = speeds.empty() ? 0 : speeds.back() * step * seconds;
    speeds.push_back(way / (step * seconds));
    low = std::min(low, speeds.back());
    high = std::max(high, speeds.back());
  }
  SpeedCurve curve;
  curve.fastest = std::max(high, -low);
  const double span = high - low > 0 ? high - low : 1;
  const auto at = [&](double v) { return box.bottom() - box.height() * (v - low) / span; };
  curve.zero = at(0);
  for (int i = 0; i <= steps; ++i) {
    const QPointF point(box.left() + box.width() * i / steps, at(speeds[static_cast<std::size_t>(i)]));
    i == 0 ? curve.path.moveTo(point) : curve.path.lineTo(point);
  }
  return curve;
}

}  // namespace oa::app
