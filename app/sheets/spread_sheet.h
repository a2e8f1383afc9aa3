// Selected layers spread in time: each does what it does a little later than the one before.
#pragma once

#include "model/document.h"
#include "sheets/sheet.h"

class QLabel;
class QPushButton;

namespace oa::app {

class DelayRing;
class SpreadControls;

class SpreadSheet : public Sheet {
  Q_OBJECT
 public:
  SpreadSheet(Document& document, QWidget* parent);

 protected:
  void showEvent(QShowEvent*) override { refresh(); }

 private:
  void apply();
  void refresh();
  Document& document_;
  QLabel* says_;
  SpreadControls* controls_;
  DelayRing* ring_;
  QPushButton* use_;
  Ids spread_;  // the layers that were spread last: what is changed goes to them at once
};

}  // namespace oa::app
