#include "widgets/stops_editor.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "edit/items.h"
#include "params/stop_items.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kSide = 8;
constexpr double kBar = 18;

QColor toQt(const Colour& c) { return QColor::fromRgbF(c.r, c.g, c.b, c.a); }

}  // namespace

void paintChecks(QPainter& p, const QRectF& area) {
  p.save();
  p.setClipRect(area, Qt::IntersectClip);
  p.fillRect(area, QColor(0xC8, 0xC8, 0xC8));
  for (int y = 0; y < area.height(); y += 5)
    for (int x = (y / 5 % 2) * 5; x < area.width(); x += 10)
      p.fillRect(QRectF(area.left() + x, area.top() + y, 5, 5), QColor(0xF2, 0xF2, 0xF2));
  p.restore();
}

StopsEditor::StopsEditor(Document& document, Id layer, int step, QWidget* parent)
    : QWidget(parent), document_(document), layer_(layer), step_(step), spec_(document.step(layer, step)->spec) {
  setObjectName(QStringLiteral("stops"));
  setAccessibleName(tr("Colours along the run"));
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(38);
  setToolTip(tr("Drag a colour along the run; double-click one to change it, or an empty place to add one; drag it off to remove it"));
  connect(&document, &Document::changed, this, qOverload<>(&QWidget::update));
}

const RecipeStep* StopsEditor::shownStep() const {
  const RecipeStep* step = document_.step(layer_, step_);
  return step && step->spec == spec_ ? step : nullptr;
}

std::span<const Item> StopsEditor::items() const {
  const RecipeStep* step = shownStep();
  return step ? std::span<const Item>(step->items) : std::span<const Item>();
}

Stops StopsEditor::stops() const { return restingStops(items()); }

void StopsEditor::setItem(Id item) {
  item_ = item;
  update();
}

int StopsEditor::chosenIndex() const {
  const RecipeStep* step = shownStep();
  return step ? std::max(0, edit::itemIndex(*step, item_)) : 0;
}

double StopsEditor::handleX(std::size_t index) const { return kSide + stops()[index].at * (width() - 2 * kSide); }

double StopsEditor::shareAt(double x) const { return std::round(std::clamp((x - kSide) / (width() - 2 * kSide), 0.0, 1.0) * 1000) / 1000; }

int StopsEditor::handleAt(QPointF place) const {
  const int now = chosenIndex();
  int best = -1;
  double nearest = 9;
  for (std::size_t i = 0; i < items().size(); ++i) {
    const double distance = std::abs(place.x() - handleX(i)) + (place.y() < kBar - 2 ? 4 : 0);
    // Of two in one place the chosen one is taken.
    if (distance < nearest || (distance == nearest && static_cast<int>(i) == now)) {
      nearest = distance;
      best = static_cast<int>(i);
    }
  }
  return best;
}

void StopsEditor::paintEvent(QPaintEvent*) {
  const Stops stops = this->stops();
  if (stops.empty()) return;
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF bar(kSide, 2, width() - 2 * kSide, kBar);
  QPainterPath clip;
  clip.addRoundedRect(bar, 4, 4);
  p.save();
  p.setClipPath(clip);
  paintChecks(p, bar);
  // Drawn from our own mixing, so that it shows what the picture shows.
  const int steps = std::max(2, static_cast<int>(bar.width()));
  for (int i = 0; i < steps; ++i)
    p.fillRect(QRectF(bar.left() + i * bar.width() / steps, bar.top(), bar.width() / steps + 1, bar.height()),
               toQt(colourAt(stops, static_cast<double>(i) / (steps - 1), ColourMixing::OkLab)));
  p.restore();
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.drawRoundedRect(bar, 4, 4);
  const int now = chosenIndex();
  for (std::size_t i = 0; i < stops.size(); ++i) {
    const bool chosen = item_ == ParamAddress::kAllItems || static_cast<int>(i) == now;
    const QPointF centre(handleX(i), kBar + 10);
    p.setPen(QPen(chosen && hasFocus() ? t.lagoon : t.ink, chosen ? 2.4 : 1.2));
    p.drawLine(QPointF(centre.x(), kBar - 1), QPointF(centre.x(), kBar + 5));
    Colour solid = stops[i].colour;
    solid.a = 1;
    p.setBrush(toQt(solid));
    p.drawEllipse(centre, 5, 5);
  }
}

