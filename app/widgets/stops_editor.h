// A run of colours: handles are dragged along it, added by a double click, removed by dragging off or Delete.
#pragma once

#include <QWidget>
#include <functional>

#include "image/colour.h"
#include "widgets/ask_colour.h"

class QPainter;

namespace oa::app {

class StopsEditor : public QWidget {
  Q_OBJECT
 public:
  /// `palette` says which colours are offered when one is chosen.
  explicit StopsEditor(std::function<std::vector<Colour>()> palette, QWidget* parent = nullptr);
  void setStops(const Stops& stops);
  [[nodiscard]] const Stops& stops() const { return stops_; }
  [[nodiscard]] QSize sizeHint() const override { return {200, 40}; }
  [[nodiscard]] double handleX(std::size_t index) const;

 Q_SIGNALS:
  void moved(const oa::Stops& stops);
  void released();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  [[nodiscard]] int handleAt(QPointF place) const;
  void pickColour(int index);
  void removeStop(int index);
  std::function<std::vector<Colour>()> palette_;
  Stops stops_;
  int chosen_ = 0;
  bool dragging_ = false;
};

/// The checks that show through where a colour is transparent.
void paintChecks(QPainter& painter, const QRectF& area);

}  // namespace oa::app
