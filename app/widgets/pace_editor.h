// The pace of a lap as a curve with two handles: the user's own cubic Bézier.
#pragma once

#include <QFrame>

#include "loop/pace.h"

namespace oa::app {

/// The curve alone. Left and bottom are the beginning of the lap; handles may be dragged above and below.
class PaceCurve : public QWidget {
  Q_OBJECT
  Q_PROPERTY(QPointF firstHandle READ firstHandle)
  Q_PROPERTY(QPointF secondHandle READ secondHandle)
 public:
  explicit PaceCurve(QWidget* parent = nullptr);
  void setPace(const Pace& pace);
  [[nodiscard]] QPointF firstHandle() const { return place(0); }
  [[nodiscard]] QPointF secondHandle() const { return place(1); }

 Q_SIGNALS:
  void moved(const oa::Pace& pace);
  void released();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  [[nodiscard]] QRectF box() const;
  [[nodiscard]] QPointF place(int handle) const;
  void moveHandle(double x, double y);
  Pace pace_;
  int handle_ = 0;
  bool dragging_ = false;
};

/// The curve in a pop-up with a line of help.
class PaceEditor : public QFrame {
  Q_OBJECT
 public:
  explicit PaceEditor(QWidget* parent = nullptr);
  [[nodiscard]] PaceCurve* curve() const { return curve_; }
  void popup(const Pace& pace, const QPoint& globalTopRight);

 private:
  PaceCurve* curve_;
};

}  // namespace oa::app
