// When a layer is there: parts of the loop with soft ends, and for how many frames each picture is held.
#pragma once

#include "model/document.h"
#include "widgets/own_card.h"

class QLabel;

namespace oa::app {

class NumberField;

class PresenceCard : public OwnCard {
  Q_OBJECT
 public:
  PresenceCard(Document& document, const Layer& layer, bool folded, QWidget* parent = nullptr);

 private:
  void addPart(int index);
  void refresh();
  void change(const QString& label, bool gesture, const std::function<void(Layer&)>& how);

  Document& document_;
  Id layer_;
  std::vector<std::vector<NumberField*>> fields_;  // of each part: from, length, in, out
  NumberField* hold_ = nullptr;
  QLabel* holdSays_ = nullptr;
};

}  // namespace oa::app
