// A layer several times over: how many, how they are laid out, and how much later each is.
#pragma once

#include "edit/several.h"
#include "model/document.h"
#include "sheets/sheet.h"

class QComboBox;
class QLabel;
class QPushButton;
class QToolButton;

namespace oa::app {

class FramePlan;
class NumberField;

class SeveralSheet : public Sheet {
  Q_OBJECT
 public:
  SeveralSheet(Document& document, QWidget* parent);

 protected:
  void showEvent(QShowEvent*) override;

 private:
  /// Those that were made here are still the ones that are selected.
  [[nodiscard]] bool made() const { return made_.layers.size() > 1 && made_.layers == document_.selection(); }
  void apply();
  /// Once they are made, what is changed goes to them at once.
  void changed(bool gestureGoesOn);
  void refresh();
  NumberField* field(const ParamSpec& spec, const char* name, double& value);
  Document& document_;
  edit::Several several_;
  double count_ = several_.count;
  bool sized_ = false;    // a size was asked for, so that none is proposed any more
  bool reached_ = false;  // the same of how far they reach
  edit::SeveralMade made_;
  QLabel* says_;
  FramePlan* plan_;
  QComboBox* layout_;
  QToolButton* dice_;
  QWidget* reachLine_;
  QWidget* apartLine_;
  NumberField* reach_;
  NumberField* size_;
  QPushButton* use_;
};

}  // namespace oa::app
