#include "widgets/number_field.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "widgets/text.h"
#include "widgets/value_slider.h"

namespace oa::app {

NumberField::NumberField(const ParamSpec& spec, QWidget* parent) : QLineEdit(parent), spec_(spec) {
  setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  setFixedWidth(62);
  setFrame(false);
  setStyleSheet(
      QStringLiteral("QLineEdit { background: transparent; border: 1px solid transparent; padding: 1px 3px; } "
                     "QLineEdit:hover { border: 1px solid palette(alternate-base); }"));
  connect(this, &QLineEdit::editingFinished, this, &NumberField::commit);
}

void NumberField::setValue(double value) {
  value_ = value;
  if (!hasFocus() || scrubbing_ || !isModified()) show(!hasFocus());
}

void NumberField::show(bool withUnit) {
  QString label = numberLabel(spec_, value_);
  const QString unit = oa::app::text(unitText(spec_.unit));
  if (withUnit && !unit.isEmpty()) label += (unit == QStringLiteral("°") ? QString() : QStringLiteral(" ")) + unit;
  if (label != QLineEdit::text()) setText(label);
  setModified(false);
}

void NumberField::change(double value) {
  if (spec_.isWhole()) value = std::round(value);
  value = std::clamp(value, spec_.min, spec_.max);
  if (value == value_) return;
  value_ = value;
  show(!hasFocus());
  Q_EMIT moved(value);
}

void NumberField::commit() {
  if (!isModified()) return;
  QString typed = QLineEdit::text().trimmed();
  typed.replace(QChar(0x2212), QLatin1Char('-')).replace(QLatin1Char(','), QLatin1Char('.'));
  typed.remove(oa::app::text(unitText(spec_.unit)));
  double v = 0;
  if (parseNumber(typed.trimmed().toStdString(), v)) {
    change(v / shownFactor(spec_));
    Q_EMIT released();
  }
  // What cannot be read as a number goes back to what was there.
  show(!hasFocus());
}

void NumberField::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) {
    commit();
    change(value_ + (event->key() == Qt::Key_Up ? 1 : -1) * keyStep(spec_, event->modifiers()));
    Q_EMIT released();
    return;
  }
  if (event->key() == Qt::Key_Escape) {
    show(false);
    clearFocus();
    return;
  }
  QLineEdit::keyPressEvent(event);
}

void NumberField::focusInEvent(QFocusEvent* event) {
  QLineEdit::focusInEvent(event);
  show(false);
  if (event->reason() != Qt::MouseFocusReason) selectAll();
}

void NumberField::focusOutEvent(QFocusEvent* event) {
  commit();
  QLineEdit::focusOutEvent(event);
  show(true);
}

void NumberField::mousePressEvent(QMouseEvent* event) {
  pressX_ = event->globalPosition().x();
  pressValue_ = value_;
  scrubbing_ = false;
  QLineEdit::mousePressEvent(event);
}

void NumberField::mouseMoveEvent(QMouseEvent* event) {
  const double moved = event->globalPosition().x() - pressX_;
  if ((event->buttons() & Qt::LeftButton) && (scrubbing_ || std::abs(moved) > 4)) {
    scrubbing_ = true;
    const double pixel =
        spec_.isWhole() ? 0.1 * (spec_.logScale ? 1 : keyStep(spec_, event->modifiers())) : keyStep(spec_, event->modifiers());
    change(spec_.logScale ? pressValue_ * std::exp(moved / 120) : pressValue_ + moved * pixel);
    return;
  }
  QLineEdit::mouseMoveEvent(event);
}

void NumberField::mouseReleaseEvent(QMouseEvent* event) {
  if (scrubbing_) {
    scrubbing_ = false;
    Q_EMIT released();
    clearFocus();
    return;
  }
  QLineEdit::mouseReleaseEvent(event);
}

void NumberField::mouseDoubleClickEvent(QMouseEvent*) {
  if (const auto* base = std::get_if<double>(&spec_.base)) {
    change(*base);
    Q_EMIT released();
    show(false);
  }
}

}  // namespace oa::app
