#include "widgets/presence_rows.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

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

double& part(Arc& arc, int which) {
  double* const parts[] = {&arc.from, &arc.length, &arc.in, &arc.out};
  return *parts[which];
}

// Soft ends that are longer than the part are shortened.
void settle(Arc& arc) {
  arc.in = std::min(arc.in, arc.length);
  arc.out = std::min(arc.out, arc.length - arc.in);
}

}  // namespace

PresenceRows::PresenceRows(Document& document, Id layer, int step, QWidget* parent)
    : QWidget(parent), document_(document), layer_(layer), step_(step) {
  setObjectName(QStringLiteral("presenceRows"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  if (const Presence* presence = document.presence(layer, step))
    for (int i = 0; i < static_cast<int>(presence->size()); ++i) addRow(i);
  // What is being set here is what the dial shows.
  for (QWidget* child : findChildren<QWidget*>()) child->installEventFilter(this);
  connect(&document, &Document::changed, this, &PresenceRows::refresh);
  refresh();
}

bool PresenceRows::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::FocusIn && document_.currentLayer() == layer_) document_.showPresence(step_);
  return QWidget::eventFilter(watched, event);
}

void PresenceRows::addPart(Document& document, Id layer, int step) {
  document.edit(tr("presence"), {}, [&](Scene& scene) {
    Presence* presence = Document::presence(scene, layer, step);
    if (presence && presence->size() < kMaxArcs) presence->push_back({0, 0.5, 0.1, 0.1});
  });
  document.showPresence(step);
}

QString PresenceRows::note(const Presence& presence) {
  if (presence.empty()) return tr("always");
  return presence.size() == 1 ? tr("1 part") : tr("%1 parts").arg(presence.size());
}

void PresenceRows::addRow(int index) {
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
      change(tr("presence"), QStringLiteral("%1/%2").arg(index).arg(which), [index, which, v](Presence& presence) {
        if (index >= static_cast<int>(presence.size())) return;
        Arc& arc = presence[static_cast<std::size_t>(index)];
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
    change(tr("remove presence"), {}, [index](Presence& presence) {
      if (index < static_cast<int>(presence.size())) presence.erase(presence.begin() + index);
    });
  });
  line->addStretch(1);
  line->addWidget(remove, 0, Qt::AlignBottom);
  static_cast<QVBoxLayout*>(layout())->addLayout(line);
  fields_.push_back(std::move(fields));
}

void PresenceRows::change(const QString& label, const QString& gesture, const std::function<void(Presence&)>& how) {
  const QString key = gesture.isEmpty() ? QString() : QStringLiteral("presence/%1/%2/%3").arg(layer_).arg(step_).arg(gesture);
  document_.edit(label, key, [&](Scene& scene) {
    if (Presence* presence = Document::presence(scene, layer_, step_)) how(*presence);
  });
}

void PresenceRows::refresh() {
  const Presence* presence = document_.presence(layer_, step_);
  if (!presence || presence->size() != fields_.size()) return;
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    Arc arc = (*presence)[i];
    for (int which = 0; which < 4; ++which) fields_[i][static_cast<std::size_t>(which)]->setValue(part(arc, which));
  }
}

}  // namespace oa::app
