// Other ways to look at the picture: its seam, behind a title, within safe areas.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "model/comparison.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/view.h"

namespace oa::app {
namespace {

constexpr double kSeamGain = 8;

// What differs between two pictures, made visible: middle grey where they agree.
QImage difference(const QImage& a, const QImage& b) {
  QImage out(a.size(), QImage::Format_RGB32);
  for (int y = 0; y < a.height(); ++y) {
    const auto* p = reinterpret_cast<const QRgb*>(a.constScanLine(y));
    const auto* q = reinterpret_cast<const QRgb*>(b.constScanLine(y));
    auto* o = reinterpret_cast<QRgb*>(out.scanLine(y));
    const auto one = [](int from, int to) { return std::clamp(128 + static_cast<int>(kSeamGain * (to - from)), 0, 255); };
    for (int x = 0; x < a.width(); ++x)
      o[x] = qRgb(one(qRed(p[x]), qRed(q[x])), one(qGreen(p[x]), qGreen(q[x])), one(qBlue(p[x]), qBlue(q[x])));
  }
  return out;
}

// A word on the picture, with this corner of its box there.
void paintTag(QPainter& p, const QString& words, QPointF place, Qt::Alignment side) {
  p.setFont(uiFont(11, 600));
  QRectF box = p.fontMetrics().boundingRect(words);
  box = QRectF(0, 0, box.width() + 14, 20);
  box.moveTopLeft(side == Qt::AlignLeft ? place : place - QPointF(box.width(), 0));
  p.fillRect(box, QColor(0, 0, 0, 150));
  p.setPen(Qt::white);
  p.drawText(box, Qt::AlignCenter, words);
}

}  // namespace

// A on the left, B on the right of the line, or one of them alone.
void View::paintCompared(QPainter& p, const QRectF& frame) {
  const Comparison::Look look = comparison_->look();
  const double line = look == Comparison::Look::Split ? frame.left() + split_ * frame.width()
                      : look == Comparison::Look::A   ? frame.right()
                                                      : frame.left();
  p.save();
  p.setClipRect(QRectF(frame.topLeft(), QPointF(line, frame.bottom())));
  p.drawImage(frame, image_);
  p.setClipRect(QRectF(QPointF(line, frame.top()), frame.bottomRight()));
  if (!comparison_->image().isNull()) p.drawImage(frame, comparison_->image());
  p.restore();
  if (look == Comparison::Look::Split) {
    p.setPen(QPen(Theme::now().persimmon, 2));
    p.drawLine(QPointF(line, frame.top()), QPointF(line, frame.bottom()));
  }
  const QRectF seen = frame.intersected(QRectF(rect()).adjusted(0, kBars, 0, -kBars));
  if (look != Comparison::Look::B) paintTag(p, tr("A · now"), seen.topLeft() + QPointF(6, 6), Qt::AlignLeft);
  if (look != Comparison::Look::A) paintTag(p, tr("B · %1").arg(comparison_->name()), seen.topRight() + QPointF(-6, 6), Qt::AlignRight);
}

void View::paintSeam(QPainter& p, const QRectF& frame) {
  const int n = document_.scene().frames;
  const QImage last = renderer_.cached(player_.shownOfLoop(n - 1));
  const QImage first = renderer_.cached(player_.shownOfLoop(0));
  if (last.isNull() || first.isNull() || last.size() != first.size()) {
    p.drawImage(frame, image_);
    p.setPen(Qt::white);
    p.drawText(frame, Qt::AlignCenter, tr("The seam shows once its two frames are rendered."));
    return;
  }
  const QRectF upper(frame.left(), frame.top(), frame.width(), frame.height() / 2);
  const QRectF lower = upper.translated(0, upper.height());
  const double x = split_ * last.width();
  const double screenX = upper.left() + split_ * upper.width();
  // Halves of the height, so that both fit: the upper half of the picture is what is compared.
  const double h = last.height() / 2.0;
  const QRectF leftPart(upper.topLeft(), QPointF(screenX, upper.bottom()));
  const QRectF rightPart(QPointF(screenX, upper.top()), upper.bottomRight());
  p.drawImage(leftPart, last, QRectF(0, h / 2, x, h));
  p.drawImage(rightPart, first, QRectF(x, h / 2, last.width() - x, h));
  // Made anew only when one of the two frames was.
  if (const std::pair keys(last.cacheKey(), first.cacheKey()); keys != differenceOf_) {
    difference_ = difference(last, first);
    differenceOf_ = keys;
  }
  p.drawImage(lower, difference_, QRectF(0, h / 2, last.width(), h));
  p.setPen(QPen(Theme::now().persimmon, 2));
  p.drawLine(QPointF(screenX, upper.top()), QPointF(screenX, upper.bottom()));
  paintTag(p, tr("frame %1").arg(n - 1), upper.topLeft() + QPointF(6, 6), Qt::AlignLeft);
  paintTag(p, tr("frame 0"), upper.topRight() + QPointF(-6, 6), Qt::AlignRight);
  paintTag(p, tr("difference × %1").arg(kSeamGain), lower.topLeft() + QPointF(6, 6), Qt::AlignLeft);
}

void View::paintDrawnLine(QPainter& p, const QRectF& frame) const {
  if (!line_ || line_->points().empty()) return;
  QPolygonF line;
  for (const Point& point : line_->points())
    line << QPointF(frame.left() + point.x * frame.width(), frame.top() + point.y * frame.height());
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  // Seen on light and on dark.
  for (const auto& [colour, width] : {std::pair{QColor(0, 0, 0, 150), 5.0}, std::pair{QColor(Qt::white), 2.5}}) {
    p.setPen(QPen(colour, width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(line);
    // A dot where it begins, and where it goes to.
    p.setBrush(colour);
    p.drawEllipse(line.first(), 5, 5);
    // Its way there is that of its last stretch: a hand trembles.
    int back = static_cast<int>(line.size()) - 1;
    while (back > 0 && QLineF(line[back], line.last()).length() < 12) --back;
    const QPointF from = line[back];
    const double a = std::atan2(line.last().y() - from.y(), line.last().x() - from.x());
    for (const double side : {2.6, -2.6}) p.drawLine(line.last(), line.last() + QPointF(11 * std::cos(a + side), 11 * std::sin(a + side)));
  }
  p.restore();
}

void View::paintSafeAreas(QPainter& p, const QRectF& frame) {
  // SMPTE ST 2046-1: 93 % for action, 90 % for titles.
  for (const double share : {0.93, 0.90}) {
    const QRectF box(frame.center().x() - frame.width() * share / 2, frame.center().y() - frame.height() * share / 2, frame.width() * share,
                     frame.height() * share);
    p.setPen(QPen(QColor(0, 0, 0, 110), 3));
    p.drawRect(box);
    p.setPen(QPen(QColor(255, 255, 255, 230), 1, share > 0.92 ? Qt::DashLine : Qt::SolidLine));
    p.drawRect(box);
  }
}

}  // namespace oa::app
