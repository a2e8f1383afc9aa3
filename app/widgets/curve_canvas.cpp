#include "model/heard.h"
#include "widgets/curve_canvas.h"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QSettings>
#include <algorithm>
#include <cmath>

#include "edit/timing.h"
#include "widgets/beat_grid.h"
#include "widgets/curve_drawing.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/wave_drawing.h"

namespace oa::app {
namespace {

constexpr double kOutside = 0.13;  // of the width, on each side, for what came before and comes next
constexpr double kNear = 14;       // pixels within which a bead is taken hold of
constexpr double kNearBeat = 6;    // pixels within which a beat draws it
constexpr double kAbove = 18;      // room above and below the curve
constexpr double kBelow = 24;

double rounded(double share) { return fract(std::round(share * 1000) / 1000); }

}  // namespace

CurveCanvas::CurveCanvas(Document& document, Player& player, QWidget* parent) : QWidget(parent), document_(document), player_(player) {
  setMinimumSize(220, 90);
  setFocusPolicy(Qt::StrongFocus);
  setToolTip(tr(
      "Drag sideways for the head start, a bead for how far it goes. Keyframes and own hops: double-click to add one, Delete removes it"));
  setAccessibleName(tr("Curve of the chosen motion"));
  speed_ = QSettings().value(QStringLiteral("curve/speed"), false).toBool();
  others_ = QSettings().value(QStringLiteral("curve/others"), false).toBool();
  connect(&player, &Player::frameChanged, this, qOverload<>(&QWidget::update));
  connect(&document.heard(), &Heard::changed, this, qOverload<>(&QWidget::update));
}

void CurveCanvas::setMotion(std::optional<ParamAddress> at) {
  if (at != at_) chosen_ = 0;
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

QRectF CurveCanvas::loopRect() const { return QRectF(rect()).adjusted(width() * kOutside, 1, -width() * kOutside, -1); }

double CurveCanvas::loopShare(double lap) const {
  const Motion& motion = param().motion;
  const double on = fract(lap - motion.start);
  return (motion.laps < 0 ? fract(1 - on) : on) / std::abs(motion.laps);
}

double CurveCanvas::lapShare(double loop) const { return fract(loop * param().motion.laps + param().motion.start); }

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
void CurveCanvas::paintOthers(QPainter& p, double side) const {
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
    p.drawPath(motionPath(document_.spec(other), alone, valueRect(), -side, 1 + side, document_.heard().levels()));
  }
}

void CurveCanvas::paintSpeed(QPainter& p, double side) const {
  const Theme& t = Theme::now();
  const QRectF box = speedRect();
  const QRectF loop = loopRect();
  const Scene& scene = document_.scene();
  const bool place = std::holds_alternative<Point>(param().base);
  const bool shares = place && spec().unit == Unit::Share;
  const Point per = shares ? Point{static_cast<double>(scene.width), static_cast<double>(scene.height)} : Point{1, 1};
  const SpeedCurve curve = speedPath(document_.spec(*at_), document_.voice(*at_), box.adjusted(0, 2, 0, -2), -side, 1 + side,
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
  p.drawText(QRectF(loop.left() + 6, box.top() - 9, loop.width() - 12, 14), Qt::AlignLeft | Qt::AlignVCenter,
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
  p.drawText(QRectF(loop.left() + 6, loop.bottom() - 19, 80, 16), Qt::AlignLeft | Qt::AlignVCenter, tr("0 s"));
  p.drawText(QRectF(loop.right() - 126, loop.bottom() - 19, 120, 16), Qt::AlignRight | Qt::AlignVCenter,
             tr("%1 s = 0 s").arg(text(numberText(seconds, 2))));
  if (at_ && document_.valid(*at_) && document_.voice(*at_).motion.moves()) {
    const double side = kOutside / (1 - 2 * kOutside);
    p.save();
    p.setClipRect(all);
    p.setBrush(Qt::NoBrush);
    if (others_) paintOthers(p, side);
    if (speed_) paintSpeed(p, side);
    // Places are two numbers.
    if (const QPainterPath down =
            downPath(document_.spec(*at_), document_.voice(*at_), valueRect(), -side, 1 + side, document_.heard().levels());
        !down.isEmpty()) {
      p.setPen(QPen(t.ochre, 2));
      p.drawPath(down);
      p.setFont(uiFont(10, 600));
      p.drawText(QRectF(loop.right() - 60, 3, 54, 14), Qt::AlignRight | Qt::AlignVCenter, tr("down"));
      p.setPen(t.lagoon);
      p.drawText(QRectF(loop.right() - 118, 3, 54, 14), Qt::AlignRight | Qt::AlignVCenter, tr("across"));
    }
    p.setPen(QPen(t.lagoon, 2));
    p.drawPath(motionPath(document_.spec(*at_), document_.voice(*at_), valueRect(), -side, 1 + side, document_.heard().levels()));
    p.restore();
  } else {
    p.drawText(loop, Qt::AlignCenter, tr("Choose a motion"));
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
}

void CurveCanvas::setKeys(const std::function<void(Motion&)>& change) {
  Motion motion = param().motion;
  change(motion);
  document_.setMotion(*at_, motion, false);
}

void CurveCanvas::moveKey(int index, double toLap, const Value& value, bool gesture) {
  Motion motion = (drag_ == Drag::Key ? pressed_ : param()).motion;
  if (index < 0 || index >= ownCount(motion)) return;
  if (motion.kind == MotionKind::Hops) {
    ownValue(motion, index) = value;
    document_.setMotion(*at_, motion, gesture);
    return;
  }
  Keyframe key = motion.keys[static_cast<std::size_t>(index)];
  motion.keys.erase(motion.keys.begin() + index);
  key.at = rounded(toLap);
  // A keyframe passes over others, and does not swallow one it stands upon.
  while (std::any_of(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return std::abs(k.at - key.at) < 5e-4; }))
    key.at = rounded(key.at + 0.001);
  key.value = value;
  const double at = key.at;
  placeKeyframe(motion, std::move(key));
  const auto found = std::find_if(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return k.at == at; });
  chosen_ = static_cast<int>(found - motion.keys.begin());
  document_.setMotion(*at_, motion, gesture);
  Q_EMIT keyChosen();
}

double CurveCanvas::draggedNumber(double from, double pixels) const {
  // The height of the drawing stands for the distance there was, or a fifth of the range at least.
  const CurveRange range = curveRange(spec(), pressed_, document_.heard().levels());
  const double reach = std::max(range.high - range.low, (spec().high() - spec().low()) * 0.2);
  const double to = from - pixels / std::max(20.0, valueRect().height()) * reach;
  const double digits = std::pow(10, std::floor(std::log10(reach / 100)));
  const double held = spec().isWhole() ? std::round(to) : std::round(to / digits) * digits;
  return spec().rule == LoopRule::Round ? held : std::clamp(held, spec().min, spec().max);
}

void CurveCanvas::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (!at_ || !document_.valid(*at_) || !param().motion.moves()) return;
  press_ = event->position();
  pressed_ = param();
  drag_ = Drag::Start;
  if (const auto place = bead(); place && QLineF(*place, press_).length() < kNear) drag_ = Drag::FarEnd;
  double nearest = kNear;
  for (int i = 0; i < keys(); ++i)
    if (const double away = QLineF(keyPlace(i), press_).length(); away < nearest) {
      nearest = away;
      drag_ = Drag::Key;
      pressedKey_ = i;
    }
  if (drag_ != Drag::Key) return;
  chooseKey(pressedKey_);
  pressedShare_ = loopShare(ownPlace(param().motion, pressedKey_));
}

void CurveCanvas::mouseMoveEvent(QMouseEvent* event) {
  if (drag_ == Drag::None || !at_ || !document_.valid(*at_)) return;
  const QPointF moved = event->position() - press_;
  double loop = moved.x() / loopRect().width();
  Motion motion = pressed_.motion;
  // To a beat that is near, but with Alt.
  if (drag_ == Drag::Key && motion.kind == MotionKind::Keyframes && !(event->modifiers() & Qt::AltModifier)) {
    const double from = pressedShare_;
    loop = onBeat(document_.scene(), from + loop, kNearBeat / loopRect().width()) - from;
  }
  switch (drag_) {
    case Drag::FarEnd:
      if (!std::holds_alternative<double>(pressed_.base)) return;
      motion.far = draggedNumber(std::get<double>(motion.far), moved.y());
      break;
    case Drag::Key: {
      // As it was when it was taken hold of: while it passes others its number changes.
      Value value = ownValue(motion, pressedKey_);
      if (const auto* number = std::get_if<double>(&value)) value = draggedNumber(*number, moved.y());
      return moveKey(pressedKey_, ownPlace(motion, pressedKey_) + loop * motion.laps, value, true);
    }
    default:
      motion.start = rounded(pressed_.motion.start - loop * motion.laps);
      break;
  }
  document_.setMotion(*at_, motion, true);
}

void CurveCanvas::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (drag_ != Drag::None) document_.endGesture();
  drag_ = Drag::None;
}

