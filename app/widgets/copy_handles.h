// The copies of a repeat in the picture: choose some, and move or leave out just those.
#pragma once

#include <QPointF>
#include <QRectF>
#include <optional>
#include <vector>

#include "base/affine.h"
#include "model/document.h"

class QPainter;

namespace oa::app {

class CopyHandles {
 public:
  explicit CopyHandles(Document& document) : document_(document) {}
  /// From pixels of the layer's plane to those of the widget, and the frame that is shown.
  void setView(const Affine& toWidget, int frame) {
    toWidget_ = toWidget;
    frame_ = frame;
  }
  /// Whether copies of the current layer are chosen in the picture.
  [[nodiscard]] bool shown() const;

  /// On a copy: chooses it, with `more` beside those that are; elsewhere a band is drawn that chooses all within.
  void press(QPointF at, bool more);
  /// `straight`: only across or only down.
  void move(QPointF to, bool straight);
  void release();
  [[nodiscard]] bool dragging() const { return grab_.has_value() || band_.has_value(); }
  /// Chooses the next copy, or the one before, in the order they are drawn in.
  void chooseNext(int by);
  /// Leaves the chosen ones out, or brings them back where all are out.
  void leaveOut();
  /// Moves them, by pixels of the plane.
  void nudge(QPointF by);
  void paint(QPainter& p) const;

  /// Where they lie in the plane, those left out too.
  [[nodiscard]] std::vector<CopyPlace> places() const;
  /// Where a copy lies in the widget.
  [[nodiscard]] QPointF placeOf(const CopyPlace& place) const;

 private:
  [[nodiscard]] const CopyPlace* hitAt(const std::vector<CopyPlace>& places, QPointF at) const;
  [[nodiscard]] bool chosen(std::uint64_t copy) const;
  void moveChosen(Point by);

  Document& document_;
  Affine toWidget_;
  int frame_ = 0;
  std::optional<QPointF> grab_;           // where a drag of copies began
  std::optional<std::uint64_t> clicked_;  // what was pressed on, while nothing was dragged
  std::optional<QRectF> band_;            // from where it began to where it is
  std::vector<std::uint64_t> before_;     // chosen when the band began
  CopyChanges changes_;                   // when the drag began
};

}  // namespace oa::app
