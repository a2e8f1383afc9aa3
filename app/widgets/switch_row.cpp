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
    connect(made, &NumberField::released, this, [this] {
      heldPart_.reset();
      Q_EMIT released();
    });
    return made;
  };
  by_ = new QComboBox(this);
  by_->setObjectName(QStringLiteral("switchBy"));
  by_->setAccessibleName(tr("What switches it"));
  by_->setToolTip(tr("Whether it is on for a part of the lap, or while the scene’s sound is loud"));
  by_->addItems({tr("by time"), tr("by sound")});
  row->addWidget(by_);
  const auto group = [&](QWidget*& widget) {
    widget = new QWidget(this);
    auto* inside = new QHBoxLayout(widget);
    inside->setContentsMargins(0, 0, 0, 0);
    inside->setSpacing(4);
    row->addWidget(widget);
    return inside;
  };
  QHBoxLayout* const shares = group(shares_);
  up_ = field(kUp, shares, shares_);
  hold_ = field(kHold, shares, shares_);
  down_ = field(kDown, shares, shares_);
  QHBoxLayout* const sound = group(sound_);
  over_ = field(kOver, sound, sound_);
  QHBoxLayout* const flickers = group(flickers_);
  flicker_ = field(kFlicker, flickers, flickers_);
  row->addStretch(1);
  const std::pair<NumberField*, HoldPart> parts[] = {{up_, HoldPart::Up}, {hold_, HoldPart::Hold}, {down_, HoldPart::Down}};
  for (const auto& [partField, part] : parts)
    connect(partField, &NumberField::moved, this, [this, part = part](double v) {
      // From where a drag, or a row of keys, began, so that one to the end and back restores the others.
      if (part != heldPart_ || shown_ != made_) held_ = shown_;
      heldPart_ = part;
      made_ = withShare(held_, part, v);
      Q_EMIT changed([shares = made_](Motion& m) { m.shares = shares; }, true);
    });
  connect(flicker_, &NumberField::moved, this, [this](double v) { Q_EMIT changed([v](Motion& m) { m.flicker = v; }, true); });
  connect(over_, &NumberField::moved, this, [this](double v) { Q_EMIT changed([v](Motion& m) { m.over = std::max(0.01, v); }, true); });
  connect(by_, &QComboBox::activated, this, [this](int i) { Q_EMIT changed([i](Motion& m) { m.over = i == 0 ? 0 : 0.5; }, false); });
}

void SwitchRow::setMotion(const Motion& motion, bool sound, bool flickers) {
  const bool heard = flickers && motion.over > 0;
  shown_ = motion.shares;
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
