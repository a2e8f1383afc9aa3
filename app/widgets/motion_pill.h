// The button at the end of a parameter: a dash at rest, the drawing of its curve and its laps when it moves.
#pragma once

#include <QAbstractButton>

#include "model/document.h"

namespace oa::app {

class MotionPill : public QAbstractButton {
  Q_OBJECT
 public:
  MotionPill(Document& document, ParamAddress at, QWidget* parent = nullptr);
  [[nodiscard]] QSize sizeHint() const override { return {52, 22}; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void choose();
  Document& document_;
  ParamAddress at_;
};

}  // namespace oa::app
