#include "widgets/wave_drawing.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/numbers.h"

namespace oa::app {

void drawWave(QPainter& p, const QRectF& box, const std::vector<WavePart>& wave, const QColor& colour, double from, double to) {
  if (wave.empty() || box.width() < 2) return;
  const int columns = static_cast<int>(box.width());
  QPainterPath peaks;
  QPainterPath means;
  const auto n = static_cast<double>(wave.size());
  for (int x = 0; x < columns; ++x) {
    const double a = mix(from, to, static_cast<double>(x) / columns) * n;
    const double b = std::max(a + 1, mix(from, to, static_cast<double>(x + 1) / columns) * n);
    WavePart part;
    for (int i = static_cast<int>(a); i < static_cast<int>(std::ceil(b)); ++i) {
      const WavePart& one = wave[static_cast<std::size_t>(floorMod(i, static_cast<std::int64_t>(wave.size())))];
      part.peak = std::max(part.peak, one.peak);
      part.mean = std::max(part.mean, one.mean);
    }
    const double middle = box.center().y();
    const auto bar = [&](QPainterPath& path, float height) {
      const double h = std::max(0.5, box.height() / 2 * std::min(1.0f, height));
      path.addRect(QRectF(box.left() + x, middle - h, 1, 2 * h));
    };
    bar(peaks, part.peak);
    bar(means, part.mean);
  }
  QColor faint = colour;
  faint.setAlphaF(colour.alphaF() * 0.45f);
  p.fillPath(peaks, faint);
  p.fillPath(means, colour);
}

void drawWaveRound(QPainter& p, QPointF centre, double radius, double reach, const std::vector<WavePart>& wave, const QColor& colour,
                   const std::function<double(double)>& shown) {
  if (wave.empty()) return;
  QPainterPath outside;
  QPainterPath inside;
  const std::size_t n = wave.size();
  for (std::size_t i = 0; i <= n; ++i) {
    const double angle = 2 * std::numbers::pi * shown(static_cast<double>(i) / static_cast<double>(n));
    const double height = std::max(0.4, reach * static_cast<double>(std::min(1.0f, wave[i % n].peak)));
    const QPointF way(std::sin(angle), -std::cos(angle));
    const QPointF out = centre + way * (radius + height);
    const QPointF in = centre + way * (radius - height);
    i == 0 ? outside.moveTo(out) : outside.lineTo(out);
    i == 0 ? inside.moveTo(in) : inside.lineTo(in);
  }
  outside.addPath(inside.toReversed());
  outside.setFillRule(Qt::OddEvenFill);
  p.fillPath(outside, colour);
}

}  // namespace oa::app
