// On the card of a step that makes ends meet: how visible the joint was and is, and the button that writes the picture down.
#pragma once

#include <QTimer>
#include <QWidget>

#include "check/seam.h"
#include "model/document.h"

class QLabel;
class QPushButton;

namespace oa::app {

class SeamRow : public QWidget {
  Q_OBJECT
 public:
  SeamRow(Document& document, Id layer, int step, QWidget* parent = nullptr);

 private:
  void refresh();
  void measure();
  void save();
  void say(const QString& words, bool bad);
  [[nodiscard]] const RecipeStep* step() const;

  Document& document_;
  Id layer_;
  int at_;
  QLabel* state_;
  QPushButton* save_;
  QTimer soon_;
  std::vector<RecipeStep> measured_;  // the recipe that it is about
  bool measuring_ = false;
  bool saved_ = false;  // what was said of saving stays until the recipe changes
};

}  // namespace oa::app
