// What hands do with the curve.
#include "widgets/curve_canvas.h"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QSettings>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <numeric>

#include "edit/timing.h"
#include "model/heard.h"
#include "widgets/beat_grid.h"
#include "widgets/curve_drawing.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr double kNear = 14;      // pixels within which a bead is taken hold of
constexpr double kNearBeat = 6;   // pixels within which a beat, or another keyframe, draws it
constexpr double kNearEnd = 7;    // pixels within which an end of what is chosen is taken hold of
constexpr double kClick = 3;      // pixels that a click may wander
constexpr double kCloser = 1.25;  // by each notch of the wheel

double rounded(double share) { return fract(std::round(share * 1000) / 1000); }
// As finely as files need it: what was drawn to a frame, a beat or another keyframe stays there.
double exact(double share) { return fract(std::round(share * 1e6) / 1e6); }

}  // namespace

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
  key.at = exact(toLap);
  // A keyframe passes over others, and does not swallow one it stands upon.
  while (std::any_of(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return std::abs(k.at - key.at) < 5e-4; }))
    key.at = exact(key.at + 0.001);
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

void CurveCanvas::chooseSeveral(edit::KeyNumbers keys) {
  several_ = std::move(keys);
  if (several_.size() == 1) chooseKey(several_.front());
  if (several_.size() < 2) several_.clear();
  update();
}

std::optional<std::pair<double, double>> CurveCanvas::severalEnds() const {
  if (several_.size() < 2 || !shows(MotionKind::Keyframes)) return {};
  const edit::KeySpan span = edit::spanOf(param().motion, several_);
  return std::pair(loopShare(span.from), loopShare(fract(span.from + span.length)));
}

double CurveCanvas::snapped(double share, bool freely) const {
  if (freely) return share;
  const Scene& scene = document_.scene();
  const double near = kNearBeat / loopRect().width();
  double best = near;
  double to = std::round(share * scene.frames) / scene.frames;
  const auto draw = [&](double place) {
    const double round = place + std::round(share - place);
    if (const double off = std::abs(round - share); off < best) {
      best = off;
      to = round;
    }
  };
  draw(0);
  if (const double beat = onBeat(scene, share, near); beat != share) draw(beat);
  const Layer* layer = document_.layer(at_->layer);
  if (!layer) return to;
  for (const edit::KeyBead& bead : edit::beadsOf(*layer)) {
    const edit::MotionAddress& of = bead.key.at;
    const bool own = ParamAddress{of.layer, of.step, of.param, of.item, of.motion} == *at_;
    if (!own || std::find(dragged_.begin(), dragged_.end(), bead.key.key) == dragged_.end()) draw(bead.place);
  }
  return to;
}

void CurveCanvas::changeSeveral(const std::function<edit::KeyNumbers(Motion&, const edit::KeyNumbers&)>& change) {
  const bool dragging = drag_ != Drag::None;
  Motion motion = dragging ? pressed_.motion : param().motion;
  const edit::KeyNumbers now = change(motion, dragging ? dragged_ : several_);
  document_.setMotion(*at_, motion, dragging);
  chooseSeveral(now);
}

void CurveCanvas::dragSeveral(QPointF moved, bool freely) {
  const double by = moved.x() / loopRect().width();
  const int laps = pressed_.motion.laps;
  const edit::KeySpan span = edit::spanOf(pressed_.motion, dragged_);
  // How far the end that is held, or the keyframe, goes on its lap.
  const auto onLap = [&](double share) { return (snapped(share + by, freely) - share) * laps; };
  if (drag_ == Drag::Several) {
    const double along = onLap(pressedShare_);
    return changeSeveral([&](Motion& motion, const edit::KeyNumbers& keys) {
      // All the same way up or down, where that is meant.
      if (std::abs(moved.y()) > 4)
        for (const int k : keys)
          if (auto* number = std::get_if<double>(&ownValue(motion, k))) *number = draggedNumber(*number, moved.y());
      return edit::shiftKeys(motion, keys, along);
    });
  }
  const bool last = drag_ == Drag::Last;
  const double along = onLap(loopShare(last ? fract(span.from + span.length) : span.from));
  changeSeveral([&](Motion& motion, const edit::KeyNumbers& keys) {
    return edit::scaleKeys(motion, keys, span.length + (last ? along : -along), !last);
  });
}

