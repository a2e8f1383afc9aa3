#include "sheets/sheet.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/theme.h"

namespace oa::app {

Sheet::Sheet(const QString& title, const char* sheetName, QWidget* parent, bool scrolls) : QWidget(parent) {
  setObjectName(QStringLiteral("sheet-") + QLatin1String(sheetName));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(18, 10, 6, 8);
  column->setSpacing(10);
  auto* top = new QHBoxLayout();
  top->setContentsMargins(0, 0, 8, 0);
  auto* name = new QLabel(title, this);
  name->setObjectName(QStringLiteral("title"));
  auto* close = new QToolButton(this);
  close->setObjectName(QStringLiteral("closeSheet"));
  close->setIcon(icon(QStringLiteral("x")));
  close->setToolTip(tr("Back to the recipe"));
  close->setAccessibleName(tr("Close"));
  connect(close, &QToolButton::clicked, this, &Sheet::closed);
  top->addWidget(name, 1);
  top->addWidget(close);
  column->addLayout(top);
  inside_ = new QWidget(this);
  content_ = new QVBoxLayout(inside_);
  content_->setContentsMargins(0, 0, 8, 6);
  content_->setSpacing(9);
  if (scrolls) {
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setWidget(inside_);
    column->addWidget(scroll, 1);
  } else {
    column->addWidget(inside_, 1);
  }
}

void Sheet::takeFocus() {
  for (QWidget* next = nextInFocusChain(); next && next != this; next = next->nextInFocusChain())
    if (inside_->isAncestorOf(next) && next->isVisibleTo(this) && next->isEnabled() && (next->focusPolicy() & Qt::TabFocus))
      return next->setFocus(Qt::OtherFocusReason);
  setFocus();
}

QWidget* Sheet::addLine(const QString& name, QWidget* control) {
  auto* line = new QWidget(inside_);
  auto* row = new QHBoxLayout(line);
  row->setContentsMargins(0, 0, 0, 0);
  auto* label = new QLabel(name, line);
  label->setFixedWidth(80);
  label->setBuddy(control);
  row->addWidget(label);
  row->addWidget(control, 1);
  if (control->accessibleName().isEmpty()) control->setAccessibleName(name);
  content_->addWidget(line);
  return line;
}

void Sheet::addNote(QLabel* label) {
  label->setWordWrap(true);
  label->setTextFormat(Qt::PlainText);
  content_->addWidget(label);
}

QPushButton* Sheet::addPrimary(const QString& words) {
  auto* last = new QHBoxLayout();
  last->addStretch(1);
  auto* button = new QPushButton(words, inside_);
  button->setObjectName(QStringLiteral("primary"));
  last->addWidget(button);
  content_->addLayout(last);
  content_->addStretch(1);
  return button;
}

void Sheet::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    Q_EMIT closed();
  else
    QWidget::keyPressEvent(event);
}

}  // namespace oa::app
