#include "widgets/first_steps_panel.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "model/first_steps.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kWide = 300;
constexpr int kBeads = 22;  // pixels at the top, for the beads

}  // namespace

FirstStepsPanel::FirstStepsPanel(FirstSteps& steps, QWidget* on) : QFrame(on), steps_(steps) {
  setObjectName(QStringLiteral("firstSteps"));
  setFixedWidth(kWide);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12 + kBeads, 16, 12);
  column->setSpacing(5);
  title_ = new QLabel(this);
  title_->setObjectName(QStringLiteral("heading"));
  column->addWidget(title_);
  how_ = new QLabel(this);
  how_->setWordWrap(true);
  column->addWidget(how_);
  auto* row = new QHBoxLayout();
  count_ = new QLabel(this);
  count_->setObjectName(QStringLiteral("muted"));
  row->addWidget(count_);
  row->addStretch(1);
  leave_ = new QPushButton(this);
  leave_->setObjectName(QStringLiteral("firstStepsLeave"));
  row->addWidget(leave_);
  column->addLayout(row);
  connect(leave_, &QPushButton::clicked, &steps_, &FirstSteps::leave);
  connect(&steps, &FirstSteps::changed, this, &FirstStepsPanel::refresh);
  on->installEventFilter(this);
  refresh();
}

void FirstStepsPanel::refresh() {
  const int now = steps_.now();
  const bool over = now == FirstSteps::kCount;
  title_->setText(FirstSteps::title(now));
  how_->setText(FirstSteps::how(now));
  count_->setText(over ? QString() : tr("First steps · %1 of %2").arg(now + 1).arg(FirstSteps::kCount));
  leave_->setText(over ? tr("Done") : tr("Leave"));
  setAccessibleName(tr("First steps: %1").arg(title_->text()));
  setAccessibleDescription(how_->text());
  setVisible(steps_.running());
  settle();
}

void FirstStepsPanel::settle() {
  adjustSize();
  move(parentWidget()->width() - width() - 22, parentWidget()->height() - height() - 22);
  raise();
  update();
}

bool FirstStepsPanel::eventFilter(QObject* watched, QEvent* event) {
  if (watched == parentWidget() && event->type() == QEvent::Resize) settle();
  return QFrame::eventFilter(watched, event);
}

// A bead for each step on a line that closes at the end.
void FirstStepsPanel::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.card);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
  const double y = 12 + kBeads / 2.0 - 4;
  const auto place = [&](int i) { return QPointF(22 + i * 30.0, y); };
  p.setPen(QPen(t.line, 2));
  p.drawLine(place(0), place(FirstSteps::kCount - 1));
  for (int i = 0; i < FirstSteps::kCount; ++i) {
    const bool now = i == steps_.now();
    p.setPen(QPen(now ? t.persimmon : t.lagoon, 2));
    p.setBrush(steps_.done(i) ? t.lagoon : t.card);
    p.drawEllipse(place(i), now ? 6.5 : 5, now ? 6.5 : 5);
  }
}

}  // namespace oa::app
