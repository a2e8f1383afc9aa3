// Several layers at distances of their own, that travel by them.
#pragma once

#include "edit/depth.h"
#include "model/document.h"
#include "sheets/sheet.h"

class QComboBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace oa::app {

class NumberField;
class Swatch;
class ValueSlider;

class DepthSheet : public Sheet {
  Q_OBJECT
 public:
  DepthSheet(Document& document, QWidget* parent);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  struct Row {
    Id layer = 0;
    QLabel* name = nullptr;
    ValueSlider* slider = nullptr;
    NumberField* field = nullptr;
    QLabel* says = nullptr;
  };
  /// The layers that it is about: those that are selected, or else those that have a distance.
  [[nodiscard]] Ids chosen() const;
  void takeUp();
  void refresh();
  void tell();
  /// Does what stands here; changes of one kind that follow each other are one step of undo.
  void apply(const QString& gesture);
  void lengthen();

  Document& document_;
  QLabel* hint_;
  QWidget* list_;
  QVBoxLayout* lines_;
  std::vector<Row> rows_;
  NumberField* seconds_;
  QComboBox* way_;
  ValueSlider* haze_;
  NumberField* hazeField_;
  Swatch* colour_;
  QPushButton* apply_;
  QLabel* note_;
  QPushButton* longer_;
  edit::Depth depth_;
  bool applying_ = false;
};

}  // namespace oa::app
