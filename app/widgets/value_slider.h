// A slider for a number with a linear or logarithmic range.
#pragma once

#include <QWidget>

#include "params/spec.h"

namespace oa::app {

class ValueSlider : public QWidget {
  Q_OBJECT
 public:
  explicit ValueSlider(const ParamSpec& spec, QWidget* parent = nullptr);
  [[nodiscard]] double value() const { return value_; }
  /// Does not emit.
  void setValue(double value);
  [[nodiscard]] QSize sizeHint() const override { return {84, 24}; }
  /// Where the knob's centre is for a value, in widget coordinates.
  [[nodiscard]] double place(double value) const;

 Q_SIGNALS:
  void moved(double value);  ///< while dragging, or by key
  void released();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  [[nodiscard]] double valueAt(double x) const;
  void change(double value);
  const ParamSpec& spec_;
  double value_ = 0;
};

/// A step of a number by keyboard: Shift ten times, Ctrl a tenth; never less than one for whole numbers.
double keyStep(const ParamSpec& spec, Qt::KeyboardModifiers modifiers);

}  // namespace oa::app
