#include "widgets/card_section.h"

#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/theme.h"

namespace oa::app {

CardSection::CardSection(const QString& title, bool folded, QWidget* parent) : QWidget(parent) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 4, 0, 0);
  column->setSpacing(2);
  heading_ = new QToolButton(this);
  heading_->setObjectName(QStringLiteral("sectionHeading"));
  heading_->setText(title);
  heading_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  heading_->setIconSize(QSize(12, 12));
  heading_->setFont(uiFont(11, 600));
  heading_->setAccessibleName(tr("Fold %1").arg(title));
  connect(heading_, &QToolButton::clicked, this, [this] {
    fold(!folded_);
    Q_EMIT foldChanged(folded_);
  });
  column->addWidget(heading_);
  content_ = new QWidget(this);
  body_ = new QVBoxLayout(content_);
  body_->setContentsMargins(0, 0, 0, 0);
  body_->setSpacing(3);
  column->addWidget(content_);
  fold(folded);
}

void CardSection::fold(bool folded) {
  folded_ = folded;
  heading_->setIcon(icon(folded ? QStringLiteral("chevron-right") : QStringLiteral("chevron-down"), Theme::now().muted));
  heading_->setToolTip(folded ? tr("Show what is set here") : tr("Fold this part"));
  content_->setVisible(!folded);
}

// A hair line above tells it from what comes before.
void CardSection::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setPen(Theme::now().line);
  p.drawLine(0, 1, width(), 1);
}

}  // namespace oa::app
