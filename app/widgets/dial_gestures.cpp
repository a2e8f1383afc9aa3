// What hands do with the dial.
#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "widgets/beat_grid.h"
#include "widgets/dial.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr double kButton = 24;
constexpr double kNearBeat = 6;  // pixels within which a beat draws what is dragged
constexpr double kNearBead = 8;
constexpr double kNearGap = 6;
constexpr double kCloser = 1.4;  // by each notch of the wheel
constexpr double kClick = 3;     // pixels that a click may wander

// The shorter way round from one share to another, -0.5 to 0.5.
double wayTo(double from, double to) {
  const double way = fract(to - from);
  return way > 0.5 ? way - 1 : way;
}

}  // namespace

void Dial::listen() {
  connect(&document_, &Document::changed, this, &Dial::forgetRings);
  connect(&document_, &Document::currentLayerChanged, this, [this] {
    chosen_.clear();
    forgetRings();
  });
}

void Dial::forgetRings() {
  known_ = false;
  // Keyframes that went are no longer chosen.
  std::erase_if(chosen_, [&](const edit::KeyAt& key) {
    const Motion* motion = edit::motionAt(document_.scene(), key.at);
    return !motion || motion->kind != MotionKind::Keyframes || key.key >= static_cast<int>(motion->keys.size());
  });
  update();
}

const std::vector<DialRing>& Dial::rings() const {
  if (!known_) rings_ = dialRings(document_, inner(), outer(), looked_ != 0 ? looked_ : document_.currentLayer());
  known_ = true;
  return rings_;
}

const DialRing* Dial::ownRing() const {
  const auto& all = rings();
  const auto own = std::find_if(all.begin(), all.end(), [&](const DialRing& ring) { return ring.layer == document_.currentLayer(); });
  return own == all.end() ? nullptr : &*own;
}

bool Dial::canChange() const { return document_.layer() && !document_.layer()->locked; }

std::vector<Dial::Bead> Dial::beads() const {
  std::vector<Bead> all;
  const DialRing* ring = ownRing();
  if (!ring || !document_.layer()) return all;
  for (const edit::KeyBead& key : edit::beadsOf(*document_.layer())) all.push_back({key, on(ring->radius, key.place)});
  return all;
}

std::vector<QPointF> Dial::gaps() const {
  std::vector<QPointF> all;
  const DialRing* ring = ownRing();
  const Layer* layer = document_.layer();
  // Parts in which it is there come once, whatever moves within them.
  if (!ring || ring->laps == 0 || ring->laps > 60 || !layer || layer->isGroup()) return all;
  if (edit::ownLaps(document_.scene(), *layer) != ring->laps) return all;
  for (std::int64_t i = 1; i <= ring->laps; ++i)
    all.push_back(on(ring->radius, ring->begins + static_cast<double>(i) / static_cast<double>(ring->laps)));
  return all;
}

int Dial::frameAt(QPointF place) const { return static_cast<int>(shareAt(place) * document_.scene().frames); }

std::vector<Dial::PresenceEnd> Dial::presenceEnds() const {
  std::vector<PresenceEnd> ends;
  const Presence* presence = document_.presence(document_.currentLayer(), document_.presenceStep());
  const DialRing* ring = ownRing();
  if (!presence || !ring) return ends;
  for (int i = 0; i < static_cast<int>(presence->size()); ++i) {
    const Arc& arc = (*presence)[static_cast<std::size_t>(i)];
    ends.push_back({i, false, on(ring->radius + 4.5, arc.from)});
    ends.push_back({i, true, on(ring->radius + 4.5, fract(arc.from + arc.length))});
  }
  return ends;
}

// To beats that are near, else to whole frames.
double Dial::snapped(double share, bool freely) const {
  if (freely) return share;
  const int frames = document_.scene().frames;
  const double near = onBeat(document_.scene(), share, kNearBeat / (2 * std::numbers::pi * radius() * lens_.zoom()));
  return std::round(near * frames) / frames;
}

