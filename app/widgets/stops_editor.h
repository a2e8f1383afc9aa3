// A run of colours: handles are dragged along it, added by a double click, removed by dragging off or Delete.
#pragma once

#include <QWidget>

#include "image/colour.h"
#include "model/document.h"
#include "widgets/ask_colour.h"

class QPainter;

namespace oa::app {

class StopsEditor : public QWidget {
  Q_OBJECT
 public:
  /// For step `step` of layer `layer`, or for the source of its mask: its items are stops.
  StopsEditor(Document& document, Id layer, int step, QWidget* parent = nullptr);
  /// Marks a stop, or all of them (ParamAddress::kAllItems).
  void setItem(Id item);
  [[nodiscard]] Stops stops() const;
  [[nodiscard]] QSize sizeHint() const override { return {200, 40}; }
  [[nodiscard]] double handleX(std::size_t index) const;
  /// Adds a stop halfway from one to the next on its right, of the colour that is there. Its index, or -1.
  int addBehind(int index);

 Q_SIGNALS:
  void chosen(oa::Id item);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  [[nodiscard]] const RecipeStep* shownStep() const;
  [[nodiscard]] std::span<const Item> items() const;
  [[nodiscard]] int handleAt(QPointF place) const;
  [[nodiscard]] int chosenIndex() const;
  [[nodiscard]] double shareAt(double x) const;
  int addAt(double share);
  void choose(int index);
  void moveStop(int index, double share);
  void pickColour(int index);
  void removeStop(int index);

  Document& document_;
  Id layer_;
  int step_;
  const StepSpec* spec_;
  Id item_ = 0;
  bool dragging_ = false;
};

/// The checks that show through where a colour is transparent.
void paintChecks(QPainter& painter, const QRectF& area);

}  // namespace oa::app
