#include "widgets/pace_editor.h"

#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QVBoxLayout>
#include <algorithm>

#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kOvershoot = 1.5;  // how far beyond the lap's ends handles may be dragged

}  // namespace

PaceCurve::PaceCurve(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("paceCurve"));
  setFixedSize(196, 196);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Pace of a lap"));
  setToolTip(tr("Drag the two handles. Page Up and Page Down choose one, arrow keys move it."));
}

void PaceCurve::setPace(const Pace& pace) {
  pace_ = pace;
  update();
}

QRectF PaceCurve::box() const { return QRectF(rect()).adjusted(16, 48, -16, -48); }

QPointF PaceCurve::place(int handle) const {
  const auto& b = pace_.bezier();
  const auto i = static_cast<std::size_t>(handle) * 2;
  return {box().left() + b[i] * box().width(), box().bottom() - b[i + 1] * box().height()};
}

void PaceCurve::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(hasFocus() ? t.lagoon : t.line, 1));
  p.setBrush(t.paper);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.card);
  p.drawRect(box());
  const QPointF from = box().bottomLeft();
  const QPointF to = box().topRight();
  p.setPen(QPen(t.muted, 1));
  p.drawLine(from, place(0));
  p.drawLine(to, place(1));
  QPainterPath path(from);
  path.cubicTo(place(0), place(1), to);
  p.setPen(QPen(t.lagoon, 2));
  p.setBrush(Qt::NoBrush);
  p.drawPath(path);
  for (const int i : {0, 1}) {
    p.setPen(QPen(i == handle_ ? t.persimmon : t.lagoon, 2));
    p.setBrush(t.card);
    p.drawEllipse(place(i), 6, 6);
  }
}

void PaceCurve::moveHandle(double x, double y) {
  auto b = pace_.bezier();
  const auto i = static_cast<std::size_t>(handle_) * 2;
  b[i] = std::clamp(std::round(x * 100) / 100, 0.0, 1.0);
  b[i + 1] = std::clamp(std::round(y * 100) / 100, 1 - kOvershoot, kOvershoot);
  if (const auto pace = Pace::fromBezier(b[0], b[1], b[2], b[3]); pace && *pace != pace_) {
    setPace(*pace);
    Q_EMIT moved(pace_);
  }
}

void PaceCurve::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  handle_ = QLineF(event->position(), place(0)).length() <= QLineF(event->position(), place(1)).length() ? 0 : 1;
  dragging_ = true;
  update();
}

void PaceCurve::mouseMoveEvent(QMouseEvent* event) {
  if (!dragging_) return;
  moveHandle((event->position().x() - box().left()) / box().width(), (box().bottom() - event->position().y()) / box().height());
}

void PaceCurve::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  dragging_ = false;
  Q_EMIT released();
}

void PaceCurve::keyPressEvent(QKeyEvent* event) {
  const auto& b = pace_.bezier();
  const auto i = static_cast<std::size_t>(handle_) * 2;
  const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01;
  switch (event->key()) {
    case Qt::Key_PageUp:
    case Qt::Key_PageDown:
      handle_ = 1 - handle_;
      return update();
    case Qt::Key_Left:
      return moveHandle(b[i] - step, b[i + 1]);
    case Qt::Key_Right:
      return moveHandle(b[i] + step, b[i + 1]);
    case Qt::Key_Up:
      return moveHandle(b[i], b[i + 1] + step);
    case Qt::Key_Down:
      return moveHandle(b[i], b[i + 1] - step);
    default:
      QWidget::keyPressEvent(event);
  }
}

PaceEditor::PaceEditor(QWidget* parent) : QFrame(parent, Qt::Popup) {
  setObjectName(QStringLiteral("paceEditor"));
  setAutoFillBackground(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 10, 12, 12);
  auto* heading = new QLabel(tr("Pace of a lap"), this);
  heading->setObjectName(QStringLiteral("heading"));
  column->addWidget(heading);
  curve_ = new PaceCurve(this);
  column->addWidget(curve_);
}

void PaceEditor::popup(const Pace& pace, const QPoint& globalTopRight) {
  curve_->setPace(pace);
  adjustSize();
  move(globalTopRight - QPoint(width(), height()));
  show();
  curve_->setFocus();
}

}  // namespace oa::app
