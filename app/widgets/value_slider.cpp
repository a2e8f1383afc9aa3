#include "widgets/value_slider.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {
constexpr double kKnob = 6;
}

double keyStep(const ParamSpec& spec, Qt::KeyboardModifiers modifiers) {
  const double span = spec.high() - spec.low();
  double step = std::pow(10, std::floor(std::log10(span / 50)));
  if (spec.isWhole()) step = 1;
  if (modifiers & Qt::ShiftModifier) step *= 10;
  if (modifiers & Qt::ControlModifier) step *= 0.1;
  return spec.isWhole() ? std::max(1.0, step) : step;
}

ValueSlider::ValueSlider(const ParamSpec& spec, QWidget* parent) : QWidget(parent), spec_(spec) {
  setFocusPolicy(Qt::StrongFocus);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setMinimumWidth(56);
  setCursor(Qt::PointingHandCursor);
}

void ValueSlider::setValue(double value) {
  value_ = value;
  update();
}

double ValueSlider::place(double value) const {
  const double low = spec_.low();
  const double high = spec_.high();
  value = std::clamp(value, low, high);
  const double t = spec_.logScale ? std::log(value / low) / std::log(high / low) : (value - low) / (high - low);
  return kKnob + 1 + t * (width() - 2 * kKnob - 2);
}

double ValueSlider::valueAt(double x) const {
  const double t = std::clamp((x - kKnob - 1) / std::max(1.0, width() - 2 * kKnob - 2), 0.0, 1.0);
  const double low = spec_.low();
  const double high = spec_.high();
  double v = spec_.logScale ? low * std::pow(high / low, t) : low + (high - low) * t;
  if (spec_.isWhole()) return std::round(v);
  // Three significant digits are what a hand can aim at.
  const double digit = std::pow(10, std::floor(std::log10((high - low) / width() + 1e-12)));
  return std::round(v / digit) * digit;
}

void ValueSlider::change(double value) {
  value = std::clamp(value, spec_.min, spec_.max);
  if (value == value_) return;
  value_ = value;
  update();
  Q_EMIT moved(value);
}

void ValueSlider::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double y = height() / 2.0;
  const double x = place(value_);
  const QColor on = isEnabled() ? t.ink : t.muted;
  p.setPen(QPen(t.line, 3, Qt::SolidLine, Qt::RoundCap));
  p.drawLine(QPointF(kKnob, y), QPointF(width() - kKnob, y));
  // The filled part begins at zero where the range has one inside.
  const double from = spec_.low() < 0 && spec_.high() > 0 && !spec_.logScale ? place(0) : kKnob;
  p.setPen(QPen(on, 3, Qt::SolidLine, Qt::RoundCap));
  p.drawLine(QPointF(from, y), QPointF(x, y));
  if (hasFocus()) {
    p.setPen(Qt::NoPen);
    QColor glow = t.lagoon;
    glow.setAlpha(90);
    p.setBrush(glow);
    p.drawEllipse(QPointF(x, y), kKnob + 3, kKnob + 3);
  }
  p.setPen(QPen(on, 1.6));
  p.setBrush(t.card);
  p.drawEllipse(QPointF(x, y), kKnob - 0.8, kKnob - 0.8);
}

void ValueSlider::mousePressEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton) change(valueAt(event->position().x()));
}
void ValueSlider::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() & Qt::LeftButton) change(valueAt(event->position().x()));
}
void ValueSlider::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton) Q_EMIT released();
}
void ValueSlider::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (const auto* base = std::get_if<double>(&spec_.base)) change(*base);
}

void ValueSlider::keyPressEvent(QKeyEvent* event) {
  const double step = keyStep(spec_, event->modifiers());
  switch (event->key()) {
    case Qt::Key_Up:
    case Qt::Key_Right:
      change(value_ + step);
      break;
    case Qt::Key_Down:
    case Qt::Key_Left:
      change(value_ - step);
      break;
    case Qt::Key_Home:
      change(spec_.low());
      break;
    case Qt::Key_End:
      change(spec_.high());
      break;
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace oa::app
