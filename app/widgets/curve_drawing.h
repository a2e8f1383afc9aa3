// The small drawing of what a parameter does over its lap.
#pragma once

#include <QPainterPath>
#include <QRectF>

#include "params/param.h"

namespace oa::app {

/// The curve of `laps` laps from loop share `from` to `to`, heights fitted into `box`. `levels`: what a motion by the sound follows.
QPainterPath motionPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from = 0, double to = 1,
                        const SoundLevels* levels = nullptr);

/// Lowest and highest value over a lap.
struct CurveRange {
  double low = 0;
  double high = 1;
};
CurveRange curveRange(const ParamSpec& spec, const Param& param, const SoundLevels* levels = nullptr);

/// Places that go through values of their own (keyframes, walks, hops) are two numbers: motionPath() is what goes across, this what goes
/// down, over a range of its own. Empty for all others.
QPainterPath downPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from, double to,
                      const SoundLevels* levels = nullptr);

/// How fast that is, in the value's own unit a second, of places in units of `per` whichever way they go: zero lies where `zero` says, and
/// `fastest` is what the box is high for, either way.
struct SpeedCurve {
  QPainterPath path;
  double zero = 0;
  double fastest = 0;
};
SpeedCurve speedPath(const ParamSpec& spec, const Param& param, const QRectF& box, double from, double to, double seconds,
                     Point per = {1, 1}, const SoundLevels* levels = nullptr);

}  // namespace oa::app
