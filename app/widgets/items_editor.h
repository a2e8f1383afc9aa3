// The items of a step on its card: which is chosen, or all of them; adding and removing; and the rows of the chosen one.
#pragma once

#include <QWidget>
#include <vector>

#include "widgets/param_row.h"

class QLabel;
class QToolButton;

namespace oa::app {

class ItemPicker;
class StopsEditor;

class ItemsEditor : public QWidget {
  Q_OBJECT
 public:
  /// For step `step` of layer `layer`, or for the source of its mask.
  ItemsEditor(Document& document, Id layer, int step, QWidget* parent = nullptr);
  [[nodiscard]] const std::vector<ParamRow*>& rows() const { return rows_; }
  /// The item whose rows are shown, or ParamAddress::kAllItems.
  [[nodiscard]] Id item() const { return item_; }
  void choose(Id item);
  void refresh();

 Q_SIGNALS:
  void chosen(oa::Id item);

 private:
  void add();
  void remove();
  void paintColours();
  [[nodiscard]] const RecipeStep* shownStep() const;

  Document& document_;
  Id layer_;
  int step_;
  const StepSpec* spec_;
  QLabel* which_;
  QToolButton* all_;
  QToolButton* remove_;
  ItemPicker* picker_ = nullptr;
  StopsEditor* stops_ = nullptr;
  std::vector<ParamRow*> rows_;
  Id item_ = 0;
  int index_ = 0;  // of the chosen item, for when it is taken away
};

}  // namespace oa::app
