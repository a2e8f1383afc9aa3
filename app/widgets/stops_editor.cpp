#include "widgets/stops_editor.h"

#include <QKeyEvent>
#include <QLinearGradient>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <functional>

#include "params/param_json.h"
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

StopsEditor::StopsEditor(std::function<std::vector<Colour>()> palette, QWidget* parent) : QWidget(parent), palette_(std::move(palette)) {
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(38);
  setToolTip(tr("Drag a colour along the run; double-click one to change it, or an empty place to add one; drag it off to remove it"));
}

void StopsEditor::setStops(const Stops& stops) {
  stops_ = stops;
  chosen_ = std::clamp(chosen_, 0, static_cast<int>(stops_.size()) - 1);
  update();
}

double StopsEditor::handleX(std::size_t index) const { return kSide + stops_[index].at * (width() - 2 * kSide); }

int StopsEditor::handleAt(QPointF place) const {
  int best = -1;
  double nearest = 9;
  for (std::size_t i = 0; i < stops_.size(); ++i) {
    const double distance = std::abs(place.x() - handleX(i)) + (place.y() < kBar - 2 ? 4 : 0);
    // Of two in one place the chosen one is taken.
    if (distance < nearest || (distance == nearest && static_cast<int>(i) == chosen_)) {
      nearest = distance;
      best = static_cast<int>(i);
    }
  }
  return best;
}

void StopsEditor::paintEvent(QPaintEvent*) {
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
               toQt(colourAt(stops_, static_cast<double>(i) / (steps - 1), ColourMixing::OkLab)));
  p.restore();
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.drawRoundedRect(bar, 4, 4);
  for (std::size_t i = 0; i < stops_.size(); ++i) {
    const bool chosen = static_cast<int>(i) == chosen_;
    const QPointF centre(handleX(i), kBar + 10);
    p.setPen(QPen(chosen && hasFocus() ? t.lagoon : t.ink, chosen ? 2.4 : 1.2));
    p.drawLine(QPointF(centre.x(), kBar - 1), QPointF(centre.x(), kBar + 5));
    Colour solid = stops_[i].colour;
    solid.a = 1;
    p.setBrush(toQt(solid));
    p.drawEllipse(centre, 5, 5);
  }
}

void StopsEditor::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const int hit = handleAt(event->position());
  if (hit < 0) return;
  chosen_ = hit;
  dragging_ = true;
  update();
}

void StopsEditor::mouseMoveEvent(QMouseEvent* event) {
  if (!dragging_) return;
  if (event->position().y() > height() + 30 && stops_.size() > 1) {
    dragging_ = false;
    removeStop(chosen_);
    return;
  }
  const double at = std::clamp((event->position().x() - kSide) / (width() - 2 * kSide), 0.0, 1.0);
  stops_[static_cast<std::size_t>(chosen_)].at = std::round(at * 1000) / 1000;
  update();
  Q_EMIT moved(stops_);
}

void StopsEditor::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  dragging_ = false;
  Q_EMIT released();
}

void StopsEditor::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  dragging_ = false;
  const int hit = handleAt(event->position());
  if (hit >= 0) return pickColour(hit);
  if (stops_.size() >= kMaxStops) return;
  const double at = std::clamp((event->position().x() - kSide) / (width() - 2 * kSide), 0.0, 1.0);
  stops_.push_back({at, colourAt(stops_, at, ColourMixing::OkLab)});
  chosen_ = static_cast<int>(stops_.size()) - 1;
  Q_EMIT moved(stops_);
  Q_EMIT released();
}

void StopsEditor::pickColour(int index) {
  chosen_ = index;
  const Stops before = stops_;
  askColour(this, tr("Colour"), stops_[static_cast<std::size_t>(index)].colour, palette_(), [&](const Colour& c) {
    // While one is chosen the stops may have been set anew, and undone.
    stops_ = before;
    stops_[static_cast<std::size_t>(index)].colour = c;
    update();
    Q_EMIT moved(stops_);
  });
  Q_EMIT released();
}

void StopsEditor::removeStop(int index) {
  if (stops_.size() < 2) return;
  stops_.erase(stops_.begin() + index);
  chosen_ = std::clamp(chosen_, 0, static_cast<int>(stops_.size()) - 1);
  update();
  Q_EMIT moved(stops_);
  Q_EMIT released();
}

void StopsEditor::keyPressEvent(QKeyEvent* event) {
  Stop& stop = stops_[static_cast<std::size_t>(chosen_)];
  const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01;
  switch (event->key()) {
    case Qt::Key_Left:
      stop.at = std::max(0.0, stop.at - step);
      break;
    case Qt::Key_Right:
      stop.at = std::min(1.0, stop.at + step);
      break;
    case Qt::Key_Up:
    case Qt::Key_Down:
      chosen_ = static_cast<int>(floorMod(chosen_ + (event->key() == Qt::Key_Up ? 1 : -1), static_cast<std::int64_t>(stops_.size())));
      return update();
    case Qt::Key_Return:
      return pickColour(chosen_);
    case Qt::Key_Delete:
      return removeStop(chosen_);
    default:
      return QWidget::keyPressEvent(event);
  }
  update();
  Q_EMIT moved(stops_);
}

}  // namespace oa::app
