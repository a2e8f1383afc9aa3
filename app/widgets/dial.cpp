#include "widgets/dial.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "model/heard.h"
#include "scene/plan.h"
#include "widgets/beat_grid.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/wave_drawing.h"

namespace oa::app {
namespace {

constexpr double kNearBeat = 6;  // pixels within which a beat draws an end
constexpr double kButton = 24;

QPointF onCircle(QPointF centre, double radius, double share) {
  const double a = 2 * std::numbers::pi * share;
  return {centre.x() + radius * std::sin(a), centre.y() - radius * std::cos(a)};
}

// Where round the loop the layer's keyframes lie, each once a lap.
std::vector<double> keyframePlaces(const Layer& layer) {
  std::vector<double> places;
  const auto add = [&](const ParamSpec&, const Param& param) {
    for (std::size_t i = 0; i < motionCount(param); ++i) {
      const Motion& motion = motionOf(param, i);
      if (motion.kind != MotionKind::Keyframes) continue;
      for (const Keyframe& key : motion.keys)
        for (int lap = 0; lap < std::abs(motion.laps); ++lap) places.push_back(fract((key.at - motion.start + lap) / motion.laps));
    }
  };
  add(opacitySpec(), layer.opacity);
  for (const Param& param : layer.place) add(opacitySpec(), param);
  for (const RecipeStep& step : layer.recipe)
    if (step.on) forEachShownParamOf(step, add);
  return places;
}

}  // namespace

Dial::Dial(Document& document, RenderService& renderer, Player& player, QWidget* parent)
    : QWidget(parent), document_(document), renderer_(renderer), player_(player) {
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(180, 180);
  setAccessibleName(tr("Loop dial"));
  setToolTip(tr("Drag round the rim to move through the loop, with Shift to mark a part that is played alone; the middle plays and stops"));
  connect(&document, &Document::changed, this, qOverload<>(&QWidget::update));
  connect(&document, &Document::currentLayerChanged, this, qOverload<>(&QWidget::update));
  connect(&renderer, &RenderService::cacheGrew, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::frameChanged, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::playingChanged, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::markChanged, this, qOverload<>(&QWidget::update));
  connect(&document.heard(), &Heard::changed, this, qOverload<>(&QWidget::update));
  connect(&document, &Document::presenceShown, this, qOverload<>(&QWidget::update));
}

QPointF Dial::centre() const { return {width() / 2.0, height() / 2.0 + 4}; }
double Dial::radius() const { return std::min(width(), height() - 8) / 2.0 - 16; }

void Dial::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QPointF c = centre();
  const double r = radius();
  const auto circle = [&](double radius_) { return QRectF(c.x() - radius_, c.y() - radius_, 2 * radius_, 2 * radius_); };
  // Marks: twelve long ones would be a clock; a loop has none but its joint, so marks are whole seconds, or beats and bars.
  const Scene& scene = document_.scene();
  const bool beats = scene.beats > 0 && scene.beats <= kMostBeatsShown;
  const int marks = beats ? scene.beats : static_cast<int>(std::clamp(std::round(scene.seconds()), 1.0, 60.0));
  const int strong = beats ? scene.bar : 5;
  for (int i = 0; i < marks; ++i) {
    const bool large = i % strong == 0;
    p.setPen(QPen(beats && large ? t.ink : t.muted, large ? 1.5 : 1));
    p.drawLine(onCircle(c, r + 1, static_cast<double>(i) / marks), onCircle(c, r + (large ? 7 : 4), static_cast<double>(i) / marks));
  }
  p.setPen(QPen(t.line, 2));
  p.setBrush(t.paper);
  p.drawEllipse(circle(r - 3));
  // What is heard, between the rim and the rings.
  const bool heard = !document_.heard().wave().empty();
  if (heard) {
    QColor wave = t.lagoon;
    wave.setAlpha(120);
    p.setPen(Qt::NoPen);
    drawWaveRound(p, c, r - 11, 6, document_.heard().wave(), wave);
  }
  // How much of the loop is rendered.
  p.setPen(QPen(t.moss, 3, Qt::SolidLine, Qt::FlatCap));
  p.setBrush(Qt::NoBrush);
  p.drawArc(circle(r - 3), 90 * 16, static_cast<int>(-renderer_.filled() * 360 * 16));
  // One ring for each visible layer, outermost the top one.
  const Plan& plan = document_.plan();
  std::vector<Id> shown;
  std::vector<std::int64_t> allLaps;
  const auto list = [&](auto& self, int group) -> void {
    const std::vector<int>& children = plan.children(group);
    for (auto it = children.rbegin(); it != children.rend(); ++it) {
      const PlanLayer& layer = plan.at(*it);
      if (!layer.layer->visible) continue;
      shown.push_back(layer.layer->id);
      allLaps.push_back(layer.placedLaps);
      if (layer.layer->isGroup() && !layer.layer->folded) self(self, *it);
    }
  };
  list(list, -1);
  const double inner = kButton + 9;
  const double outer = r - (heard ? 22 : 12);
  const std::size_t most = static_cast<std::size_t>(std::max(1.0, (outer - inner) / 5));
  if (shown.size() > most) shown.resize(most);
  const double pitch = shown.size() > 1 ? std::min(11.0, (outer - inner) / static_cast<double>(shown.size() - 1)) : 0;
  for (std::size_t i = 0; i < shown.size(); ++i) {
    const bool chosen = shown[i] == document_.currentLayer();
    const std::int64_t laps = allLaps[i];
    const double radius_ = outer - static_cast<double>(i) * pitch;
    p.setPen(
        QPen(laps == 0 ? t.line : (chosen ? t.lagoon : blendOf(t.line, t.lagoon, 0.35)), chosen ? 5.5 : 3, Qt::SolidLine, Qt::FlatCap));
    const int arcs = static_cast<int>(std::clamp<std::int64_t>(laps, 1, 60));
    const double gap = laps == 0 ? 0 : std::min(9.0, 180.0 / arcs);
    for (int a = 0; a < arcs; ++a)
      p.drawArc(circle(radius_), static_cast<int>((90 - 360.0 * a / arcs - gap / 2) * 16), static_cast<int>(-(360.0 / arcs - gap) * 16));
  }
  // Keyframes of the selected layer as beads on its ring, in every lap.
  const auto ring = std::find(shown.begin(), shown.end(), document_.currentLayer());
  ring_ = 0;
  if (ring != shown.end()) {
    const double radius_ = ring_ = outer - static_cast<double>(ring - shown.begin()) * pitch;
    p.setPen(QPen(t.lagoon, 1.8));
    p.setBrush(t.card);
    for (const double place : keyframePlaces(*document_.layer(*ring))) p.drawEllipse(onCircle(c, radius_, place), 3.6, 3.6);
  }
  // Where it is there, and the ends that can be dragged.
  if (ring_ > 0) {
    const Presence* presence = document_.presence(document_.currentLayer(), document_.presenceStep());
    for (const Arc& arc : presence ? *presence : Presence()) {
      p.setBrush(Qt::NoBrush);
      p.setPen(QPen(t.persimmon, 2.4, Qt::SolidLine, Qt::FlatCap));
      p.drawArc(circle(ring_ + 4.5), static_cast<int>((90 - 360 * arc.from) * 16), static_cast<int>(-360 * arc.length * 16));
    }
    for (const PresenceEnd& end : presenceEnds()) {
      p.setPen(QPen(t.persimmon, 1.6));
      p.setBrush(t.card);
      p.drawEllipse(end.place, 4, 4);
    }
  }
  // The part that is played alone.
  if (const auto mark = player_.mark()) {
    const double frames = document_.scene().frames;
    p.setBrush(Qt::NoBrush);
    QColor band = t.persimmon;
    band.setAlpha(90);
    p.setPen(QPen(band, 9, Qt::SolidLine, Qt::FlatCap));
    p.drawArc(circle(r + 4), static_cast<int>((90 - 360 * mark->from / frames) * 16), static_cast<int>(-360 * mark->length / frames * 16));
  }
  // The joint, and the hand.
  QPainterPath joint;
  joint.moveTo(c.x(), c.y() - r - 1);
  joint.lineTo(c.x() - 6, c.y() - r - 11);
  joint.lineTo(c.x() + 6, c.y() - r - 11);
  joint.closeSubpath();
  p.fillPath(joint, t.persimmon);
  const double share = static_cast<double>(player_.frame()) / document_.scene().frames;
  p.setPen(QPen(t.persimmon, 1.8));
  p.drawLine(onCircle(c, kButton, share), onCircle(c, r + 6, share));
  p.setPen(Qt::NoPen);
  p.setBrush(t.persimmon);
  p.drawEllipse(onCircle(c, r + 6, share), 5, 5);
  // Play or stop.
  p.setBrush(t.ink);
  p.drawEllipse(c, kButton, kButton);
  if (hasFocus()) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.lagoon, 2.5));
    p.drawEllipse(c, kButton + 2, kButton + 2);
    p.setPen(Qt::NoPen);
  }
  p.setBrush(t.paper);
  if (player_.playing()) {
    p.drawRoundedRect(QRectF(c.x() - 7.5, c.y() - 8, 5, 16), 1.5, 1.5);
    p.drawRoundedRect(QRectF(c.x() + 2.5, c.y() - 8, 5, 16), 1.5, 1.5);
  } else {
    QPainterPath play;
    play.moveTo(c.x() - 6, c.y() - 9);
    play.lineTo(c.x() + 10, c.y());
    play.lineTo(c.x() - 6, c.y() + 9);
    play.closeSubpath();
    p.drawPath(play);
  }
}