void CurveCanvas::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  drag_ = Drag::None;
  if (!at_ || !document_.valid(*at_)) return;
  const QRectF loop = loopRect();
  addKey(rounded(lapShare((event->position().x() - loop.left()) / loop.width())));
}

void CurveCanvas::addKey(double at) {
  const int count = keys();
  const bool hops = shows(MotionKind::Hops);
  if (count == 0 || count >= static_cast<int>(hops ? kMaxKnots : kMaxKeyframes)) return;
  const Value value = valueOnLap(spec(), param(), at);
  if (hops) {
    // The one that was clicked stays longer by one more of itself.
    const int index = std::min(count - 1, static_cast<int>(at * count));
    setKeys([&](Motion& motion) { motion.list.insert(motion.list.begin() + index, value); });
    return chooseKey(index + 1);
  }
  setKeys([&](Motion& motion) { placeKeyframe(motion, {at, value, *Pace::fromName("ease-in-out"), false}); });
  for (int i = 0; i < keys(); ++i)
    if (ownPlace(param().motion, i) == at) chooseKey(i);
}

void CurveCanvas::removeKey(int key) {
  const int count = keys();
  // A single hop would be a still value.
  if (count <= (shows(MotionKind::Hops) ? 2 : 1)) return;
  setKeys([&](Motion& motion) {
    if (motion.kind == MotionKind::Hops)
      motion.list.erase(motion.list.begin() + key);
    else
      motion.keys.erase(motion.keys.begin() + key);
  });
  chooseKey(std::min(key, count - 2));
}

