// The sound of the loop, drawn along a line or round a circle.
#pragma once

#include <QPainter>
#include <functional>
#include <vector>

#include "sound/track_sound.h"

namespace oa::app {

/// Left to right over `box`, on its middle line; `from` and `to`: which share of the parts.
void drawWave(QPainter& p, const QRectF& box, const std::vector<WavePart>& wave, const QColor& colour, double from = 0, double to = 1);
/// Round `centre`, from the top on and clockwise, inwards and outwards of `radius` by `reach` at most; `shown` says where on the circle a
/// share of the sound lies.
void drawWaveRound(QPainter& p, QPointF centre, double radius, double reach, const std::vector<WavePart>& wave, const QColor& colour,
                   const std::function<double(double)>& shown);

}  // namespace oa::app