double Dial::shareAt(QPointF place) const {
  const QPointF d = place - centre();
  return fract(std::atan2(d.x(), -d.y()) / (2 * std::numbers::pi));
}

int Dial::frameAt(QPointF place) const { return static_cast<int>(shareAt(place) * document_.scene().frames); }

std::vector<Dial::PresenceEnd> Dial::presenceEnds() const {
  std::vector<PresenceEnd> ends;
  const Presence* presence = document_.presence(document_.currentLayer(), document_.presenceStep());
  if (!presence || ring_ <= 0) return ends;
  for (int i = 0; i < static_cast<int>(presence->size()); ++i) {
    const Arc& arc = (*presence)[static_cast<std::size_t>(i)];
    ends.push_back({i, false, onCircle(centre(), ring_ + 4.5, arc.from)});
    ends.push_back({i, true, onCircle(centre(), ring_ + 4.5, fract(arc.from + arc.length))});
  }
  return ends;
}

// The other end stays where it is; ends lie at whole frames.
void Dial::dragEnd(QPointF to, bool freely) {
  const auto ends = presenceEnds();
  if (dragged_ >= static_cast<int>(ends.size())) return;
  const PresenceEnd& end = ends[static_cast<std::size_t>(dragged_)];
  const int frames = document_.scene().frames;
  // Ends are drawn to beats that are near.
  const double wanted = freely ? shareAt(to) : onBeat(document_.scene(), shareAt(to), kNearBeat / (2 * std::numbers::pi * radius()));
  const double share = fract(std::round(wanted * frames) / frames);
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

void Dial::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (QLineF(event->position(), centre()).length() <= kButton) return player_.toggle();
  const auto ends = presenceEnds();
  for (std::size_t i = 0; i < ends.size() && !document_.layer()->locked; ++i)
    if (QLineF(ends[i].place, event->position()).length() < 8) {
      dragged_ = static_cast<int>(i);
      return;
    }
  if (event->modifiers() & Qt::ShiftModifier) {
    markedFrom_ = frameAt(event->position());
    return;
  }
  scrubbing_ = true;
  player_.setPlaying(false);
  player_.setFrame(frameAt(event->position()));
}

void Dial::mouseMoveEvent(QMouseEvent* event) {
  if (dragged_ >= 0) return dragEnd(event->position(), event->modifiers() & Qt::AltModifier);
  if (markedFrom_) {
    // The shorter way round from where it was pressed.
    const int n = document_.scene().frames;
    const int here = frameAt(event->position());
    const auto ahead = static_cast<int>(floorMod(here - *markedFrom_, n));
    return ahead <= n / 2 ? player_.setMark({*markedFrom_, ahead + 1}) : player_.setMark({here, n - ahead + 1});
  }
  if (scrubbing_) player_.setFrame(frameAt(event->position()));
}

void Dial::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (dragged_ >= 0) document_.endGesture();
  dragged_ = -1;
  markedFrom_.reset();
  scrubbing_ = false;
}

void Dial::contextMenuEvent(QContextMenuEvent* event) { Q_EMIT menuWanted(event->globalPos()); }

void Dial::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Left:
      return player_.setFrame(player_.frame() - 1);
    case Qt::Key_Right:
      return player_.setFrame(player_.frame() + 1);
    case Qt::Key_Home:
      return player_.setFrame(0);
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace oa::app
