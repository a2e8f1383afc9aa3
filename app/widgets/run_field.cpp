#include "widgets/run_field.h"

#include <QFocusEvent>
#include <QKeyEvent>
#include <QRegularExpression>
#include <algorithm>

#include "base/numbers.h"
#include "widgets/text.h"
#include "scene/scene.h"

namespace oa::app {

RunField::RunField(QWidget* parent) : QLineEdit(parent) {
  setAccessibleName(tr("Length of the run's loop"));
  setToolTip(tr("How long the loop goes on between what arrives and what leaves: 3 is three loops, 20 s is twenty seconds"));
  setFixedWidth(84);
  connect(this, &QLineEdit::returnPressed, this, [this] {
    read();
    selectAll();
  });
  showLength();
}

void RunField::setLength(int loops, double seconds) {
  if (loops == loops_ && seconds == seconds_) return;
  loops_ = loops;
  seconds_ = seconds;
  if (!isModified()) showLength();
}

QString RunField::bare() const { return seconds_ > 0 ? tr("%1 s").arg(app::text(numberText(seconds_, 3))) : QString::number(loops_); }

void RunField::showLength() {
  setText(hasFocus() || seconds_ > 0 ? bare() : tr("Loop × %1").arg(bare()));
  setModified(false);
}

// What cannot be read leaves things as they are.
void RunField::read() {
  static const QRegularExpression form(QStringLiteral("^\\s*(\\d{1,9}(?:[.,]\\d{1,6})?)\\s*(s|sec|seconds?|loops?|×|x)?\\s*$"),
                                       QRegularExpression::CaseInsensitiveOption);
  const auto match = form.match(QLineEdit::text());
  if (isModified() && match.hasMatch()) {
    const double number = match.captured(1).replace(QLatin1Char(','), QLatin1Char('.')).toDouble();
    const bool inSeconds = match.captured(2).startsWith(QLatin1Char('s'), Qt::CaseInsensitive);
    if (inSeconds && number > 0) {
      Q_EMIT secondsWanted(std::min(number, kMaxRunSeconds));
    } else if (!inSeconds && number >= 1) {
      Q_EMIT loopsWanted(static_cast<int>(std::min<double>(number, kMaxRunLoops)));
    }
  }
  showLength();
}

void RunField::step(int by) {
  read();
  if (seconds_ > 0)
    Q_EMIT secondsWanted(std::clamp(seconds_ + by, 1.0, kMaxRunSeconds));
  else
    Q_EMIT loopsWanted(std::clamp(loops_ + by, 1, kMaxRunLoops));
  showLength();
  selectAll();
}

void RunField::focusInEvent(QFocusEvent* event) {
  QLineEdit::focusInEvent(event);
  showLength();
  selectAll();
}

void RunField::focusOutEvent(QFocusEvent* event) {
  read();
  QLineEdit::focusOutEvent(event);
  showLength();
}

void RunField::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Up:
      return step(1);
    case Qt::Key_Down:
      return step(-1);
    case Qt::Key_Escape:
      return showLength();
    default:
      QLineEdit::keyPressEvent(event);
  }
}

}  // namespace oa::app
