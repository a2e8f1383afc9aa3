// The button at the end of a parameter: a dash at rest, the drawing of its curve and its laps when it moves.
#pragma once

#include <QAbstractButton>

#include "model/document.h"

class QMenu;

namespace oa::app {

class MotionPill : public QAbstractButton {
  Q_OBJECT
 public:
  MotionPill(Document& document, ParamAddress at, QWidget* parent = nullptr);
  [[nodiscard]] QSize sizeHint() const override { return {52, 22}; }
  void setAddress(const ParamAddress& at);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void choose();
  Document& document_;
  ParamAddress at_;
};

/// Offers the motions that can be added to those of a value; disabled where none can.
void fillAddMotionMenu(QMenu* menu, Document& document, const ParamAddress& at);

}  // namespace oa::app
