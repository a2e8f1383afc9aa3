#include "widgets/spread_controls.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

const ParamSpec kOver{.id = "over",
                      .label = "Over",
                      .help = "The share of a lap within which all have begun; with a whole one they lie evenly round it.",
                      .base = 1.0,
                      .min = 0,
                      .max = 1,
                      .unit = Unit::Share};

}  // namespace

SpreadControls::SpreadControls(bool places, QWidget* parent) : QWidget(parent) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  const auto line = [&](const QString& name, QWidget* control) {
    auto* row = new QHBoxLayout();
    auto* label = new QLabel(name, this);
    label->setFixedWidth(52);
    row->addWidget(label);
    row->addWidget(control, 1);
    column->addLayout(row);
    return row;
  };
  using Order = edit::Spread::Order;
  order_ = new QComboBox(this);
  order_->setObjectName(QStringLiteral("spreadOrder"));
  order_->setAccessibleName(tr("Order"));
  const auto add = [&](const QString& words, Order order) { order_->addItem(words, static_cast<int>(order)); };
  add(tr("first to last"), Order::Forwards);
  add(tr("last to first"), Order::Backwards);
  add(tr("from the middle out"), Order::FromMiddle);
  add(tr("at random"), Order::AtRandom);
  if (places) {
    add(tr("as they lie, from the left"), Order::Across);
    add(tr("as they lie, from the top"), Order::Down);
    add(tr("along a line in the picture"), Order::AlongLine);
  }
  add(tr("all together"), Order::Together);
  QHBoxLayout* first = line(tr("Order"), order_);
  dice_ = new QToolButton(this);
  dice_->setObjectName(QStringLiteral("spreadDice"));
  dice_->setIcon(icon(QStringLiteral("dices"), Theme::now().ink));
  dice_->setToolTip(tr("Another random order"));
  dice_->setAccessibleName(tr("Another random order"));
  first->addWidget(dice_);
  again_ = new QToolButton(this);
  again_->setObjectName(QStringLiteral("spreadLine"));
  again_->setText(tr("Draw again"));
  again_->setToolTip(tr("Draw another line in the picture"));
  connect(again_, &QToolButton::clicked, this, &SpreadControls::lineWanted);
  over_ = NumberField::wide(kOver, QStringLiteral("spreadOver"), this);
  over_->setAccessibleName(tr("Over so much of a lap"));
  line(tr("Over"), over_)->addWidget(new QLabel(tr("of a lap"), this));
  mirrored_ = new QCheckBox(tr("There and back"), this);
  mirrored_->setObjectName(QStringLiteral("spreadMirrored"));
  mirrored_->setToolTip(tr("The last ones come when the first ones do, those in the middle last"));
  auto* last = new QHBoxLayout();
  last->addWidget(mirrored_);
  last->addStretch(1);
  last->addWidget(again_);
  column->addLayout(last);
  connect(order_, &QComboBox::activated, this, [this](int i) {
    spread_.order = static_cast<Order>(order_->itemData(i).toInt());
    show();
    // Nothing moves before the line is there.
    if (spread_.order == Order::AlongLine) return Q_EMIT lineWanted();
    Q_EMIT lineDone();
    Q_EMIT moved();
    Q_EMIT released();
  });
  connect(dice_, &QToolButton::clicked, this, [this] {
    ++spread_.seed;
    Q_EMIT moved();
    Q_EMIT released();
  });
  connect(over_, &NumberField::moved, this, [this](double v) {
    spread_.over = v;
    Q_EMIT moved();
  });
  connect(over_, &NumberField::released, this, &SpreadControls::released);
  connect(mirrored_, &QCheckBox::clicked, this, [this](bool on) {
    spread_.mirrored = on;
    Q_EMIT moved();
    Q_EMIT released();
  });
  show();
}

void SpreadControls::setLine(const std::vector<Point>& line) {
  using Order = edit::Spread::Order;
  spread_.line = line;
  if (line.empty() && spread_.order == Order::AlongLine) {
    spread_.order = Order::Forwards;
    return show();
  }
  if (line.empty()) return;
  Q_EMIT moved();
  Q_EMIT released();
}

void SpreadControls::show() {
  using Order = edit::Spread::Order;
  order_->setCurrentIndex(order_->findData(static_cast<int>(spread_.order)));
  over_->setValue(spread_.over);
  over_->setEnabled(spread_.order != Order::Together);
  mirrored_->setEnabled(spread_.order != Order::Together);
  dice_->setVisible(spread_.order == Order::AtRandom);
  again_->setVisible(spread_.order == Order::AlongLine);
}

}  // namespace oa::app
