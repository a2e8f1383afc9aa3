// When a layer is there: parts of the loop with soft ends, and for how many frames each picture is held.
#pragma once

#include "model/document.h"
#include "widgets/own_card.h"

namespace oa::app {

class PresenceCard : public OwnCard {
  Q_OBJECT
 public:
  PresenceCard(Document& document, const Layer& layer, bool folded, QWidget* parent = nullptr);
};

}  // namespace oa::app
