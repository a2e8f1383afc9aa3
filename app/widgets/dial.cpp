#include "widgets/dial.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "model/heard.h"
#include "widgets/beat_grid.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/wave_drawing.h"

namespace oa::app {
namespace {

constexpr double kButton = 24;

}  // namespace

Dial::Dial(Document& document, RenderService& renderer, Player& player, QWidget* parent)
    : QWidget(parent), document_(document), renderer_(renderer), player_(player) {
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(180, 180);
  setAccessibleName(tr("Loop dial"));
  setToolTip(
      tr("Drag round the rim to move through the loop, with Shift to mark a part that is played alone; the middle plays and stops. "
         "Click a ring for its layer; then turn it for a head start, drag a gap for more laps, and beads for keyframes. Scroll to look "
         "closer, "
         "F to see all of it"));
  setMouseTracking(true);
  listen();
  connect(&renderer, &RenderService::cacheGrew, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::frameChanged, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::playingChanged, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::markChanged, this, qOverload<>(&QWidget::update));
  connect(&document.heard(), &Heard::changed, this, &Dial::forgetRings);
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
    p.drawLine(on(r + 1, static_cast<double>(i) / marks), on(r + (large ? 7 : 4), static_cast<double>(i) / marks));
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
    drawWaveRound(p, c, r - 11, 6, document_.heard().wave(), wave, [this](double share) { return lens_.shown(share); });
  }
  // How much of the loop is rendered.
  p.setPen(QPen(t.moss, 3, Qt::SolidLine, Qt::FlatCap));
  p.setBrush(Qt::NoBrush);
  drawArc(p, r - 3, 0, renderer_.filled());
  paintRings(p);
  paintBeads(p);
  const double ring = ownRing() ? ownRing()->radius : 0;
  // Where it is there, and the ends that can be dragged.
  if (ring > 0) {
    const Presence* presence = document_.presence(document_.currentLayer(), document_.presenceStep());
    for (const Arc& arc : presence ? *presence : Presence()) {
      p.setBrush(Qt::NoBrush);
      p.setPen(QPen(t.persimmon, 2.4, Qt::SolidLine, Qt::FlatCap));
      drawArc(p, ring + 4.5, arc.from, arc.length);
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
    drawArc(p, r + 4, mark->from / frames, mark->length / frames);
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
  p.drawLine(on(kButton, share), on(r + 6, share));
  p.setPen(Qt::NoPen);
  p.setBrush(t.persimmon);
  p.drawEllipse(on(r + 6, share), 5, 5);
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
  if (drag_ == Drag::Band) {
    p.setPen(QPen(t.lagoon, 1, Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    p.drawRect(band_.normalized());
  }
  // The name of what is pointed at.
  if (!pointedAt_.isEmpty()) {
    p.setFont(uiFont(11, 500));
    const QFontMetricsF metrics(p.font());
    const QString words = metrics.elidedText(pointedAt_, Qt::ElideRight, width() - 20);
    const double wide = metrics.horizontalAdvance(words) + 14;
    const QRectF chip(c.x() - wide / 2, height() - 19, wide, 18);
    p.setPen(Qt::NoPen);
    p.setBrush(t.ink);
    p.drawRoundedRect(chip, 5, 5);
    p.setPen(t.paper);
    p.drawText(chip, Qt::AlignCenter, words);
  }
}

double Dial::inner() const { return kButton + 9; }
double Dial::outer() const { return radius() - (document_.heard().wave().empty() ? 14 : 24); }

void Dial::drawArc(QPainter& p, double radius, double from, double length, double less) const {
  const QPointF c = centre();
  const double first = lens_.shown(from) * 360 + less;
  const double last = lens_.shown(from + length) * 360 - less;
  if (last > first)
    p.drawArc(QRectF(c.x() - radius, c.y() - radius, 2 * radius, 2 * radius), static_cast<int>((90 - first) * 16),
              static_cast<int>((first - last) * 16));
}

void Dial::paintRings(QPainter& p) const {
  const Theme& t = Theme::now();
  for (const DialRing& ring : rings()) {
    const bool chosen = ring.layer == document_.currentLayer();
    const bool looked = ring.layer == looked_;
    const double wide = std::clamp(ring.room * 0.6, 0.7, chosen ? 5.5 : 3.0);
    QColor colour = ring.laps == 0 ? t.line : chosen ? t.lagoon : blendOf(t.line, t.lagoon, looked ? 0.7 : 0.35);
    p.setPen(QPen(colour, wide, Qt::SolidLine, Qt::FlatCap));
    p.setBrush(Qt::NoBrush);
    const int arcs = static_cast<int>(std::clamp<std::int64_t>(ring.laps, 1, 60));
    const double gap = ring.laps == 0 ? 0 : std::min(9.0, 180.0 / arcs);
    for (int a = 0; a < arcs; ++a) drawArc(p, ring.radius, ring.begins + static_cast<double>(a) / arcs, 1.0 / arcs, gap / 2);
  }
}

// Keyframes of the selected layer as beads on its ring, in every lap; those that are chosen are filled.
void Dial::paintBeads(QPainter& p) const {
  const Theme& t = Theme::now();
  p.setPen(QPen(t.lagoon, 1.8));
  for (const Bead& bead : beads()) {
    const bool chosen = std::find(chosen_.begin(), chosen_.end(), bead.key.key) != chosen_.end();
    p.setBrush(chosen ? t.persimmon : t.card);
    p.drawEllipse(bead.place, chosen ? 4.4 : 3.6, chosen ? 4.4 : 3.6);
  }
}

}  // namespace oa::app
