#include "widgets/presence_card.h"

#include <QPushButton>
#include <QVBoxLayout>

#include "widgets/hold_row.h"
#include "widgets/presence_rows.h"

namespace oa::app {
namespace {

QString note(const Layer& layer) {
  const QString words = PresenceRows::note(layer.presence);
  return layer.hold == 1 ? words : words + PresenceCard::tr(", held for %1").arg(layer.hold);
}

}  // namespace

PresenceCard::PresenceCard(Document& document, const Layer& layer, bool folded, QWidget* parent)
    : OwnCard(tr("Presence"), note(layer), folded, parent) {
  setObjectName(QStringLiteral("presenceCard"));
  auto* add = new QPushButton(tr("Add part"), this);
  add->setObjectName(QStringLiteral("link"));
  add->setToolTip(tr("A part of the loop in which the layer is there; without any it always is. Its ends are dragged on the dial too"));
  connect(add, &QPushButton::clicked, this, [&document, id = layer.id] { PresenceRows::addPart(document, id, 0); });
  addTool(add);
  body()->addWidget(new PresenceRows(document, layer.id, 0, this));
  body()->addWidget(new HoldRow(document, layer.id, this));
}

}  // namespace oa::app