int Dial::beadAt(QPointF place) const {
  const auto all = beads();
  int found = -1;
  for (int i = 0; i < static_cast<int>(all.size()); ++i) {
    const double far = QLineF(all[static_cast<std::size_t>(i)].place, place).length();
    if (far < kNearBead && (found < 0 || far < QLineF(all[static_cast<std::size_t>(found)].place, place).length())) found = i;
  }
  return found;
}

int Dial::gapAt(QPointF place) const {
  const auto all = gaps();
  for (int i = static_cast<int>(all.size()) - 1; i >= 0; --i)
    if (QLineF(all[static_cast<std::size_t>(i)], place).length() < kNearGap) return i;
  return -1;
}

// The other end stays where it is; ends lie at whole frames.
void Dial::dragEnd(QPointF to, bool freely) {
  const auto ends = presenceEnds();
  if (dragged_ >= static_cast<int>(ends.size())) return;
  const PresenceEnd& end = ends[static_cast<std::size_t>(dragged_)];
  const int frames = document_.scene().frames;
  const double share = fract(std::round(snapped(shareAt(to), freely) * frames) / frames);
  const Id id = document_.currentLayer();
  document_.edit(tr("presence"), QStringLiteral("dial/presence/%1").arg(dragged_), [&](Scene& scene) {
    Arc& arc = (*Document::presence(scene, id, document_.presenceStep()))[static_cast<std::size_t>(end.arc)];
    const double last = arc.from + arc.length;
    if (!end.last) arc.from = share;
    const double length = end.last ? fract(share - arc.from) : fract(last - share);
    arc.length = length < 0.5 / frames ? 1 : length;
    arc.in = std::min(arc.in, arc.length);
    arc.out = std::min(arc.out, arc.length - arc.in);
  });
}

void Dial::changeLayer(const QString& label, const std::function<void(Scene&)>& change) {
  if (!before_) return;
  document_.edit(label, QStringLiteral("dial/") + label, [&](Scene& scene) {
    if (Layer* own = findLayer(scene, before_->id)) *own = *before_;
    change(scene);
  });
}

void Dial::dragKeys(QPointF to, bool freely) {
  const double by = wayTo(anchor_, snapped(fract(anchor_ + wayTo(pressed_, shareAt(to))), freely));
  std::vector<edit::KeyAt> now = moved_;
  changeLayer(copies_ ? tr("copy keyframes") : tr("move keyframes"),
              [&](Scene& scene) { now = edit::moveKeys(scene, moved_, by, copies_); });
  chosen_ = std::move(now);
  update();
}

void Dial::dragTurn(QPointF to, bool freely) {
  // A ring that is turned on comes later.
  const double by = wayTo(pressed_, shareAt(to));
  const double frames = document_.scene().frames;
  const double whole = freely ? by : std::round(by * frames) / frames;
  changeLayer(tr("head start"), [&](Scene& scene) {
    if (Layer* own = findLayer(scene, before_->id)) edit::bringForward(*own, -whole);
  });
}

void Dial::dragLaps(QPointF to) {
  // Where the k-th lap ends is where the hand is.
  double share = fract(shareAt(to) - anchor_);
  if (dragged_ == static_cast<int>(edit::ownLaps(document_.scene(), *before_)) && share < 0.25) share += 1;
  if (dragged_ < 1 || share < 1e-3) return;
  const int laps = std::clamp(static_cast<int>(std::lround(dragged_ / share)), 1, kMaxLaps);
  changeLayer(tr("laps"), [&](Scene& scene) { edit::setOwnLaps(scene, before_->id, laps); });
}

void Dial::takeBand() {
  chosen_.clear();
  for (const Bead& bead : beads())
    if (band_.normalized().contains(bead.place) && std::find(chosen_.begin(), chosen_.end(), bead.key.key) == chosen_.end())
      chosen_.push_back(bead.key.key);
  update();
}

