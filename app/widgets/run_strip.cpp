#include "widgets/run_strip.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kOffer = 74;  // width of a part that has nothing in it
constexpr double kEdge = 5;    // how near an edge is taken hold of
constexpr double kLabel = 17;  // height of the words
constexpr double kBar = 5;     // height of a layer's bar
constexpr double kBarStep = 7;
constexpr int kMostBars = 4;
constexpr double kPixelsPerLap = 28;  // of a drag for one loop more

}  // namespace

RunStrip::RunStrip(Document& document, Player& player, QWidget* parent) : QWidget(parent), document_(document), player_(player) {
  setObjectName(QStringLiteral("runStrip"));
  setFixedHeight(50);
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Run"));
  setToolTip(
      tr("What is handed over: what arrives, the loop, what leaves. Drag along it to look at it, its edges to make parts longer or "
         "shorter, the bars of layers to bring them earlier or later"));
  connect(&document, &Document::changed, this, &RunStrip::describe);
  connect(&document, &Document::currentLayerChanged, this, qOverload<>(&QWidget::update));
  connect(&player, &Player::placeChanged, this, qOverload<>(&QWidget::update));
  describe();
}

void RunStrip::describe() {
  run_ = runOf(document_.scene());
  const auto seconds = [&](std::int64_t frames) {
    return text(numberText(static_cast<double>(frames) / document_.scene().rate.value(), 2));
  };
  setAccessibleDescription(
      tr("Arrives in %1 s, loops for %2 s, leaves in %3 s").arg(seconds(run_.arrive), seconds(run_.loop), seconds(run_.leave)));
  update();
}

QRectF RunStrip::rectOf(Part part) const {
  const QRectF all = QRectF(rect()).adjusted(1, 3, -1, -3);
  const double total = static_cast<double>(std::max<std::int64_t>(1, run_.frames()));
  const auto side = [&](std::int64_t frames) {
    return frames < 1 ? std::min(kOffer, all.width() / 4) : all.width() * std::clamp(static_cast<double>(frames) / total, 0.2, 0.34);
  };
  const double first = side(run_.arrive);
  const double last = side(run_.leave);
  if (part == Part::Arrive) return {all.left(), all.top(), first, all.height()};
  if (part == Part::Leave) return {all.right() - last, all.top(), last, all.height()};
  return {all.left() + first, all.top(), all.width() - first - last, all.height()};
}

double RunStrip::xOf(std::int64_t place) const {
  const auto within = [](const QRectF& r, std::int64_t at, std::int64_t of) {
    return r.left() + r.width() * static_cast<double>(at) / static_cast<double>(std::max<std::int64_t>(1, of));
  };
  if (place < run_.arrive) return within(rectOf(Part::Arrive), place, run_.arrive);
  if (place < run_.arrive + run_.loop) return within(rectOf(Part::Loop), place - run_.arrive, run_.loop);
  return within(rectOf(Part::Leave), place - run_.arrive - run_.loop, run_.leave);
}

std::int64_t RunStrip::placeAt(double x) const {
  const auto within = [&](const QRectF& r, std::int64_t of) {
    return static_cast<std::int64_t>(std::floor((x - r.left()) / std::max(1.0, r.width()) * static_cast<double>(of)));
  };
  const QRectF loop = rectOf(Part::Loop);
  std::int64_t place = 0;
  if (x < loop.left())
    place = run_.arrive > 0 ? within(rectOf(Part::Arrive), run_.arrive) : 0;
  else if (x < loop.right() || run_.leave < 1)
    place = run_.arrive + within(loop, run_.loop);
  else
    place = run_.arrive + run_.loop + within(rectOf(Part::Leave), run_.leave);
  return std::clamp<std::int64_t>(place, 0, run_.frames() - 1);
}

std::vector<RunStrip::Bar> RunStrip::bars() const {
  std::vector<Bar> list;
  const double rate = document_.scene().rate.value();
  int rows[2] = {0, 0};
  // The topmost layer first, as in the pile; the selected one is always there.
  std::vector<const Layer*> layers;
  forEachLayer(document_.scene().layers, [&](const Layer& layer, int) { layers.push_back(&layer); });
  std::stable_sort(layers.begin(), layers.end(),
                   [&](const Layer* a, const Layer* b) { return a->id == document_.currentLayer() && b->id != document_.currentLayer(); });
  for (const Layer* layer : layers)
    for (const bool leaving : {false, true}) {
      const auto& way = layer->passes.way(leaving);
      if (!way || !layer->visible || rows[leaving ? 1 : 0] >= kMostBars) continue;
      const Passing p = passingOf(*way, rate);
      const QRectF part = rectOf(leaving ? Part::Leave : Part::Arrive);
      const double per = part.width() / static_cast<double>(std::max<std::int64_t>(1, leaving ? run_.leave : run_.arrive));
      const double y = part.top() + kLabel + kBarStep * rows[leaving ? 1 : 0]++;
      const QRectF bar(part.left() + p.delay * per, y, std::max(4.0, p.lasts * per), kBar);
      list.push_back({layer->id, leaving, bar.intersected(part.adjusted(5, 0, -5, 0))});
    }
  return list;
}

