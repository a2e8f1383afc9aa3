// The chosen motion's curve, unrolled: the loop between two joint lines, and what came before and comes after.
#pragma once

#include <QWidget>
#include <optional>

#include "model/document.h"
#include "model/player.h"

class QComboBox;
class QHBoxLayout;

namespace oa::app {

/// The drawing itself: the bead at the far end sets how far a swing goes, dragging sideways its head start.
class CurveCanvas : public QWidget {
  Q_OBJECT
 public:
  CurveCanvas(Document& document, Player& player, QWidget* parent = nullptr);
  void setMotion(std::optional<ParamAddress> at);
  [[nodiscard]] QRectF loopRect() const;
  /// The bead at the far end of a swing's first lap, if there is one.
  [[nodiscard]] std::optional<QPointF> bead() const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent*) override;

 private:
  Document& document_;
  Player& player_;
  std::optional<ParamAddress> at_;
  Param pressed_;
  QPointF press_;
  bool onBead_ = false;
  bool dragging_ = false;
};

class CurveView : public QWidget {
  Q_OBJECT
 public:
  CurveView(Document& document, Player& player, QWidget* parent = nullptr);
  void setMotion(std::optional<ParamAddress> at);
  [[nodiscard]] CurveCanvas* canvas() const { return canvas_; }

 protected:
  void resizeEvent(QResizeEvent*) override;

 private:
  void refresh();
  void change(const std::function<void(Motion&)>& edit, bool gesture);
  Document& document_;
  std::optional<ParamAddress> at_;
  CurveCanvas* canvas_;
  QWidget* tools_;
  QHBoxLayout* firstRow_;
  QHBoxLayout* secondRow_;
  class NumberField* laps_;
  class NumberField* start_;
  class FarEnd* far_;
  class PaceEditor* paceEditor_;
  QComboBox* pace_;
  QComboBox* shape_;
};

}  // namespace oa::app
