// A button that shows a colour, over checks where it is transparent.
#pragma once

#include <QAbstractButton>

#include "base/geometry.h"

namespace oa::app {

class Swatch : public QAbstractButton {
  Q_OBJECT
 public:
  explicit Swatch(QWidget* parent = nullptr);
  void setColour(const Colour& colour);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  Colour colour_;
};

}  // namespace oa::app