void CurveCanvas::takeBand() {
  several_.clear();
  for (int i = 0; i < keys(); ++i)
    if (band_.normalized().contains(keyPlace(i))) several_.push_back(i);
  update();
}

void CurveCanvas::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (!at_ || !document_.valid(*at_) || !param().motion.moves()) return;
  press_ = event->position();
  pressed_ = param();
  drag_ = Drag::Start;
  dragged_ = several_;
  if (const auto ends = severalEnds()) {
    const QRectF loop = loopRect();
    const int way = param().motion.laps < 0 ? -1 : 1;
    const auto over = [&](double share, int inwards) {
      return std::abs(press_.x() - (loop.left() + loop.width() * share - inwards * 9)) < kNearEnd;
    };
    if (over(ends->second, -way)) drag_ = Drag::Last;
    if (over(ends->first, way)) drag_ = Drag::First;
    if (drag_ != Drag::Start) return;
  }
  if (const auto place = bead(); place && QLineF(*place, press_).length() < kNear) drag_ = Drag::FarEnd;
  double nearest = kNear;
  for (int i = 0; i < keys(); ++i)
    if (const double away = QLineF(keyPlace(i), press_).length(); away < nearest) {
      nearest = away;
      drag_ = Drag::Key;
      pressedKey_ = i;
    }
  if (drag_ != Drag::Key) {
    if (event->modifiers() & Qt::ControlModifier && shows(MotionKind::Keyframes)) {
      drag_ = Drag::Band;
      band_ = {press_, press_};
    }
    return;
  }
  const auto held = std::find(several_.begin(), several_.end(), pressedKey_);
  if (event->modifiers() & Qt::ShiftModifier && shows(MotionKind::Keyframes)) {
    // One more, or one less; the one that was chosen alone is the first of them.
    edit::KeyNumbers now = several_.empty() ? edit::KeyNumbers{chosenKey()} : several_;
    if (held != several_.end())
      std::erase(now, pressedKey_);
    else if (std::find(now.begin(), now.end(), pressedKey_) == now.end())
      now.insert(std::upper_bound(now.begin(), now.end(), pressedKey_), pressedKey_);
    drag_ = Drag::None;
    return chooseSeveral(now);
  }
  if (held == several_.end()) several_.clear();
  if (!several_.empty()) drag_ = Drag::Several;
  dragged_ = several_.empty() ? edit::KeyNumbers{pressedKey_} : several_;
  chooseKey(pressedKey_);
  pressedShare_ = loopShare(ownPlace(param().motion, pressedKey_));
}

void CurveCanvas::mouseMoveEvent(QMouseEvent* event) {
  if (drag_ == Drag::None || !at_ || !document_.valid(*at_)) return;
  const QPointF moved = event->position() - press_;
  double loop = moved.x() / loopRect().width();
  Motion motion = pressed_.motion;
  const bool freely = event->modifiers() & Qt::AltModifier;
  if (drag_ == Drag::Key && motion.kind == MotionKind::Keyframes) loop = snapped(pressedShare_ + loop, freely) - pressedShare_;
  switch (drag_) {
    case Drag::FarEnd:
      if (!std::holds_alternative<double>(pressed_.base)) return;
      motion.far = draggedNumber(std::get<double>(motion.far), moved.y());
      break;
    case Drag::Band:
      band_.setBottomRight(event->position());
      return takeBand();
    case Drag::Several:
    case Drag::First:
    case Drag::Last:
      return dragSeveral(moved, freely);
    case Drag::Key: {
      // As it was when it was taken hold of: while it passes others its number changes.
      Value value = ownValue(motion, pressedKey_);
      if (const auto* number = std::get_if<double>(&value)) value = draggedNumber(*number, moved.y());
      return moveKey(pressedKey_, ownPlace(motion, pressedKey_) + loop * motion.laps, value, true);
    }
    default:
      motion.start = rounded(pressed_.motion.start - loop * static_cast<double>(lapsOf(motion)));
      break;
  }
  document_.setMotion(*at_, motion, true);
}

