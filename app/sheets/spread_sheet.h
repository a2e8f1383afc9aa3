// Selected layers spread in time: each does what it does a little later than the one before.
#pragma once

#include "edit/spread_parts.h"
#include "model/document.h"
#include "model/drawn_line.h"
#include "sheets/sheet.h"

class QLabel;
class QPushButton;

namespace oa::app {

class DelayRing;
class SpreadControls;

class SpreadSheet : public Sheet {
  Q_OBJECT
 public:
  SpreadSheet(Document& document, DrawnLine& line, QWidget* parent);

 protected:
  void showEvent(QShowEvent*) override { refresh(); }
  void hideEvent(QHideEvent*) override { line_.clear(); }

 private:
  void apply();
  /// What the one layer that is selected consists of.
  [[nodiscard]] edit::Parts parts() const;
  void refresh();
  Document& document_;
  DrawnLine& line_;
  QLabel* says_;
  SpreadControls* controls_;
  DelayRing* ring_;
  QPushButton* use_;
  Ids spread_;  // the layers that were spread last: what is changed goes to them at once
};

}  // namespace oa::app
