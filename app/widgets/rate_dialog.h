// A speed as people say it, and the whole laps that come nearest to it.
#pragma once

#include <QDialog>

#include "model/document.h"

class QLabel;
class QLineEdit;
class QPushButton;

namespace oa::app {

class RateDialog : public QDialog {
  Q_OBJECT
 public:
  RateDialog(Document& document, const ParamAddress& at, QWidget* parent = nullptr);

 private:
  void refresh();
  void take(bool changeLoop);
  Document& document_;
  ParamAddress at_;
  QLineEdit* rate_;
  QLabel* says_;
  QPushButton* laps_;
  QPushButton* loop_;
};

}  // namespace oa::app
