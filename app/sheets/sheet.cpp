#include "sheets/sheet.h"

#include <QKeyEvent>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/theme.h"

namespace oa::app {

Sheet::Sheet(const QString& title, QWidget* parent) : QWidget(parent) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(18, 10, 14, 14);
  column->setSpacing(10);
  auto* top = new QHBoxLayout();
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
  content_ = new QVBoxLayout();
  content_->setSpacing(9);
  column->addLayout(content_, 1);
}

QWidget* Sheet::addLine(const QString& name, QWidget* control) {
  auto* line = new QWidget(this);
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

void Sheet::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    Q_EMIT closed();
  else
    QWidget::keyPressEvent(event);
}

}  // namespace oa::app