RunStrip::Hit RunStrip::hitAt(QPointF at) const {
  for (const Bar& bar : bars()) {
    if (!bar.rect.adjusted(-3, -1, 3, 1).contains(at)) continue;
    return {std::abs(at.x() - bar.rect.right()) < 4 ? Grab::BarEnd : Grab::Bar, bar};
  }
  const QRectF loop = rectOf(Part::Loop);
  if (run_.arrive > 0 && std::abs(at.x() - loop.left()) < kEdge) return {Grab::ArriveEnd, {}};
  if (std::abs(at.x() - loop.right()) < kEdge && run_.seconds <= 0) return {Grab::LoopEnd, {}};
  if (run_.leave > 0 && std::abs(at.x() - rectOf(Part::Leave).right()) < kEdge) return {Grab::LeaveEnd, {}};
  return {Grab::Scrub, {}};
}

void RunStrip::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double rate = document_.scene().rate.value();
  const auto seconds = [&](std::int64_t frames) { return tr("%1 s").arg(text(numberText(static_cast<double>(frames) / rate, 2))); };
  const auto field = [&](const QRectF& r, const QColor& ground, bool offered) {
    p.setPen(offered ? QPen(t.line, 1, Qt::DashLine) : QPen(t.line, 1));
    p.setBrush(offered ? Qt::NoBrush : QBrush(ground));
    p.drawRoundedRect(r.adjusted(1.5, 0.5, -1.5, -0.5), 6, 6);
  };
  const auto words = [&](const QRectF& r, const QString& line, const QColor& colour, int weight, Qt::Alignment how) {
    p.setFont(uiFont(11, weight));
    p.setPen(colour);
    p.drawText(r, static_cast<int>(how) | Qt::TextSingleLine,
               p.fontMetrics().elidedText(line, Qt::ElideRight, static_cast<int>(r.width())));
  };
  for (const Part part : {Part::Arrive, Part::Leave}) {
    const bool leaving = part == Part::Leave;
    const std::int64_t frames = leaving ? run_.leave : run_.arrive;
    const QRectF r = rectOf(part);
    field(r, blendOf(t.panel, t.lagoon, 0.14), frames < 1);
    if (frames < 1)
      words(r, leaving ? tr("+ Leave") : tr("+ Arrive"), t.muted, 600, Qt::AlignCenter);
    else
      words(r.adjusted(9, 2, -6, 0), (leaving ? tr("Leave  %1") : tr("Arrive  %1")).arg(seconds(frames)), t.ink, 500,
            Qt::AlignLeft | Qt::AlignTop);
  }
  const QRectF loop = rectOf(Part::Loop);
  field(loop, t.card, false);
  const double laps = static_cast<double>(run_.loop) / document_.scene().frames;
  const QString count = std::abs(laps - std::round(laps)) < 1e-9 ? QString::number(std::lround(laps)) : text(numberText(laps, 2));
  words(loop.adjusted(9, 2, -6, 0), tr("Loop × %1   %2").arg(count, seconds(run_.loop)), t.ink, 500, Qt::AlignLeft | Qt::AlignTop);
  // Each lap a bar of its own, as long as they can be told apart.
  const QRectF laps0 = loop.adjusted(9, kLabel + 4, -9, -8);
  const int shown = static_cast<int>(std::ceil(laps - 1e-9));
  if (laps0.width() / std::max(1, shown) > 6) {
    p.setPen(Qt::NoPen);
    p.setBrush(blendOf(t.card, t.lagoon, 0.55));
    for (int i = 0; i < shown; ++i) {
      const double from = laps0.left() + laps0.width() * i / laps;
      const double to = laps0.left() + laps0.width() * std::min<double>(i + 1, laps) / laps;
      p.drawRoundedRect(QRectF(from + 1, laps0.top() + 3, std::max(1.0, to - from - 2), 6), 3, 3);
    }
  } else {
    p.setPen(Qt::NoPen);
    p.setBrush(blendOf(t.card, t.lagoon, 0.55));
    p.drawRoundedRect(QRectF(laps0.left(), laps0.top() + 3, laps0.width(), 6), 3, 3);
  }
  for (const Bar& bar : bars()) {
    const bool current = bar.layer == document_.currentLayer();
    p.setPen(Qt::NoPen);
    p.setBrush(current ? t.persimmon : blendOf(t.panel, t.lagoon, 0.75));
    p.drawRoundedRect(bar.rect, kBar / 2, kBar / 2);
  }
  if (player_.inRun()) {
    const double x = xOf(player_.place());
    p.setPen(QPen(t.persimmon, 1.6));
    p.drawLine(QPointF(x, 3), QPointF(x, height() - 3));
    p.setBrush(t.persimmon);
    p.setPen(Qt::NoPen);
    p.drawEllipse(QPointF(x, 4), 3.5, 3.5);
  }
  if (hasFocus()) {
    p.setPen(QPen(t.lagoon, 1.6));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 2, -1, -2), 7, 7);
  }
}

