#include "widgets/switch_row.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <algorithm>

#include "widgets/number_field.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

ParamSpec share(std::string_view id, std::string_view label, std::string_view help, double most = 1) {
  return {.id = id, .label = label, .help = help, .base = 0.0, .min = 0, .max = most, .unit = Unit::Share};
}
const ParamSpec kUp = share("up", "In", "Share of a lap in which it fades in; 0: at once");
const ParamSpec kHold = share("on", "On", "Share of a lap in which it is wholly on");
const ParamSpec kDown = share("down", "Out", "Share of a lap in which it fades out; 0: at once");
const ParamSpec kFlicker = share("flicker", "Flicker", "How far it goes out at times while it is on");
const ParamSpec kOver = share("over", "Over", "It is on while the sound is louder than this share of its loudest");

}  // namespace

SwitchRow::SwitchRow(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("switchRow"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  const auto field = [&](const ParamSpec& spec, QHBoxLayout* into, QWidget* parentOf) {
    auto* label = new QLabel(text(spec.label), parentOf);
    label->setObjectName(QStringLiteral("muted"));
    into->addWidget(label);
    auto* made = new NumberField(spec, parentOf);
    made->setObjectName(QStringLiteral("switch-%1").arg(text(spec.id)));
    made->setFixedWidth(48);
    made->setAccessibleName(tr("Switch: %1").arg(text(spec.label)));
    made->setToolTip(text(spec.help));
    into->addWidget(made);
    connect(made, &NumberField::released, this, &SwitchRow::released);
    return made;
  };
  by_ = new QComboBox(this);
  by_->setObjectName(QStringLiteral("switchBy"));
  by_->setAccessibleName(tr("What switches it"));
  by_->setToolTip(tr("Whether it is on for a part of the lap, or while the scene’s sound is loud"));
  by_->addItems({tr("by time"), tr("by sound")});
  row->addWidget(by_);
  shares_ = new QWidget(this);
  auto* shares = new QHBoxLayout(shares_);
  shares->setContentsMargins(0, 0, 0, 0);
  shares->setSpacing(4);
  up_ = field(kUp, shares, shares_);
  hold_ = field(kHold, shares, shares_);
  down_ = field(kDown, shares, shares_);
  row->addWidget(shares_);
  sound_ = new QWidget(this);
  auto* sound = new QHBoxLayout(sound_);
  sound->setContentsMargins(0, 0, 0, 0);
  sound->setSpacing(4);
  over_ = field(kOver, sound, sound_);
  row->addWidget(sound_);
  flickers_ = new QWidget(this);
  auto* flickers = new QHBoxLayout(flickers_);
  flickers->setContentsMargins(0, 0, 0, 0);
  flickers->setSpacing(4);
  flicker_ = field(kFlicker, flickers, flickers_);
  row->addWidget(flickers_);
  row->addStretch(1);
  // What is longer takes from the part that comes after it, and at last from the others: together they fit into a lap.
  connect(up_, &NumberField::moved, this, [this](double v) {
    Q_EMIT changed(
        [v](Motion& m) {
          m.shares.up = v;
          m.shares.hold = std::min(m.shares.hold, 1 - v);
          m.shares.down = std::min(m.shares.down, 1 - v - m.shares.hold);
        },
        true);
  });
  connect(hold_, &NumberField::moved, this, [this](double v) {
    Q_EMIT changed(
        [v](Motion& m) {
          m.shares.hold = v;
          m.shares.down = std::min(m.shares.down, 1 - v);
          m.shares.up = std::min(m.shares.up, 1 - v - m.shares.down);
        },
        true);
  });
  connect(down_, &NumberField::moved, this, [this](double v) {
    Q_EMIT changed(
        [v](Motion& m) {
          m.shares.down = v;
          m.shares.hold = std::min(m.shares.hold, 1 - v);
          m.shares.up = std::min(m.shares.up, 1 - v - m.shares.hold);
        },
        true);
  });
  connect(flicker_, &NumberField::moved, this, [this](double v) { Q_EMIT changed([v](Motion& m) { m.flicker = v; }, true); });
  connect(over_, &NumberField::moved, this, [this](double v) { Q_EMIT changed([v](Motion& m) { m.over = std::max(0.01, v); }, true); });
  connect(by_, &QComboBox::activated, this, [this](int i) { Q_EMIT changed([i](Motion& m) { m.over = i == 0 ? 0 : 0.5; }, false); });
}

void SwitchRow::setMotion(const Motion& motion, bool sound, bool flickers) {
  const bool heard = flickers && motion.over > 0;
  flickers_->setVisible(flickers);
  by_->setVisible(sound || heard);
  by_->setCurrentIndex(heard ? 1 : 0);
  shares_->setVisible(!heard);
  sound_->setVisible(heard);
  up_->setValue(motion.shares.up);
  hold_->setValue(motion.shares.hold);
  down_->setValue(motion.shares.down);
  flicker_->setValue(motion.flicker);
  over_->setValue(motion.over);
}

}  // namespace oa::app
