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

}  // namespace oa::app