void Dial::chooseBead(int bead, bool more) {
  const edit::KeyAt key = beads()[static_cast<std::size_t>(bead)].key.key;
  const auto found = std::find(chosen_.begin(), chosen_.end(), key);
  if (more && found != chosen_.end())
    chosen_.erase(found);
  else if (more)
    chosen_.push_back(key);
  else if (found == chosen_.end())
    chosen_ = {key};
  update();
}

void Dial::nudge(int frames) {
  if (!canChange()) return;
  const double by = static_cast<double>(frames) / document_.scene().frames;
  before_ = *document_.layer();
  if (!chosen_.empty()) {
    std::vector<edit::KeyAt> now;
    changeLayer(tr("move keyframes"), [&](Scene& scene) { now = edit::moveKeys(scene, chosen_, by, false); });
    chosen_ = std::move(now);
  } else if (const DialRing* ring = ownRing(); ring && ring->laps > 0) {
    changeLayer(tr("head start"), [&](Scene& scene) { edit::bringForward(*findLayer(scene, before_->id), -by); });
  }
  before_.reset();
}

void Dial::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const QPointF at = event->position();
  const double distance = QLineF(at, centre()).length();
  if (distance <= kButton) return player_.toggle();
  pressed_ = shareAt(at);
  pressedAt_ = at;
  const auto begin = [&](Drag drag) {
    drag_ = drag;
    if (document_.layer()) before_ = *document_.layer();
  };
  if (canChange()) {
    const auto ends = presenceEnds();
    for (std::size_t i = 0; i < ends.size(); ++i)
      if (QLineF(ends[i].place, at).length() < 8) {
        dragged_ = static_cast<int>(i);
        return begin(Drag::End);
      }
    if (const int bead = beadAt(at); bead >= 0) {
      const edit::KeyBead key = beads()[static_cast<std::size_t>(bead)].key;
      chooseBead(bead, event->modifiers() & Qt::ShiftModifier);
      if (event->modifiers() & Qt::ShiftModifier) return;
      moved_ = chosen_;
      anchor_ = key.place;
      copies_ = event->modifiers() & Qt::ControlModifier;
      return begin(Drag::Keys);
    }
    if (event->modifiers() & Qt::ControlModifier) {
      band_ = {at, at};
      return begin(Drag::Band);
    }
    if (const int gap = gapAt(at); gap >= 0) {
      dragged_ = gap + 1;
      anchor_ = ownRing()->begins;
      return begin(Drag::Laps);
    }
  }
  if (event->modifiers() & Qt::ShiftModifier) {
    markedFrom_ = frameAt(at);
    drag_ = Drag::Mark;
    return;
  }
  const DialRing* ring = ringAt(rings(), distance);
  if (ring && ring->layer == document_.currentLayer() && ring->laps > 0 && canChange()) return begin(Drag::Turn);
  // A click chooses the layer; a drag goes through the loop all the same.
  drag_ = ring && ring->layer != document_.currentLayer() ? Drag::Other : Drag::Scrub;
  if (drag_ == Drag::Other) {
    before_ = *document_.layer(ring->layer);
    return;
  }
  player_.setPlaying(false);
  player_.setFrame(frameAt(at));
}

void Dial::mouseMoveEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  const bool freely = event->modifiers() & Qt::AltModifier;
  const bool still = QLineF(at, pressedAt_).length() < kClick;
  switch (drag_) {
    case Drag::None:
      return point(at);
    case Drag::End:
      return dragEnd(at, freely);
    case Drag::Keys:
      return still ? void() : dragKeys(at, freely);
    case Drag::Turn:
      return still ? void() : dragTurn(at, freely);
    case Drag::Laps:
      return still ? void() : dragLaps(at);
    case Drag::Band:
      band_.setBottomRight(at);
      return takeBand();
    case Drag::Mark: {
      // The shorter way round from where it was pressed.
      const int n = document_.scene().frames;
      const int here = frameAt(at);
      const auto ahead = static_cast<int>(floorMod(here - *markedFrom_, n));
      return ahead <= n / 2 ? player_.setMark({*markedFrom_, ahead + 1}) : player_.setMark({here, n - ahead + 1});
    }
    case Drag::Other:
      if (still) return;
      drag_ = Drag::Scrub;
      player_.setPlaying(false);
      [[fallthrough]];
    case Drag::Scrub:
      return player_.setFrame(frameAt(at));
  }
}

