// The points of an outline in the picture: drag them and what pulls at the line, add some, take some away.
#pragma once

#include <QPointF>
#include <optional>

#include "base/affine.h"
#include "edit/outlines.h"
#include "model/document.h"

class QPainter;

namespace oa::app {

class OutlineHandles {
 public:
  explicit OutlineHandles(Document& document) : document_(document) {}
  /// From pixels of the layer's plane to those of the widget, and the frame that is shown.
  void setView(const Affine& toWidget, int frame) {
    toWidget_ = toWidget;
    frame_ = frame;
  }
  /// Whether an outline of the current layer is edited.
  [[nodiscard]] bool shown() const;

  /// True where something was taken hold of.
  bool press(QPointF at);
  /// `free`: nothing snaps, and what pulls on both sides is not in line; `both`: the other side of the upright axis goes along.
  void move(QPointF to, bool free, bool both);
  void release();
  [[nodiscard]] bool dragging() const { return held_.has_value(); }
  /// On the line: a point more; on a point: a corner where it was round, and round where it was a corner. True where it was either.
  bool doubleClick(QPointF at);
  /// Chooses the next point, or the one before; the first where none was.
  void chooseNext(int by);
  /// Takes the chosen point away.
  void removeChosen();
  /// Moves it, by pixels of the outline.
  void nudge(QPointF by);
  void paint(QPainter& p) const;

  /// Where point `index` lies in the widget.
  [[nodiscard]] QPointF placeOf(std::size_t index, edit::OutlinePart part = edit::OutlinePart::Point) const;
  [[nodiscard]] std::size_t count() const { return shown() ? now().points.size() : 0; }

 private:
  struct Held {
    std::size_t index = 0;
    edit::OutlinePart part = edit::OutlinePart::Point;
    QPointF grab;  // from the pointer to its own place
  };
  [[nodiscard]] Outline now() const;
  [[nodiscard]] Moment moment() const;
  [[nodiscard]] Affine map() const;
  [[nodiscard]] QPointF seen(Point p) const;
  [[nodiscard]] std::optional<Held> heldAt(QPointF at) const;
  void give(const QString& label, const std::function<Status(Param&)>& change, bool gesture);
  [[nodiscard]] Point snapped(const Outline& outline, std::size_t index, Point p) const;

  Document& document_;
  Affine toWidget_;
  int frame_ = 0;
  std::optional<Held> held_;
  std::optional<std::size_t> chosen_;
  Outline before_;  // as it was when the drag began
};

}  // namespace oa::app
