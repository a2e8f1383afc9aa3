#include "widgets/follow_row.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QStyle>
#include <QToolButton>
#include <QVBoxLayout>

#include "edit/following.h"
#include "model/motion_address.h"
#include "widgets/number_field.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

const ParamSpec kDelay{.id = "delay",
                       .label = "Later by",
                       .help = "How much later it does the same, as a share of the loop.",
                       .base = 0.0,
                       .min = 0,
                       .max = 0.999,
                       .unit = Unit::Share};
const ParamSpec kScale{.id = "scale",
                       .label = "Times",
                       .help = "How many times as far it goes; below 0 the other way. What turns is turned by whole numbers.",
                       .base = 1.0,
                       .min = -kMaxFollowScale,
                       .max = kMaxFollowScale,
                       .sliderMin = -2,
                       .sliderMax = 2};

}  // namespace

FollowRow::FollowRow(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName(QStringLiteral("followRow"));
  auto* lines = new QVBoxLayout(this);
  lines->setContentsMargins(0, 0, 0, 0);
  lines->setSpacing(4);
  first_ = new QHBoxLayout();
  second_ = new QHBoxLayout();
  lines->addLayout(first_);
  lines->addLayout(second_);
  numbers_ = new QWidget(this);
  auto* numbers = new QHBoxLayout(numbers_);
  numbers->setContentsMargins(0, 0, 0, 0);
  QHBoxLayout* row = first_;
  for (QHBoxLayout* each : {first_, second_, numbers}) each->setSpacing(4);
  const auto label = [&](const QString& words) {
    auto* l = new QLabel(words, this);
    l->setObjectName(QStringLiteral("muted"));
    row->addWidget(l);
  };
  label(tr("Follows"));
  leader_ = new QToolButton(this);
  leader_->setObjectName(QStringLiteral("leader"));
  leader_->setPopupMode(QToolButton::InstantPopup);
  leader_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  auto* menu = new QMenu(leader_);
  leader_->setMenu(menu);
  connect(menu, &QMenu::aboutToShow, this, &FollowRow::fill);
  row->addWidget(leader_, 1);
  const auto field = [&](const ParamSpec& spec, const char* name) {
    label(text(spec.label));
    auto* made = new NumberField(spec, this);
    made->setObjectName(QLatin1String(name));
    made->setFixedWidth(54);
    made->setAccessibleName(text(spec.label));
    made->setToolTip(text(spec.help));
    row->addWidget(made);
    connect(made, &NumberField::released, this, &FollowRow::released);
    return made;
  };
  row = numbers;
  delay_ = field(kDelay, "followDelay");
  scale_ = field(kScale, "followScale");
  connect(delay_, &NumberField::moved, this, [this](double v) { Q_EMIT changed([v](Motion& m) { m.start = fract(-v); }, true); });
  connect(scale_, &NumberField::moved, this, [this](double v) { Q_EMIT changed([v](Motion& m) { m.scale = v; }, true); });
}

// In a narrow window the numbers stand below what is followed.
void FollowRow::resizeEvent(QResizeEvent*) {
  QHBoxLayout* wanted = width() < 400 ? second_ : first_;
  for (QHBoxLayout* each : {first_, second_}) each->removeWidget(numbers_);
  wanted->addWidget(numbers_, 0, Qt::AlignLeft);
}

// Those that move stand at the top, a layer's others in a menu of their own.
void FollowRow::fill() {
  QMenu* menu = leader_->menu();
  menu->clear();
  if (!at_) return;
  const LeaderRef now = document_.voice(*at_).motion.follows;
  QMenu* resting = nullptr;
  for (const edit::Candidate& candidate : edit::candidatesFor(document_.scene(), motionAddress(document_, *at_))) {
    if (!candidate.moves && !resting) {
      menu->addSeparator();
      resting = menu->addMenu(tr("At rest"));
    }
    QAction* action = (candidate.moves ? menu : resting)
                          ->addAction(tr("%1, %2").arg(text(candidate.layer), text(candidate.name)), this,
                                      [this, ref = candidate.ref] { Q_EMIT changed([ref](Motion& m) { m.follows = ref; }, false); });
    action->setCheckable(true);
    action->setChecked(candidate.ref == now);
  }
  if (menu->isEmpty()) menu->addAction(tr("There is nothing of this kind that it could follow"))->setEnabled(false);
}

void FollowRow::setMotion(const ParamAddress& at) {
  at_ = at;
  const Motion& motion = document_.voice(at).motion;
  const std::string name = edit::nameOf(document_.scene(), motion.follows);
  const bool chosen = motion.follows.layer != 0;
  const QString shown = !name.empty() ? text(name) : chosen ? tr("What it followed is gone") : tr("Choose a value");
  leader_->setText(leader_->fontMetrics().elidedText(shown, Qt::ElideMiddle, 190));
  leader_->setToolTip(tr("The value whose motion it takes over: %1").arg(shown));
  leader_->setAccessibleName(tr("Follows: %1").arg(shown));
  leader_->setProperty("problem", chosen && name.empty());
  leader_->style()->unpolish(leader_);
  leader_->style()->polish(leader_);
  delay_->setValue(fract(-motion.start));
  scale_->setValue(motion.scale);
}

}  // namespace oa::app