void Dial::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const Drag drag = drag_;
  drag_ = Drag::None;
  if (drag == Drag::Other && before_) document_.setCurrentLayer(before_->id);
  if (drag != Drag::Scrub && drag != Drag::Mark && drag != Drag::None) document_.endGesture();
  dragged_ = -1;
  markedFrom_.reset();
  before_.reset();
  update();
}

// Says what is pointed at, and makes room for it where rings lie close.
void Dial::point(QPointF at) {
  const double distance = QLineF(at, centre()).length();
  const DialRing* ring = distance > kButton ? ringAt(rings(), distance) : nullptr;
  const Id looked = ring ? ring->layer : 0;
  const bool own = ring && ring->layer == document_.currentLayer() && canChange();
  const bool grab = canChange() && (beadAt(at) >= 0 || gapAt(at) >= 0);
  setCursor(grab ? Qt::PointingHandCursor : own && ring->laps > 0 ? Qt::OpenHandCursor : Qt::ArrowCursor);
  QString words;
  if (ring) {
    words = text(document_.layer(looked)->name);
    words += ring->laps == 0 ? tr(" · at rest") : ring->laps == 1 ? tr(" · 1 lap") : tr(" · %1 laps").arg(ring->laps);
  }
  if (looked == looked_ && words == pointedAt_) return;
  looked_ = looked;
  pointedAt_ = words;
  known_ = false;
  update();
}

// Closer to what is pointed at, which stays under the pointer.
void Dial::wheelEvent(QWheelEvent* event) {
  const double shown = shareOf(centre(), event->position());
  const double zoom = lens_.zoom() * std::pow(kCloser, event->angleDelta().y() / 120.0);
  lens_.look(lens_.share(shown), shown, zoom < 1.05 ? 1 : zoom);
  pointedAt_ = lens_.zoom() > 1 ? tr("%1 × closer").arg(text(numberText(lens_.zoom(), 1))) : QString();
  event->accept();
  update();
}

void Dial::leaveEvent(QEvent* event) {
  QWidget::leaveEvent(event);
  if (looked_ == 0 && pointedAt_.isEmpty()) return;
  looked_ = 0;
  pointedAt_.clear();
  known_ = false;
  update();
}

void Dial::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  known_ = false;
}

void Dial::contextMenuEvent(QContextMenuEvent* event) { Q_EMIT menuWanted(event->globalPos()); }

void Dial::keyPressEvent(QKeyEvent* event) {
  const bool alt = event->modifiers() & Qt::AltModifier;
  switch (event->key()) {
    case Qt::Key_Left:
      return alt ? nudge(-1) : player_.setFrame(player_.frame() - 1);
    case Qt::Key_Right:
      return alt ? nudge(1) : player_.setFrame(player_.frame() + 1);
    case Qt::Key_Home:
      return player_.setFrame(0);
    case Qt::Key_F:
      if (lens_.zoom() == 1) break;
      lens_.look(0, 0, 1);
      return update();
    case Qt::Key_Delete:
      // With beads chosen it is they that go, never the layer.
      if (chosen_.empty()) break;
      if (!canChange()) return;
      document_.edit(tr("remove keyframes"), {}, [&](Scene& scene) { edit::removeKeys(scene, chosen_); });
      chosen_.clear();
      return update();
    case Qt::Key_Escape:
      if (chosen_.empty()) break;
      chosen_.clear();
      return update();
    default:
      break;
  }
  QWidget::keyPressEvent(event);
}

}  // namespace oa::app
