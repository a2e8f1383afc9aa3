// A tone curve in a small square: points are dragged, added by a click, removed by dragging off or Delete. Straight ones are a
// thin strip until they are clicked or get the focus.
#pragma once

#include <QWidget>

#include "base/geometry.h"

namespace oa::app {

class ToneCurveEditor : public QWidget {
  Q_OBJECT
 public:
  explicit ToneCurveEditor(const QString& title, QWidget* parent = nullptr);
  void setCurve(const Curve& curve);
  [[nodiscard]] const Curve& curve() const { return curve_; }
  [[nodiscard]] QSize sizeHint() const override { return {220, height()}; }
  [[nodiscard]] bool isOpen() const { return open_; }
  /// Where a point is drawn.
  [[nodiscard]] QPointF place(const Point& point) const;

 Q_SIGNALS:
  void moved(const oa::Curve& curve);
  void released();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;

 private:
  void setOpen(bool open);
  [[nodiscard]] QRectF square() const;
  void movePoint(int index, Point to);
  void removePoint(int index);
  QString title_;
  Curve curve_;
  int chosen_ = 0;
  bool dragging_ = false;
  bool open_ = false;
};

}  // namespace oa::app
