// Handles in the picture for where a layer lies: move, size, turn, anchor.
#pragma once

#include <QPointF>
#include <QPolygonF>
#include <functional>
#include <vector>

#include "model/document.h"
#include "scene/extent.h"

class QPainter;

namespace oa::app {

class PlaceHandles {
 public:
  enum class Part { None, Move, Corner, Side, Turn, Anchor };
  struct Hit {
    Part part = Part::None;
    int which = 0;  ///< of four corners or sides, clockwise from the upper left or from above
    bool operator==(const Hit&) const = default;
  };

  /// `toWidget` brings places of the scene to the widget's pixels, by a scale and a shift.
  explicit PlaceHandles(Document& document) : document_(document) {}
  void setView(QPointF origin, double zoom) {
    origin_ = origin;
    zoom_ = zoom;
  }
  void setFrame(int frame) { frame_ = frame; }
  /// Shown whatever the layer is; else only for one that ends somewhere, or that was placed.
  void setAlways(bool always) { always_ = always; }
  [[nodiscard]] bool shown() const;

  [[nodiscard]] Hit hitAt(QPointF at) const;
  void press(const Hit& hit, QPointF at);
  /// `free`: no snapping; `other`: sizes across and down each for itself, turns in steps.
  void move(QPointF to, bool free, bool other);
  void release();
  [[nodiscard]] bool dragging() const { return hit_.part != Part::None; }
  /// Moves the selected layers by pixels of the scene.
  void nudge(QPointF by);
  void paint(QPainter& p) const;

  /// The corners of what the layer shows, clockwise from its upper left, in pixels of the widget.
  [[nodiscard]] QPolygonF corners() const;
  [[nodiscard]] QPointF placeOf(const Hit& hit) const;

 private:
  struct State;
  [[nodiscard]] QPointF toWidget(Point scene) const { return origin_ + QPointF(scene.x, scene.y) * zoom_; }
  [[nodiscard]] Point fromWidget(QPointF at) const { return {(at.x() - origin_.x()) / zoom_, (at.y() - origin_.y()) / zoom_}; }
  bool linked_ = true;  // width and height belong together
  void moveBy(Point by, bool free);
  void sizeTo(Point group, bool other);
  void turnTo(Point group, bool free, bool other);
  void anchorTo(Point group);
  void give(const QString& label, const std::function<void(Layer&)>& change);

  Document& document_;
  QPointF origin_;
  double zoom_ = 1;
  int frame_ = 0;
  bool always_ = false;
  Hit hit_;
  // As it was when the drag began.
  Scene held_;
  Ids moved_;
  Point press_;       // in the group's plane
  Affine toGroup_;    // of the layer
  Affine fromScene_;  // to the group's plane
  Point ownFrame_;
  Point outerFrame_;
  Box box_;  // of what it shows, on its own plane
  PlaceAt place_;
  std::vector<double> linesX_;  // what a move snaps to, in the group's plane
  std::vector<double> linesY_;
  mutable std::vector<std::pair<Point, Point>> guides_;  // of the scene
};

}  // namespace oa::app
