#include "widgets/number_field.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "params/typed_number.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/value_slider.h"

namespace oa::app {
namespace {

constexpr int kLeast = 56;
constexpr int kMost = 92;
constexpr int kFrame = 12;  // border, padding and the cursor's room

QString sheet(const QColor& border) {
  return QStringLiteral(
             "QLineEdit { background: transparent; border: 1px solid %1; padding: 1px 3px; } "
             "QLineEdit:hover { border: 1px solid palette(mid); } QLineEdit:focus { border: 1.5px solid %2; background: palette(base); }")
      .arg(border.alpha() == 0 ? QStringLiteral("transparent") : border.name(),
           border.alpha() == 0 ? Theme::now().lagoon.name() : border.name());
}

}  // namespace

NumberField::NumberField(const ParamSpec& spec, QWidget* parent) : QLineEdit(parent), spec_(spec) {
  setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  setFrame(false);
  setContextMenuPolicy(Qt::NoContextMenu);  // the row has one for the value
  setStyleSheet(sheet(Qt::transparent));
  ensurePolished();
  int widest = 0;
  for (const double v : {spec.min, spec.max, spec.low(), spec.high(), spec.low() + 0.15, -0.15})
    if (v >= spec.min && v <= spec.max && v >= spec.low() * 10 - 1 && v <= spec.high() * 10 + 1)
      widest = std::max(widest, fontMetrics().horizontalAdvance(labelOf(v, true)));
  setFixedWidth(std::clamp(widest + kFrame, kLeast, kMost));
  connect(this, &QLineEdit::returnPressed, this, [this] {
    if (commit()) {
      show(false);
      selectAll();
    }
  });
  connect(this, &QLineEdit::textEdited, this, [this] { mark({}); });
}

QString NumberField::labelOf(double value, bool withUnit) const {
  QString label = numberLabel(spec_, value);
  QString unit = oa::app::text(unitText(spec_.unit));
  if (std::abs(value) == 1 && unit.size() > 2 && unit.endsWith(QLatin1Char('s'))) unit.chop(1);
  if (withUnit && !unit.isEmpty()) label += (unit == QStringLiteral("°") ? QString() : QStringLiteral(" ")) + unit;
  return label;
}

NumberField* NumberField::wide(const ParamSpec& spec, const QString& name, QWidget* parent) {
  auto* field = new NumberField(spec, parent);
  field->setObjectName(name);
  field->setAccessibleName(app::text(spec.label));
  field->setToolTip(app::text(spec.help));
  field->setMaximumWidth(QWIDGETSIZE_MAX);
  return field;
}

void NumberField::setValue(double value) {
  const bool same = value == value_;
  value_ = value;
  // What is half typed or could not be read is not taken away by a change of something else.
  if (same && (isModified() || !problem_.isEmpty())) return;
  if (!hasFocus() || scrubbing_ || !isModified()) {
    mark({});
    show(!hasFocus());
  }
}

void NumberField::show(bool withUnit) {
  QString label = labelOf(value_, withUnit);
  // Rather without its unit than cut.
  if (withUnit && fontMetrics().horizontalAdvance(label) > width() - kFrame) label = labelOf(value_, false);
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

void NumberField::mark(const QString& problem) {
  if (problem == problem_) return;
  problem_ = problem;
  setStyleSheet(sheet(problem.isEmpty() ? QColor(Qt::transparent) : Theme::now().persimmon));
  setAccessibleDescription(problem);
  if (problem.isEmpty()) {
    setToolTip(help_);
    QToolTip::hideText();
  } else {
    help_ = toolTip();
    setToolTip(problem);
    QToolTip::showText(mapToGlobal(QPoint(0, height())), problem, this);
  }
}

// False if what stands here cannot be read; then it stays.
bool NumberField::commit() {
  if (!isModified()) return problem_.isEmpty();
  const auto typed = typedNumber(QLineEdit::text().trimmed().toStdString(), spec_);
  if (!typed) {
    mark(tr("Not read: %1").arg(oa::app::text(typed.error().message)));
    return false;
  }
  mark({});
  setModified(false);
  change(*typed);
  Q_EMIT released();
  return true;
}

bool NumberField::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride && !isModified()) {
    // With nothing half typed, undo is the scene's, and Space plays.
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo) || key->key() == Qt::Key_Space) {
      event->ignore();
      return false;
    }
  }
  return QLineEdit::event(event);
}

void NumberField::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) {
    // The gesture ends when the key is let go.
    if (commit()) change(value_ + (event->key() == Qt::Key_Up ? 1 : -1) * keyStep(spec_, event->modifiers()));
    return;
  }
  if (event->key() == Qt::Key_Escape && (isModified() || !problem_.isEmpty())) {
    mark({});
    show(false);
    return;
  }
  QLineEdit::keyPressEvent(event);
}

void NumberField::focusInEvent(QFocusEvent* event) {
  QLineEdit::focusInEvent(event);
  if (problem_.isEmpty()) show(false);
  if (event->reason() != Qt::MouseFocusReason) selectAll();
}

void NumberField::focusOutEvent(QFocusEvent* event) {
  const bool read = commit();
  QLineEdit::focusOutEvent(event);
  if (read) show(true);
}

void NumberField::mousePressEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton) {
    pressX_ = event->globalPosition().x();
    pressValue_ = value_;
  }
  scrubbing_ = false;
  QLineEdit::mousePressEvent(event);
}

void NumberField::mouseMoveEvent(QMouseEvent* event) {
  const double moved = event->globalPosition().x() - pressX_;
  if ((event->buttons() & Qt::LeftButton) && !isModified() && (scrubbing_ || std::abs(moved) > 4)) {
    scrubbing_ = true;
    const double pixel =
        spec_.isWhole() ? 0.1 * (spec_.logScale ? 1 : keyStep(spec_, event->modifiers())) : keyStep(spec_, event->modifiers());
    change(spec_.logScale ? pressValue_ * std::exp(moved / 120) : pressValue_ + moved * pixel);
    return;
  }
  QLineEdit::mouseMoveEvent(event);
}

void NumberField::mouseReleaseEvent(QMouseEvent* event) {
  if (scrubbing_ && event->button() == Qt::LeftButton) {
    scrubbing_ = false;
    Q_EMIT released();
    clearFocus();
    return;
  }
  QLineEdit::mouseReleaseEvent(event);
}

void NumberField::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (const auto* base = std::get_if<double>(&spec_.base)) {
    mark({});
    change(*base);
    Q_EMIT released();
    show(false);
  }
}

}  // namespace oa::app