void RunStrip::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const QPointF at = event->position();
  // A part with nothing in it offers what could be.
  if (run_.arrive < 1 && rectOf(Part::Arrive).contains(at)) return Q_EMIT passageWanted(false);
  if (run_.leave < 1 && rectOf(Part::Leave).contains(at)) return Q_EMIT passageWanted(true);
  held_ = hitAt(at);
  pressX_ = at.x();
  pressRun_ = run_;
  pressLoops_ = document_.scene().run.loops;
  pressSeconds_ = document_.scene().run.seconds;
  const bool leaving = held_.grab == Grab::LeaveEnd || (held_.bar && held_.bar->leaving);
  perFrame_ = rectOf(leaving ? Part::Leave : Part::Arrive).width() /
              static_cast<double>(std::max<std::int64_t>(1, leaving ? run_.leave : run_.arrive));
  if (held_.bar) {
    const Passing p = passingOf(*document_.layer(held_.bar->layer)->passes.way(held_.bar->leaving));
    pressDelay_ = p.delay;
    pressLasts_ = p.lasts;
    document_.setCurrentLayer(held_.bar->layer);
  }
  if (held_.grab == Grab::Scrub) player_.setPlace(placeAt(at.x()));
}

void RunStrip::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() & Qt::LeftButton) {
    if (held_.grab != Grab::None) drag(event->position());
    return;
  }
  switch (hitAt(event->position()).grab) {
    case Grab::ArriveEnd:
    case Grab::LoopEnd:
    case Grab::LeaveEnd:
    case Grab::BarEnd:
      setCursor(Qt::SplitHCursor);
      break;
    case Grab::Bar:
      setCursor(Qt::SizeHorCursor);
      break;
    default:
      setCursor(Qt::ArrowCursor);
  }
}

void RunStrip::drag(QPointF at) {
  const double moved = at.x() - pressX_;
  switch (held_.grab) {
    case Grab::Scrub:
      return player_.setPlace(placeAt(at.x()));
    case Grab::LoopEnd: {
      if (pressSeconds_ > 0) {
        // As quickly as whole loops, by tenths.
        const double more = moved / kPixelsPerLap * document_.scene().seconds();
        const double seconds = std::clamp(std::round((pressSeconds_ + more) * 10) / 10, 0.1, kMaxRunSeconds);
        return document_.edit(tr("seconds of the run"), QStringLiteral("run/loops"), [&](Scene& scene) { scene.run.seconds = seconds; });
      }
      const int loops = std::clamp(pressLoops_ + static_cast<int>(std::lround(moved / kPixelsPerLap)), 1, kMaxRunLoops);
      return document_.edit(tr("loops of the run"), QStringLiteral("run/loops"), [&](Scene& scene) { scene.run.loops = loops; });
    }
    case Grab::ArriveEnd:
    case Grab::LeaveEnd: {
      const bool leaving = held_.grab == Grab::LeaveEnd;
      const std::int64_t was = leaving ? pressRun_.leave : pressRun_.arrive;
      const auto frames = std::max<std::int64_t>(2, was + std::llround(moved / perFrame_));
      return document_.edit(leaving ? tr("length of leaving") : tr("length of arriving"),
                            leaving ? QStringLiteral("run/leave") : QStringLiteral("run/arrive"),
                            [&](Scene& scene) { stretchPassages(scene, leaving, frames); });
    }
    case Grab::Bar:
    case Grab::BarEnd:
      return dragBar(moved / perFrame_);
    case Grab::None:
      break;
  }
}

void RunStrip::dragBar(double frames) {
  const Bar& bar = *held_.bar;
  const double by = frames / document_.scene().rate.value();
  const bool end = held_.grab == Grab::BarEnd;
  const ParamSpec& spec = passageSpecs()[end ? 1 : 0];
  // To a hundredth of a second.
  const double value = std::clamp(std::round(((end ? pressLasts_ : pressDelay_) + by) * 100) / 100, spec.min, spec.max);
  const ParamAddress at{bar.layer, bar.leaving ? ParamAddress::kLeave : ParamAddress::kArrive, end ? 1 : 0};
  if (document_.valid(at)) document_.setBase(at, value, true);
}

void RunStrip::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  held_ = {};
  document_.endGesture();
}

void RunStrip::leaveEvent(QEvent*) { setCursor(Qt::ArrowCursor); }

void RunStrip::keyPressEvent(QKeyEvent* event) {
  const std::int64_t at = player_.inRun() ? player_.place() : run_.arrive;
  const std::int64_t step = event->modifiers() & Qt::ShiftModifier ? 10 : 1;
  switch (event->key()) {
    case Qt::Key_Left:
      return player_.setPlace(at - step);
    case Qt::Key_Right:
      return player_.setPlace(at + step);
    case Qt::Key_Home:
      return player_.setPlace(0);
    case Qt::Key_End:
      return player_.setPlace(run_.frames() - 1);
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace oa::app
