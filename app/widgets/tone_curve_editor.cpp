#include "widgets/tone_curve_editor.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "image/tone_curve.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kClosed = 26;
constexpr int kOpen = 104;
constexpr double kNear = 10;    // pixels within which a point is taken hold of
constexpr double kGap = 0.005;  // points keep this far apart

double rounded(double v) { return std::round(std::clamp(v, 0.0, 1.0) * 1000) / 1000; }

}  // namespace

ToneCurveEditor::ToneCurveEditor(const QString& title, QWidget* parent) : QWidget(parent), title_(title), curve_(straightCurve()) {
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(kClosed);
  setToolTip(
      tr("Dark tones on the left, light ones on the right; higher is lighter. Click to add a point, drag it off to remove it; "
         "double-click for a straight line"));
}

void ToneCurveEditor::setOpen(bool open) {
  if (open == open_) return;
  open_ = open;
  setFixedHeight(open ? kOpen : kClosed);
  updateGeometry();
  update();
}

void ToneCurveEditor::focusInEvent(QFocusEvent* event) {
  if (event->reason() != Qt::MouseFocusReason) setOpen(true);
  QWidget::focusInEvent(event);
}

void ToneCurveEditor::setCurve(const Curve& curve) {
  curve_ = curve;
  if (!isStraight(curve)) setOpen(true);
  chosen_ = std::clamp(chosen_, 0, static_cast<int>(curve_.size()) - 1);
  update();
}

QRectF ToneCurveEditor::square() const { return QRectF(rect()).adjusted(84, open_ ? 9 : 5, -66, open_ ? -9 : -5); }

QPointF ToneCurveEditor::place(const Point& point) const {
  const QRectF box = square();
  return {box.left() + point.x * box.width(), box.bottom() - point.y * box.height()};
}

void ToneCurveEditor::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF box = square();
  p.setPen(t.ink);
  p.setFont(font());
  p.drawText(QRectF(0, 0, 74, height()), Qt::AlignLeft | Qt::AlignVCenter, title_);
  p.setPen(QPen(hasFocus() ? t.lagoon : t.line, hasFocus() ? 1.6 : 1));
  p.setBrush(t.paper);
  p.drawRoundedRect(box.adjusted(-3, -3, 3, 3), 4, 4);
  p.setPen(QPen(t.line, 1));
  for (const double share : {0.25, 0.5, 0.75}) {
    if (!open_) break;
    p.drawLine(place({share, 0}), place({share, 1}));
    p.drawLine(place({0, share}), place({1, share}));
  }
  p.setPen(QPen(t.muted, 1, Qt::DotLine));
  p.drawLine(place({0, 0}), place({1, 1}));
  QPainterPath path;
  const auto heights = bakeCurve(curve_, static_cast<int>(std::max(8.0, box.width())));
  for (std::size_t i = 0; i < heights.size(); ++i) {
    const QPointF at = place({static_cast<double>(i) / static_cast<double>(heights.size() - 1), static_cast<double>(heights[i])});
    i == 0 ? path.moveTo(at) : path.lineTo(at);
  }
  p.setPen(QPen(t.ink, 1.8));
  p.setBrush(Qt::NoBrush);
  p.drawPath(path);
  for (int i = 0; open_ && i < static_cast<int>(curve_.size()); ++i) {
    const bool chosen = i == chosen_ && hasFocus();
    p.setPen(QPen(chosen ? t.persimmon : t.ink, chosen ? 2.2 : 1.4));
    p.setBrush(t.card);
    p.drawEllipse(place(curve_[static_cast<std::size_t>(i)]), 4.5, 4.5);
  }
}

void ToneCurveEditor::movePoint(int index, Point to) {
  const auto i = static_cast<std::size_t>(index);
  const double low = i == 0 ? 0 : curve_[i - 1].x + kGap;
  const double high = i + 1 == curve_.size() ? 1 : curve_[i + 1].x - kGap;
  curve_[i] = {std::clamp(rounded(to.x), low, std::max(low, high)), rounded(to.y)};
  update();
  Q_EMIT moved(curve_);
}

void ToneCurveEditor::removePoint(int index) {
  if (curve_.size() <= 2) return;
  curve_.erase(curve_.begin() + index);
  chosen_ = std::clamp(chosen_, 0, static_cast<int>(curve_.size()) - 1);
  update();
  Q_EMIT moved(curve_);
  Q_EMIT released();
}

void ToneCurveEditor::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (!open_) return setOpen(true);
  const QRectF box = square();
  double nearest = kNear;
  int hit = -1;
  for (int i = 0; i < static_cast<int>(curve_.size()); ++i) {
    const double away = QLineF(place(curve_[static_cast<std::size_t>(i)]), event->position()).length();
    if (away < nearest) {
      nearest = away;
      hit = i;
    }
  }
  if (hit < 0 && box.adjusted(-4, -4, 4, 4).contains(event->position()) && curve_.size() < kMaxCurvePoints) {
    const double x = rounded((event->position().x() - box.left()) / box.width());
    const auto after = std::find_if(curve_.begin(), curve_.end(), [&](const Point& p) { return p.x > x; });
    const bool room = std::none_of(curve_.begin(), curve_.end(), [&](const Point& p) { return std::abs(p.x - x) < kGap; });
    if (room) {
      hit = static_cast<int>(after - curve_.begin());
      curve_.insert(after, {x, rounded((box.bottom() - event->position().y()) / box.height())});
      Q_EMIT moved(curve_);
    }
  }
  if (hit < 0) return;
  chosen_ = hit;
  dragging_ = true;
  update();
}

void ToneCurveEditor::mouseMoveEvent(QMouseEvent* event) {
  if (!dragging_) return;
  const QRectF box = square();
  if (!box.adjusted(-40, -30, 40, 30).contains(event->position()) && curve_.size() > 2) {
    dragging_ = false;
    return removePoint(chosen_);
  }
  movePoint(chosen_, {(event->position().x() - box.left()) / box.width(), (box.bottom() - event->position().y()) / box.height()});
}

void ToneCurveEditor::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (dragging_) Q_EMIT released();
  dragging_ = false;
}

void ToneCurveEditor::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (!open_) return setOpen(true);
  dragging_ = false;
  curve_ = straightCurve();
  chosen_ = 0;
  update();
  Q_EMIT moved(curve_);
  Q_EMIT released();
}

void ToneCurveEditor::keyPressEvent(QKeyEvent* event) {
  const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01;
  Point to = curve_[static_cast<std::size_t>(chosen_)];
  switch (event->key()) {
    case Qt::Key_Left:
    case Qt::Key_Right:
      if (event->modifiers() & Qt::ControlModifier) {
        to.x += event->key() == Qt::Key_Left ? -step : step;
        break;
      }
      chosen_ = std::clamp(chosen_ + (event->key() == Qt::Key_Left ? -1 : 1), 0, static_cast<int>(curve_.size()) - 1);
      return update();
    case Qt::Key_Up:
      to.y += step;
      break;
    case Qt::Key_Down:
      to.y -= step;
      break;
    case Qt::Key_Delete:
      return removePoint(chosen_);
    default:
      return QWidget::keyPressEvent(event);
  }
  movePoint(chosen_, to);
}

}  // namespace oa::app