void CurveCanvas::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const Drag drag = drag_;
  drag_ = Drag::None;
  if (drag == Drag::Band) {
    band_ = {};
    return chooseSeveral(several_);
  }
  // A click on one of several chooses it alone.
  if (drag == Drag::Several && QLineF(event->position(), press_).length() < kClick) return chooseSeveral({});
  if (drag != Drag::None) document_.endGesture();
}

void CurveCanvas::wheelEvent(QWheelEvent* event) {
  const QPointF turned = event->angleDelta() / 120.0;
  const QRectF seen = seenRect();
  // Sideways along the loop; up and down closer to what is pointed at.
  if (event->modifiers() & Qt::ShiftModifier || std::abs(turned.x()) > std::abs(turned.y()))
    return look(from_ - (turned.x() != 0 ? turned.x() : turned.y()) * seen_ / 10, seen_);
  const double pointed = std::clamp((event->position().x() - seen.left()) / seen.width(), 0.0, 1.0);
  const double now = std::clamp(seen_ * std::pow(kCloser, -turned.y()), kClosest, 1.0);
  look(from_ + pointed * (seen_ - now), now);
  event->accept();
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
  if (shows(MotionKind::Keyframes)) addSeveralTo(menu);
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
  menu.addAction(tr("Show all of the loop (F)"), this, [this] { look(0, 1); })->setEnabled(seen_ < 1);
  menu.addSeparator();
  menu.addAction(tr("Stop moving"), this, [this] { setKeys([](Motion& m) { m.kind = MotionKind::Still; }); });
  menu.exec(event->globalPos());
}

void CurveCanvas::addSeveralTo(QMenu& menu) {
  menu.addSeparator();
  menu.addAction(tr("Choose all keyframes"), this, &CurveCanvas::chooseAll)->setEnabled(keys() > 1);
  const auto add = [&](const QString& words, edit::KeyNumbers (*tool)(Motion&, const edit::KeyNumbers&)) {
    menu.addAction(words, this, [this, tool] { changeSeveral(tool); })->setEnabled(several_.size() > 1);
  };
  add(tr("Spread them evenly"), &edit::spreadKeys);
  add(tr("Run them backwards"), &edit::mirrorKeys);
  add(tr("There and back again"), &edit::thereAndBack);
}

void CurveCanvas::chooseAll() {
  edit::KeyNumbers all(static_cast<std::size_t>(keys()));
  std::iota(all.begin(), all.end(), 0);
  chooseSeveral(std::move(all));
}

// What keys do to several at once; false: to the one that is chosen, then.
bool CurveCanvas::severalKey(QKeyEvent* event) {
  if (event->matches(QKeySequence::SelectAll) && shows(MotionKind::Keyframes)) {
    chooseAll();
    return true;
  }
  if (event->key() == Qt::Key_F && event->modifiers() == Qt::NoModifier) {
    look(0, 1);
    return true;
  }
  if (several_.empty()) return false;
  switch (event->key()) {
    case Qt::Key_Escape:
      chooseSeveral({});
      return true;
    case Qt::Key_Delete: {
      Motion motion = param().motion;
      // One stays, or there is no motion.
      for (auto k = several_.rbegin(); k != several_.rend() && motion.keys.size() > 1; ++k) motion.keys.erase(motion.keys.begin() + *k);
      several_.clear();
      document_.setMotion(*at_, motion, false);
      return true;
    }
    case Qt::Key_Left:
    case Qt::Key_Right:
      if (!(event->modifiers() & Qt::ShiftModifier)) return false;
      changeSeveral([&](Motion& motion, const edit::KeyNumbers& several) {
        return edit::shiftKeys(motion, several, event->key() == Qt::Key_Left ? -0.01 : 0.01);
      });
      return true;
    default:
      return false;
  }
}

void CurveCanvas::keyPressEvent(QKeyEvent* event) {
  const int count = keys();
  if (at_ && document_.valid(*at_) && severalKey(event)) return;
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
