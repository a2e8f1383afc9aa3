// How the head starts of many are spread: order, over how much of a lap, there and back.
#pragma once

#include <QWidget>

#include "edit/turns.h"

class QCheckBox;
class QComboBox;
class QToolButton;

namespace oa::app {

class NumberField;

class SpreadControls : public QWidget {
  Q_OBJECT
 public:
  /// `places`: what is spread has places in the frame, which it can go by.
  SpreadControls(bool places, QWidget* parent);
  [[nodiscard]] const edit::Spread& spread() const { return spread_; }
  /// The line that they go by has been drawn; an empty one: it was called off.
  void setLine(const std::vector<Point>& line);

 Q_SIGNALS:
  void moved();
  /// A line is to be drawn for them.
  void lineWanted();
  /// They go by something else now.
  void lineDone();
  /// A gesture has ended.
  void released();

 private:
  void show();
  edit::Spread spread_;
  QComboBox* order_;
  NumberField* over_;
  QCheckBox* mirrored_;
  QToolButton* dice_;
  QToolButton* again_;
};

}  // namespace oa::app