void CurveCanvas::contextMenuEvent(QContextMenuEvent* event) {
  if (!at_ || !document_.valid(*at_) || !param().motion.moves()) return;
  const QRectF loop = loopRect();
  const double at = event->reason() == QContextMenuEvent::Mouse
                        ? rounded(lapShare((event->pos().x() - loop.left()) / loop.width()))
                        : rounded(lapShare(static_cast<double>(player_.frame()) / document_.scene().frames));
  QMenu menu(this);
  const bool hops = shows(MotionKind::Hops);
  menu.addAction(hops ? tr("Add a hop here") : tr("Add a keyframe here"), this, [this, at] { addKey(at); })->setEnabled(keys() > 0);
  menu.addAction(hops ? tr("Delete the chosen hop") : tr("Delete the chosen keyframe"), this, [this] { removeKey(chosenKey()); })
      ->setEnabled(keys() > (hops ? 2 : 1));
  menu.addSeparator();
  menu.addAction(tr("Begin at the joint"), this, [this] { setKeys([](Motion& m) { m.start = 0; }); })
      ->setEnabled(param().motion.start != 0);
  menu.addAction(tr("Run backwards"), this, [this] { setKeys([](Motion& m) { m.laps = -m.laps; }); });
  menu.addSeparator();
  const auto toggle = [&](const QString& words, bool on, auto set) {
    QAction* action = menu.addAction(words);
    action->setCheckable(true);
    action->setChecked(on);
    connect(action, &QAction::toggled, this, set);
  };
  toggle(tr("Show its speed"), speed_, &CurveCanvas::setShowsSpeed);
  toggle(tr("Show the layer's other motions"), others_, &CurveCanvas::setShowsOthers);
  menu.addSeparator();
  menu.addAction(tr("Stop moving"), this, [this] { setKeys([](Motion& m) { m.kind = MotionKind::Still; }); });
  menu.exec(event->globalPos());
}

void CurveCanvas::keyPressEvent(QKeyEvent* event) {
  const int count = keys();
  if (count == 0) return QWidget::keyPressEvent(event);
  const int key = chosenKey();
  const Value value = ownValue(param().motion, key);
  const double at = ownPlace(param().motion, key);
  const bool shift = event->modifiers() & Qt::ShiftModifier;
  switch (event->key()) {
    case Qt::Key_Left:
    case Qt::Key_Right: {
      const int way = event->key() == Qt::Key_Left ? -1 : 1;
      if (shift) {
        if (shows(MotionKind::Keyframes)) moveKey(key, at + way * 0.01, value, true);
        break;
      }
      chooseKey(static_cast<int>(floorMod(key + way, std::int64_t{count})));
      break;
    }
    case Qt::Key_Up:
    case Qt::Key_Down:
      if (const auto* number = std::get_if<double>(&value)) {
        const double step = spec().isWhole() ? 1 : (spec().high() - spec().low()) / 100;
        const double to = *number + (event->key() == Qt::Key_Up ? step : -step);
        moveKey(key, at, spec().rule == LoopRule::Round ? to : std::clamp(to, spec().min, spec().max), true);
      }
      break;
    case Qt::Key_Delete:
      removeKey(key);
      break;
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace oa::app
