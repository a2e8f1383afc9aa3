#include "widgets/own_card.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/theme.h"

namespace oa::app {

OwnCard::OwnCard(const QString& title, const QString& note, bool folded, QWidget* parent) : QFrame(parent) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 4, 10, 4);
  column->setSpacing(2);
  header_ = new QHBoxLayout();
  header_->setSpacing(4);
  auto* name = new QLabel(title, this);
  name->setObjectName(QStringLiteral("heading"));
  header_->addWidget(name);
  auto* says = new QLabel(note, this);
  says->setObjectName(QStringLiteral("muted"));
  says->setFont(uiFont(11));
  header_->addWidget(says, 1);
  foldButton_ = new QToolButton(this);
  foldButton_->setIconSize(QSize(14, 14));
  foldButton_->setToolTip(tr("Fold this card"));
  foldButton_->setAccessibleName(tr("Fold %1").arg(title));
  connect(foldButton_, &QToolButton::clicked, this, [this] {
    fold(!folded_);
    Q_EMIT foldChanged(folded_);
  });
  header_->addWidget(foldButton_);
  column->addLayout(header_);
  content_ = new QWidget(this);
  body_ = new QVBoxLayout(content_);
  body_->setContentsMargins(0, 2, 0, 4);
  body_->setSpacing(3);
  column->addWidget(content_);
  fold(folded);
}

void OwnCard::addTool(QWidget* tool) { header_->insertWidget(header_->count() - 1, tool); }

void OwnCard::fold(bool folded) {
  folded_ = folded;
  foldButton_->setIcon(icon(folded ? QStringLiteral("chevron-right") : QStringLiteral("chevron-down"), Theme::now().muted));
  content_->setVisible(!folded);
}

// Dashed, since it is no step of the recipe.
void OwnCard::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(t.line, 1, Qt::DashLine));
  p.setBrush(Qt::NoBrush);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 7, 7);
}

}  // namespace oa::app
