// How a layer arrives before the loop takes it over, and leaves after: when, what is done to it on its way, and values of its own.
#pragma once

#include <set>
#include <vector>

#include "model/document.h"
#include "widgets/own_card.h"
#include "widgets/param_row.h"

namespace oa::app {

class PassageCard : public OwnCard {
  Q_OBJECT
 public:
  PassageCard(Document& document, const Layer& layer, bool folded, QWidget* parent = nullptr);
  /// Those that show values.
  [[nodiscard]] const std::vector<ParamRow*>& rows() const { return rows_; }
  /// "arrives in 0.8 s, leaves in 1 s", or that it is there all along.
  static QString note(const Layer& layer);
  /// The rows of a step that arrives or leaves by itself.
  static QWidget* stepRows(Document& document, Id layer, int step, std::vector<ParamRow*>& rows, QWidget* parent);

 Q_SIGNALS:
  /// Somebody asks for the gallery.
  void passageWanted(bool leaving);

 private:
  void addWay(const Layer& layer, bool leaving);
  void addOwnValues(QVBoxLayout* body, const Layer& layer, bool leaving);
  Document& document_;
  std::vector<ParamRow*> rows_;
};

}  // namespace oa::app
