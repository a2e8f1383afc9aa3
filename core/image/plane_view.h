// Which pixels of a layer's plane are wanted.
#pragma once

#include "base/affine.h"
#include "image/rows.h"

namespace oa {

/// A picture of `width` x `height` pixels somewhere on a plane: as fine, turned and moved as the view says. The plane goes on
/// without an end in all directions; lengths on it are pixels of the scene. The frame is the rectangle from (0, 0) to (frameWidth,
/// frameHeight) on the plane: what shares of the frame are counted in, and what whole cells and tiles fill.
struct PlaneView {
  int width = 1;
  int height = 1;
  double scale = 1;  ///< pixels of this view for one of the plane, by area
  double left = 0;   ///< where on the plane the upper left corner of pixel (0, 0) lies
  double top = 0;
  double frameWidth = 1;
  double frameHeight = 1;
  // One step along a row of pixels goes by (xx, yx) / scale on the plane, one down a column by (xy, yy) / scale. The
  // determinant of the four is 1, or -1 where the view shows the plane from behind.
  double xx = 1, xy = 0;
  double yx = 0, yy = 1;

  /// Where on the plane the centre of a pixel lies.
  [[nodiscard]] double planeX(double px, double py) const { return left + ((px + 0.5) * xx + (py + 0.5) * xy) / scale; }
  [[nodiscard]] double planeY(double px, double py) const { return top + ((px + 0.5) * yx + (py + 0.5) * yy) / scale; }
  [[nodiscard]] Point place(double px, double py) const { return {planeX(px, py), planeY(px, py)}; }
  /// The pixel whose centre lies at a place of the plane, with its fraction.
  [[nodiscard]] Point pixel(Point place) const;

  /// Neither turned nor sheared, flipped nor stretched.
  [[nodiscard]] bool upright() const { return xx == 1 && yy == 1 && xy == 0 && yx == 0; }
  /// Shows exactly the frame.
  [[nodiscard]] bool isFrame() const;

  /// The same pixels, and so many more on each side.
  [[nodiscard]] PlaneView grown(int leftward, int upward, int rightward, int downward) const;
  [[nodiscard]] PlaneView grown(int by) const { return grown(by, by, by, by); }
  /// `w` x `h` of the pixels, from pixel (x, y), which may lie outside.
  [[nodiscard]] PlaneView part(int x, int y, int w, int h) const;
  /// The same pixels as places of another plane, which `place` lays on this one.
  [[nodiscard]] PlaneView through(const Affine& place, double ownWidth, double ownHeight) const;
  /// An upright view of the same fineness that covers all this one shows, and `by` pixels more on each side; its pixels lie where
  /// those of the frame do.
  [[nodiscard]] PlaneView uprightAround(int by) const;

  /// The same with pixels `times` as wide, which its sides are made of without a rest.
  [[nodiscard]] PlaneView thinned(int times) const;
  /// The same directions with pixels `times` as wide, 2 of them more on each side. Upright ones lie where they would lie for any
  /// part of the plane.
  [[nodiscard]] PlaneView coarser(double times) const;

  /// A view of `width` x `height` that covers a scene's frame about its centre: the scene is cut, never distorted, where the
  /// proportions differ.
  static PlaneView cover(int sceneWidth, int sceneHeight, int width, int height);
  bool operator==(const PlaneView&) const = default;
};

/// The pixels of a view that a rectangle of the plane touches.
PixelBox pixelsOf(const PlaneView& view, double left, double top, double right, double bottom);
/// The same where `place` takes places of the plane to pixels, whose centres are at whole numbers.
PixelBox pixelsOf(const Affine& place, double left, double top, double right, double bottom);

/// The piece of a source that repeats without an edge, in pixels of the scene, turned by `degrees`.
struct TileSize {
  double width = 0;
  double height = 0;
  double degrees = 0;
};

}  // namespace oa
