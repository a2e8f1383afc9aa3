// What is changed of single copies, as rows of the card: how many there are, and numbers for those that are chosen in the picture.
#pragma once

#include <QWidget>

#include "model/document.h"

class QLabel;
class QPushButton;
class QToolButton;

namespace oa::app {

class NumberField;
class Swatch;

class CopiesEditor : public QWidget {
  Q_OBJECT
 public:
  CopiesEditor(Document& document, ParamAddress at, QWidget* parent = nullptr);
  void refresh();

 private:
  [[nodiscard]] bool active() const { return document_.editedInPicture() == at_; }
  void bringIntoSight();
  [[nodiscard]] CopyChange first() const;
  NumberField* addField(const ParamSpec& spec, const QString& name, double CopyChange::*part, const QString& undo);

  Document& document_;
  ParamAddress at_;
  QLabel* count_;
  QToolButton* choose_;
  QWidget* tools_;
  QLabel* chosen_;
  NumberField* size_;
  NumberField* turn_;
  Swatch* colour_;
  QPushButton* out_;
  QPushButton* reset_;
};

}  // namespace oa::app
