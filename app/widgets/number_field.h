// A number with its unit: typed, stepped by arrow keys, scrubbed by dragging, reset by a double click.
#pragma once

#include <QLineEdit>

#include "params/spec.h"

namespace oa::app {

/// As wide as the longest value of its range needs. What cannot be read stays there, marked, with a sentence below it, until it
/// is mended, Escape is pressed, or the value changes elsewhere.
class NumberField : public QLineEdit {
  Q_OBJECT
 public:
  explicit NumberField(const ParamSpec& spec, QWidget* parent = nullptr);
  /// One that takes the room that there is, named, with the words of its table for readers and as its help.
  static NumberField* wide(const ParamSpec& spec, const QString& name, QWidget* parent);
  [[nodiscard]] double value() const { return value_; }
  void setValue(double value);  ///< does not emit
  /// Why what stands here cannot be read; empty if it can.
  [[nodiscard]] QString problem() const { return problem_; }
  /// Whether something is half typed.
  [[nodiscard]] bool typing() const { return isModified(); }

 Q_SIGNALS:
  void moved(double value);
  void released();

 protected:
  bool event(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;

 private:
  void show(bool withUnit);
  bool commit();
  void change(double value);
  void mark(const QString& problem);
  [[nodiscard]] QString labelOf(double value, bool withUnit) const;
  const ParamSpec& spec_;
  double value_ = 0;
  double pressX_ = 0;
  double pressValue_ = 0;
  bool scrubbing_ = false;
  QString problem_;
  QString help_;
};

}  // namespace oa::app
