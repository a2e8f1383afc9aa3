// How the curve is drawn, and where its parts lie.
#include "widgets/curve_canvas.h"

#include <QPainter>
#include <QSettings>
#include <algorithm>
#include <cmath>

#include "edit/timing.h"
#include "model/heard.h"
#include "widgets/beat_grid.h"
#include "widgets/curve_drawing.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/wave_drawing.h"

namespace oa::app {
namespace {

constexpr double kOutside = 0.13;  // of the width, on each side, for what came before and comes next

}  // namespace

CurveCanvas::CurveCanvas(Document& document, Player& player, QWidget* parent) : QWidget(parent), document_(document), player_(player) {
  setMinimumSize(220, 90);
  setFocusPolicy(Qt::StrongFocus);
  setToolTip(
      tr("Drag sideways for the head start, a bead for how far it goes. Keyframes and own hops: double-click to add one, Delete removes "
         "it; Ctrl and drag, or Shift and click, for several. Scroll to look closer, F to see all of it"));
  setAccessibleName(tr("Curve of the chosen motion"));
  speed_ = QSettings().value(QStringLiteral("curve/speed"), false).toBool();
  others_ = QSettings().value(QStringLiteral("curve/others"), false).toBool();
  connect(&player, &Player::frameChanged, this, qOverload<>(&QWidget::update));
  connect(&document.heard(), &Heard::changed, this, qOverload<>(&QWidget::update));
  // Keyframes that went are no longer chosen.
  connect(&document, &Document::changed, this, [this] {
    if (several_.empty()) return;
    const int count = at_ && shows(MotionKind::Keyframes) ? keys() : 0;
    std::erase_if(several_, [&](int k) { return k >= count; });
    update();
  });
}

void CurveCanvas::setMotion(std::optional<ParamAddress> at) {
  if (at != at_) {
    chosen_ = 0;
    several_.clear();
    if (!at || !at_ || at->layer != at_->layer) look(0, 1);
  }
  at_ = at;
  chosen_ = std::clamp(chosen_, 0, std::max(0, keys() - 1));
  update();
}

bool CurveCanvas::shows(MotionKind kind) const { return at_ && document_.valid(*at_) && param().motion.kind == kind; }

void CurveCanvas::chooseKey(int index) {
  chosen_ = index;
  update();
  Q_EMIT keyChosen();
}

QRectF CurveCanvas::seenRect() const { return QRectF(rect()).adjusted(width() * kOutside, 1, -width() * kOutside, -1); }

QRectF CurveCanvas::loopRect() const {
  const QRectF seen = seenRect();
  const double wide = seen.width() / seen_;
  return {seen.left() - from_ * wide, seen.top(), wide, seen.height()};
}

void CurveCanvas::look(double from, double seen) {
  seen_ = std::clamp(seen, kClosest, 1.0);
  from_ = std::clamp(from, 0.0, 1 - seen_);
  update();
}

double CurveCanvas::loopShare(double lap) const { return edit::firstLapAt(param().motion, lap); }

double CurveCanvas::lapShare(double loop) const { return fract(loop * static_cast<double>(lapsOf(param().motion)) + param().motion.start); }

QRectF CurveCanvas::speedRect() const {
  if (!speed_) return {};
  const double high = std::max(26.0, height() * 0.3);
  return {0, height() - kBelow - high, static_cast<double>(width()), high};
}

QRectF CurveCanvas::valueRect() const {
  const double below = speed_ ? kBelow + speedRect().height() + 10 : kBelow;
  return {0, kAbove, static_cast<double>(width()), std::max(12.0, height() - kAbove - below)};
}

void CurveCanvas::setShowsSpeed(bool shows) {
  speed_ = shows;
  QSettings().setValue(QStringLiteral("curve/speed"), shows);
  update();
}

void CurveCanvas::setShowsOthers(bool shows) {
  others_ = shows;
  QSettings().setValue(QStringLiteral("curve/others"), shows);
  update();
}

// What else moves in the layer, each over its own range.
void CurveCanvas::paintOthers(QPainter& p) const {
  constexpr int kMost = 12;
  const Layer* layer = document_.layer(at_->layer);
  if (!layer) return;
  QColor pale = Theme::now().ink;
  pale.setAlpha(52);
  p.setPen(QPen(pale, 1.2));
  int drawn = 0;
  for (const edit::Timed& timed : edit::motionsIn(document_.scene(), *layer)) {
    const ParamAddress other{timed.at.layer, timed.at.step, timed.at.param, timed.at.item, timed.at.motion};
    if (other == *at_ || other.layer != at_->layer || !document_.valid(other)) continue;
    if (++drawn > kMost) return;
    const Param alone = document_.voice(other);
    p.drawPath(motionPath(document_.spec(other), alone, valueRect(), leftmost(), rightmost(), document_.heard().levels()));
  }
}

void CurveCanvas::paintSpeed(QPainter& p) const {
  const Theme& t = Theme::now();
  const QRectF box = speedRect();
  const QRectF seen = seenRect();
  const Scene& scene = document_.scene();
  const bool place = std::holds_alternative<Point>(param().base);
  const bool shares = place && spec().unit == Unit::Share;
  const Point per = shares ? Point{static_cast<double>(scene.width), static_cast<double>(scene.height)} : Point{1, 1};
  const SpeedCurve curve = speedPath(document_.spec(*at_), document_.voice(*at_), box.adjusted(0, 2, 0, -2), leftmost(), rightmost(),
                                     scene.seconds(), per, document_.heard().levels());
  p.setPen(QPen(t.line, 1));
  p.drawLine(QPointF(0, curve.zero), QPointF(width(), curve.zero));
  p.setPen(QPen(t.persimmon, 1.6));
  p.drawPath(curve.path);
  p.setPen(t.muted);
  p.setFont(uiFont(10));
  const bool number = std::holds_alternative<double>(param().base) && spec().rule == LoopRule::Free;
  const QString of = text(unitText(spec().unit));
  const QString unit = of.isEmpty() || of == QStringLiteral("°") ? of : QLatin1Char(' ') + of;
  p.drawText(QRectF(seen.left() + 6, box.top() - 9, seen.width() - 12, 14), Qt::AlignLeft | Qt::AlignVCenter,
             number   ? tr("speed, up to %1 a second").arg(numberLabel(spec(), curve.fastest) + unit)
             : shares ? tr("speed, up to %1 px a second").arg(text(numberText(curve.fastest, 0)))
                      : tr("speed"));
}

double CurveCanvas::heightOf(double value) const {
  const QRectF box = valueRect();
  const CurveRange range = curveRange(spec(), param(), document_.heard().levels());
  return box.bottom() - box.height() * (value - range.low) / (range.high - range.low);
}

std::optional<QPointF> CurveCanvas::bead() const {
  if (!shows(MotionKind::Swing)) return {};
  // Where in the first lap the swing is at its far end.
  const Motion& motion = param().motion;
  double best = -1;
  double share = 0.5;
  for (int i = 0; i < 400; ++i) {
    const double lap = i / 400.0;
    const double w = swingAt(motion.shape, motion.shares, motion.pace.at(lap));
    if (w > best) {
      best = w;
      share = lap;
    }
  }
  const QRectF loop = loopRect();
  return QPointF(loop.left() + loop.width() * loopShare(share), heightOf(curveHeight(spec(), param(), fract(share - motion.start))));
}

QPointF CurveCanvas::keyPlace(int index) const {
  const QRectF loop = loopRect();
  const Motion& motion = param().motion;
  const double at = ownPlace(motion, index);
  return {loop.left() + loop.width() * loopShare(at), heightOf(curveHeight(spec(), param(), fract(at - motion.start)))};
}

void CurveCanvas::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF all = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
  const QRectF loop = loopRect();
  p.setPen(QPen(hasFocus() ? t.lagoon : t.line, hasFocus() ? 2 : 1));
  p.setBrush(blendOf(t.panel, t.ink, 0.04));
  p.drawRoundedRect(all, 5, 5);
  p.fillRect(loop, t.card);
  QColor heard = t.muted;
  heard.setAlpha(60);
  drawWave(p, loop.adjusted(1, 22, -1, -26), document_.heard().wave(), heard);
  if (const Scene& scene = document_.scene(); scene.beats > 0 && scene.beats <= kMostBeatsShown)
    for (int i = 1; i < scene.beats; ++i) {
      const double x = loop.left() + loop.width() * i / scene.beats;
      p.setPen(QPen(i % scene.bar == 0 ? blendOf(t.card, t.ink, 0.28) : blendOf(t.card, t.ink, 0.1), 1));
      p.drawLine(QPointF(x, loop.top() + 1), QPointF(x, loop.bottom() - 1));
    }
  p.setFont(uiFont(10));
  p.setPen(t.muted);
  // Beside the loop, where there is room for the word.
  const auto beside = [&](double left, double right, const QString& word) {
    if (p.fontMetrics().horizontalAdvance(word) < right - left) p.drawText(QRectF(left, 4, right - left, 16), Qt::AlignCenter, word);
  };
  beside(all.left(), loop.left(), tr("before"));
  beside(loop.right(), all.right(), tr("again"));
  const double seconds = document_.scene().seconds();
  const QRectF seen = seenRect();
  const auto time = [&](double share) { return tr("%1 s").arg(text(numberText(seconds * share, 2))); };
  p.drawText(QRectF(seen.left() + 6, seen.bottom() - 19, 80, 16), Qt::AlignLeft | Qt::AlignVCenter, time(from_));
  p.drawText(QRectF(seen.right() - 126, seen.bottom() - 19, 120, 16), Qt::AlignRight | Qt::AlignVCenter,
             from_ + seen_ > 1 - 1e-9 ? tr("%1 = 0 s").arg(time(1)) : time(from_ + seen_));
  if (at_ && document_.valid(*at_) && document_.voice(*at_).motion.moves()) {
    p.save();
    p.setClipRect(all);
    p.setBrush(Qt::NoBrush);
    if (others_) paintOthers(p);
    if (speed_) paintSpeed(p);
    // Places are two numbers.
    if (const QPainterPath down =
            downPath(document_.spec(*at_), document_.voice(*at_), valueRect(), leftmost(), rightmost(), document_.heard().levels());
        !down.isEmpty()) {
      p.setPen(QPen(t.ochre, 2));
      p.drawPath(down);
      p.setFont(uiFont(10, 600));
      p.drawText(QRectF(seen.right() - 60, 3, 54, 14), Qt::AlignRight | Qt::AlignVCenter, tr("down"));
      p.setPen(t.lagoon);
      p.drawText(QRectF(seen.right() - 118, 3, 54, 14), Qt::AlignRight | Qt::AlignVCenter, tr("across"));
    }
    p.setPen(QPen(t.lagoon, 2));
    p.drawPath(motionPath(document_.spec(*at_), document_.voice(*at_), valueRect(), leftmost(), rightmost(), document_.heard().levels()));
    p.restore();
  } else {
    p.drawText(seen, Qt::AlignCenter, tr("Choose a motion"));
  }
  p.setPen(QPen(t.persimmon, 1.5));
  p.drawLine(loop.topLeft(), loop.bottomLeft());
  p.drawLine(loop.topRight(), loop.bottomRight());
  const double x = loop.left() + loop.width() * player_.frame() / document_.scene().frames;
  p.setPen(QPen(t.persimmon, 1.5, Qt::DotLine));
  p.drawLine(QPointF(x, loop.top()), QPointF(x, loop.bottom()));
  const auto drawBead = [&](QPointF place, bool chosen) {
    p.setPen(QPen(chosen ? t.persimmon : t.lagoon, chosen ? 2.6 : 2));
    p.setBrush(t.card);
    p.drawEllipse(place, 5.5, 5.5);
  };
  if (const auto place = bead()) drawBead(*place, hasFocus());
  for (int i = 0; i < keys(); ++i) drawBead(keyPlace(i), i == chosenKey());
  paintSeveral(p);
}

// Those that are taken together are full; the ends of their arc stand at both sides, to be dragged.
void CurveCanvas::paintSeveral(QPainter& p) const {
  const Theme& t = Theme::now();
  p.setPen(Qt::NoPen);
  p.setBrush(t.persimmon);
  for (const int k : several_) p.drawEllipse(keyPlace(k), 4, 4);
  if (const auto ends = severalEnds()) {
    const QRectF loop = loopRect();
    const auto end = [&](double share, int inwards) {
      const double x = loop.left() + loop.width() * share - inwards * 9;
      p.setPen(QPen(t.persimmon, 2, Qt::SolidLine, Qt::RoundCap));
      p.drawPolyline(
          QPolygonF{{x + inwards * 5, kAbove - 8}, {x, kAbove - 8}, {x, height() - kBelow + 4}, {x + inwards * 5, height() - kBelow + 4}});
    };
    const int way = param().motion.laps < 0 ? -1 : 1;
    end(ends->first, way);
    end(ends->second, -way);
  }
  if (!band_.isNull()) {
    QColor within = t.lagoon;
    within.setAlpha(40);
    p.setPen(QPen(t.lagoon, 1));
    p.setBrush(within);
    p.drawRect(band_.normalized());
  }
}

}  // namespace oa::app