void StopsEditor::choose(int index) {
  setItem(items()[static_cast<std::size_t>(index)].id);
  Q_EMIT chosen(item_);
}

void StopsEditor::moveStop(int index, double share) {
  const Id id = items()[static_cast<std::size_t>(index)].id;
  document_.setBase({layer_, step_, static_cast<int>(kStopAt), id}, std::clamp(share, 0.0, 1.0), true);
}

int StopsEditor::addAt(double share) {
  const Stops now = stops();
  if (now.empty()) return -1;
  const Stop stop{share, colourAt(now, share, ColourMixing::OkLab)};
  const int index = document_.performOnItems(tr("add colour"), layer_, step_, [&](RecipeStep& step) {
    return edit::addItem(step, static_cast<int>(step.items.size()) - 1, stopItem(stop));
  });
  if (index >= 0) choose(index);
  return index;
}

int StopsEditor::addBehind(int index) {
  const Stops now = stops();
  const double from = now[static_cast<std::size_t>(index)].at;
  double next = 2;
  for (const Stop& stop : now)
    if (stop.at > from) next = std::min(next, stop.at);
  // Behind the last one: before it.
  double before = 0;
  for (const Stop& stop : now)
    if (stop.at < from) before = std::max(before, stop.at);
  return addAt(std::round((from + (next <= 1 ? next : before)) * 500) / 1000);
}

void StopsEditor::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const int hit = handleAt(event->position());
  if (hit < 0) return;
  dragging_ = true;
  choose(hit);
}

void StopsEditor::mouseMoveEvent(QMouseEvent* event) {
  if (!dragging_ || items().empty()) return;
  if (event->position().y() > height() + 30 && items().size() > 1) {
    dragging_ = false;
    removeStop(chosenIndex());
    return;
  }
  moveStop(chosenIndex(), shareAt(event->position().x()));
}

void StopsEditor::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  dragging_ = false;
  document_.endGesture();
}

void StopsEditor::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  dragging_ = false;
  const int hit = handleAt(event->position());
  if (hit >= 0) return pickColour(hit);
  addAt(shareAt(event->position().x()));
}

void StopsEditor::pickColour(int index) {
  choose(index);
  const ParamAddress at{layer_, step_, static_cast<int>(kStopColour), item_};
  askColour(this, tr("Colour"), std::get<Colour>(document_.param(at).base), document_.colours(), [this, at](const Colour& c) {
    // While one is chosen the stop may have been undone.
    if (document_.valid(at)) document_.setBase(at, c, true);
  });
  document_.endGesture();
}

void StopsEditor::removeStop(int index) {
  if (items().size() < 2) return;
  const int next =
      document_.performOnItems(tr("remove colour"), layer_, step_, [&](RecipeStep& step) { return edit::removeItem(step, index); });
  if (next >= 0) choose(next);
}

void StopsEditor::keyPressEvent(QKeyEvent* event) {
  const int now = chosenIndex();
  const auto count = static_cast<std::int64_t>(items().size());
  if (count == 0) return;
  const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01;
  const double at = stops()[static_cast<std::size_t>(now)].at;
  switch (event->key()) {
    case Qt::Key_Left:
      return moveStop(now, at - step);
    case Qt::Key_Right:
      return moveStop(now, at + step);
    case Qt::Key_Up:
    case Qt::Key_Down:
      return choose(static_cast<int>(floorMod(now + (event->key() == Qt::Key_Up ? 1 : -1), count)));
    case Qt::Key_Return:
      return pickColour(now);
    case Qt::Key_Delete:
      return removeStop(now);
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace oa::app
