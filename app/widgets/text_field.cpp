#include "widgets/text_field.h"

#include <QKeyEvent>
#include <QSignalBlocker>
#include <algorithm>

namespace oa::app {

TextField::TextField(QWidget* parent) : QPlainTextEdit(parent) {
  setObjectName(QStringLiteral("words"));
  setTabChangesFocus(true);
  setUndoRedoEnabled(false);  // the scene's own history counts
  setLineWrapMode(QPlainTextEdit::WidgetWidth);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  connect(this, &QPlainTextEdit::textChanged, this, [this] {
    fit();
    // Words are undone one by one, each with the space before it.
    const QString now = toPlainText();
    const int at = textCursor().position();
    if (now.size() == before_.size() + 1 && at > 0 && at <= now.size() && now[at - 1].isSpace()) Q_EMIT released();
    before_ = now;
    Q_EMIT moved(now);
  });
  fit();
}

void TextField::setWords(const QString& words) {
  if (words == toPlainText()) return;
  const QSignalBlocker quiet(this);
  before_ = words;
  // The cursor stays where it was, as far as there are as many letters.
  const int at = textCursor().position();
  setPlainText(words);
  QTextCursor cursor = textCursor();
  cursor.setPosition(std::min(at, static_cast<int>(words.size())));
  setTextCursor(cursor);
  fit();
}

// Two to five lines high.
void TextField::fit() {
  ensurePolished();
  const int lines = std::clamp(document()->blockCount(), 2, 5);
  setFixedHeight(lines * fontMetrics().lineSpacing() + static_cast<int>(2 * document()->documentMargin()) + 10);
}

// Undo and redo are the scene's.
bool TextField::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
      event->ignore();
      return false;
    }
  }
  return QPlainTextEdit::event(event);
}

void TextField::focusOutEvent(QFocusEvent* event) {
  QPlainTextEdit::focusOutEvent(event);
  Q_EMIT released();
}

}  // namespace oa::app
