#include "widgets/hold_row.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "loop/hold.h"
#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

const ParamSpec& holdSpec() {
  static const ParamSpec spec{.id = "hold",
                              .label = "Hold",
                              .help = "Frames that each picture is held for: 1 moves smoothly, 2 or 3 look made by hand.",
                              .type = ParamType::Integer,
                              .base = 1.0,
                              .min = 1,
                              .max = kMaxHold,
                              .unit = Unit::Frames};
  return spec;
}

}  // namespace

HoldRow::HoldRow(Document& document, Id layer, QWidget* parent) : QWidget(parent), document_(document), layer_(layer) {
  setObjectName(QStringLiteral("holdRow"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  auto* line = new QHBoxLayout();
  line->setSpacing(6);
  if (layer != 0) {
    auto* name = new QLabel(text(holdSpec().label), this);
    name->setFixedWidth(74);
    line->addWidget(name);
  }
  setToolTip(text(holdSpec().help));
  field_ = new NumberField(holdSpec(), this);
  field_->setObjectName(QStringLiteral("hold"));
  field_->setAccessibleName(tr("Frames that each picture is held for"));
  connect(field_, &NumberField::moved, this, [this](double v) { hold(static_cast<int>(v), true); });
  connect(field_, &NumberField::released, this, [this] { document_.endGesture(); });
  line->addWidget(field_);
  mend_ = new QPushButton(this);
  mend_->setObjectName(QStringLiteral("mendHold"));
  connect(mend_, &QPushButton::clicked, this, [this] { hold(evenHold(document_.scene().frames, held()), false); });
  line->addWidget(mend_);
  line->addStretch(1);
  column->addLayout(line);
  says_ = new QLabel(this);
  says_->setObjectName(QStringLiteral("muted"));
  says_->setFont(uiFont(11));
  says_->setWordWrap(true);
  column->addWidget(says_);
  connect(&document, &Document::changed, this, &HoldRow::refresh);
  refresh();
}

int HoldRow::held() const {
  if (layer_ == 0) return document_.scene().hold;
  const Layer* layer = document_.layer(layer_);
  return layer ? layer->hold : 1;
}

void HoldRow::hold(int frames, bool gesture) {
  document_.edit(tr("hold"), gesture ? QStringLiteral("hold/%1").arg(layer_) : QString(), [&](Scene& scene) {
    if (layer_ == 0)
      scene.hold = frames;
    else if (Layer* layer = findLayer(scene, layer_))
      layer->hold = frames;
  });
}

void HoldRow::refresh() {
  const Scene& scene = document_.scene();
  const int frames = held();
  const int even = evenHold(scene.frames, frames);
  field_->setValue(frames);
  mend_->setVisible(even != frames);
  mend_->setText(tr("Make it %1").arg(even));
  QString words;
  if (frames > 1) words = tr("%1 pictures a second").arg(text(numberText(scene.rate.value() / frames, 1)));
  if (even != frames)
    words += tr("; %1 frames cannot be shared out by %2, so the last picture is held shorter. %3 would fit.")
                 .arg(scene.frames)
                 .arg(frames)
                 .arg(even);
  says_->setText(words);
  says_->setVisible(!words.isEmpty());
}

}  // namespace oa::app
