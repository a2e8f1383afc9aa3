#include "widgets/curve_drawing.h"

#include <algorithm>
#include <cmath>
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

SpeedCurve speedPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from, double to, double seconds,
                     const SoundLevels* levels) {
  const int steps = std::max(24, static_cast<int>(box.width()));
  const double step = (to - from) / steps;
  const CurveRange range = curveRange(spec, param, levels);
  std::vector<double> speeds;
  double low = 0;
  double high = 0;
  for (int i = 0; i <= steps; ++i) {
    const double share = from + step * i;
    double way = sumHeight(spec, param, share + step / 2, levels) - sumHeight(spec, param, share - step / 2, levels);
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
