// The pace of a lap: ready ones as pictures, a curve with two handles, and the text that CSS has for it.
#pragma once

#include <QFrame>
#include <QPixmap>

#include "loop/pace.h"

class QLabel;
class QLineEdit;
class QToolButton;

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

/// All of it in a pop-up.
class PaceEditor : public QFrame {
  Q_OBJECT
 public:
  explicit PaceEditor(QWidget* parent = nullptr);
  [[nodiscard]] PaceCurve* curve() const { return curve_; }
  void popup(const Pace& pace, const QPoint& globalTopRight);

 Q_SIGNALS:
  void moved(const oa::Pace& pace);
  void released();

 private:
  void take(const Pace& pace);
  void show(const Pace& pace);
  void takeText();
  void rebuildSaved();
  [[nodiscard]] QToolButton* picture(const Pace& pace, const QString& name, QWidget* parent);
  Pace pace_;
  PaceCurve* curve_;
  QLineEdit* css_;
  QLabel* problem_;
  QWidget* saved_;
  QToolButton* save_;
};

/// A pace as a picture so large, in a colour.
QPixmap pacePicture(const Pace& pace, QSize size, const QColor& colour, qreal ratio);

}  // namespace oa::app
