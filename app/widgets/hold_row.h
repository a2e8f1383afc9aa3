// For how many frames each picture is held: of the scene or of a layer, with what that comes to and a mend where it does not fit.
#pragma once

#include <QWidget>

#include "model/document.h"

class QLabel;
class QPushButton;

namespace oa::app {

class NumberField;

class HoldRow : public QWidget {
  Q_OBJECT
 public:
  /// Of a layer; 0: of the scene.
  HoldRow(Document& document, Id layer, QWidget* parent = nullptr);

 private:
  [[nodiscard]] int held() const;
  void hold(int frames, bool gesture);
  void refresh();

  Document& document_;
  Id layer_;
  NumberField* field_;
  QLabel* says_;
  QPushButton* mend_;
};

}  // namespace oa::app
