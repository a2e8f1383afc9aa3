// A number with its unit: typed, stepped by arrow keys, scrubbed by dragging, reset by a double click.
#pragma once

#include <QLineEdit>

#include "params/spec.h"

namespace oa::app {

class NumberField : public QLineEdit {
  Q_OBJECT
 public:
  explicit NumberField(const ParamSpec& spec, QWidget* parent = nullptr);
  [[nodiscard]] double value() const { return value_; }
  void setValue(double value);  ///< does not emit

 Q_SIGNALS:
  void moved(double value);
  void released();

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;

 private:
  void show(bool withUnit);
  void commit();
  void change(double value);
  const ParamSpec& spec_;
  double value_ = 0;
  double pressX_ = 0;
  double pressValue_ = 0;
  bool scrubbing_ = false;
};

}  // namespace oa::app
