#include "widgets/presence_card.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

const ParamSpec& shareSpec(int which) {
  static const ParamSpec kSpecs[] = {
      {.id = "from", .label = "From", .help = "Where in the loop it comes.", .base = 0.0, .min = 0, .max = 0.9999, .unit = Unit::Share},
      {.id = "length",
       .label = "Length",
       .help = "How much of the loop it is there for.",
       .base = 0.5,
       .min = 0.001,
       .max = 1,
       .unit = Unit::Share},
      {.id = "in", .label = "In", .help = "How long it takes to come.", .base = 0.0, .min = 0, .max = 1, .unit = Unit::Share},
      {.id = "out", .label = "Out", .help = "How long it takes to go.", .base = 0.0, .min = 0, .max = 1, .unit = Unit::Share}};
  return kSpecs[which];
}

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

double& part(Arc& arc, int which) {
  double* const parts[] = {&arc.from, &arc.length, &arc.in, &arc.out};
  return *parts[which];
}

// Soft ends that are longer than the part are shortened.
void settle(Arc& arc) {
  arc.in = std::min(arc.in, arc.length);
  arc.out = std::min(arc.out, arc.length - arc.in);
}

QString note(const Layer& layer) {
  if (layer.presence.empty() && layer.hold == 1) return PresenceCard::tr("always");
  QString words = layer.presence.empty() ? PresenceCard::tr("always")
                                         : PresenceCard::tr("%n part(s)", nullptr, static_cast<int>(layer.presence.size()));
  words.replace(QStringLiteral("(s)"), layer.presence.size() == 1 ? QString() : QStringLiteral("s"));
  return layer.hold == 1 ? words : words + PresenceCard::tr(", held for %1").arg(layer.hold);
}

}  // namespace

PresenceCard::PresenceCard(Document& document, const Layer& layer, bool folded, QWidget* parent)
    : OwnCard(tr("Presence"), note(layer), folded, parent), document_(document), layer_(layer.id) {
  setObjectName(QStringLiteral("presenceCard"));
  auto* add = new QPushButton(tr("Add part"), this);
  add->setObjectName(QStringLiteral("link"));
  add->setToolTip(tr("A part of the loop in which the layer is there; without any it always is. Its ends are dragged on the dial too"));
  connect(add, &QPushButton::clicked, this, [this] {
    change(tr("presence"), false, [](Layer& l) {
      if (l.presence.size() < kMaxArcs) l.presence.push_back({0, 0.5, 0.1, 0.1});
    });
  });
  addTool(add);
  for (int i = 0; i < static_cast<int>(layer.presence.size()); ++i) addPart(i);
  auto* line = new QHBoxLayout();
  line->setSpacing(6);
  auto* name = new QLabel(text(holdSpec().label), this);
  name->setFixedWidth(74);
  name->setToolTip(text(holdSpec().help));
  hold_ = new NumberField(holdSpec(), this);
  hold_->setAccessibleName(tr("Hold"));
  connect(hold_, &NumberField::moved, this,
          [this](double v) { change(tr("hold"), true, [v](Layer& l) { l.hold = static_cast<int>(v); }); });
  connect(hold_, &NumberField::released, this, [this] { document_.endGesture(); });
  holdSays_ = new QLabel(this);
  holdSays_->setObjectName(QStringLiteral("muted"));
  holdSays_->setFont(uiFont(11));
  holdSays_->setWordWrap(true);
  line->addWidget(name);
  line->addWidget(hold_);
  line->addWidget(holdSays_, 1);
  body()->addLayout(line);
  connect(&document, &Document::changed, this, &PresenceCard::refresh);
  refresh();
}

void PresenceCard::addPart(int index) {
  auto* line = new QHBoxLayout();
  line->setSpacing(4);
  std::vector<NumberField*> fields;
  for (int which = 0; which < 4; ++which) {
    auto* label = new QLabel(text(shareSpec(which).label), this);
    label->setObjectName(QStringLiteral("muted"));
    label->setFont(uiFont(11));
    auto* field = new NumberField(shareSpec(which), this);
    field->setAccessibleName(tr("Part %1: %2").arg(index + 1).arg(text(shareSpec(which).label)));
    field->setToolTip(text(shareSpec(which).help));
    connect(field, &NumberField::moved, this, [this, index, which](double v) {
      change(tr("presence"), true, [index, which, v](Layer& l) {
        if (index >= static_cast<int>(l.presence.size())) return;
        Arc& arc = l.presence[static_cast<std::size_t>(index)];
        part(arc, which) = v;
        settle(arc);
      });
    });
    connect(field, &NumberField::released, this, [this] { document_.endGesture(); });
    auto* column = new QVBoxLayout();
    column->setSpacing(0);
    column->addWidget(label);
    column->addWidget(field);
    line->addLayout(column);
    fields.push_back(field);
  }
  auto* remove = new QToolButton(this);
  remove->setIcon(icon(QStringLiteral("trash-2"), Theme::now().muted));
  remove->setIconSize(QSize(14, 14));
  remove->setToolTip(tr("Remove this part"));
  remove->setAccessibleName(tr("Remove part %1").arg(index + 1));
  connect(remove, &QToolButton::clicked, this, [this, index] {
    change(tr("remove presence"), false, [index](Layer& l) {
      if (index < static_cast<int>(l.presence.size())) l.presence.erase(l.presence.begin() + index);
    });
  });
  line->addStretch(1);
  line->addWidget(remove, 0, Qt::AlignBottom);
  body()->addLayout(line);
  fields_.push_back(std::move(fields));
}

void PresenceCard::change(const QString& label, bool gesture, const std::function<void(Layer&)>& how) {
  document_.edit(label, gesture ? QStringLiteral("%1/%2").arg(label).arg(layer_) : QString(), [&](Scene& scene) {
    if (Layer* layer = findLayer(scene, layer_)) how(*layer);
  });
}

void PresenceCard::refresh() {
  const Layer* layer = document_.layer(layer_);
  if (!layer || layer->presence.size() != fields_.size()) return;
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    Arc arc = layer->presence[i];
    for (int which = 0; which < 4; ++which) fields_[i][static_cast<std::size_t>(which)]->setValue(part(arc, which));
  }
  hold_->setValue(layer->hold);
  const Scene& scene = document_.scene();
  QString says;
  if (layer->hold > 1) {
    says = tr("%1 pictures a second").arg(text(numberText(scene.rate.value() / layer->hold, 1)));
    if (scene.frames % layer->hold != 0) {
      // The nearest number of frames that divides the loop.
      int better = layer->hold;
      for (int away = 1; away < scene.frames; ++away) {
        if (layer->hold - away >= 1 && scene.frames % (layer->hold - away) == 0) better = layer->hold - away;
        if (layer->hold + away <= scene.frames && scene.frames % (layer->hold + away) == 0) better = layer->hold + away;
        if (better != layer->hold) break;
      }
      says += tr("; the loop's %1 frames do not divide by it, so the last is held shorter: %2 would fit").arg(scene.frames).arg(better);
    }
  }
  holdSays_->setText(says);
}

}  // namespace oa::app
