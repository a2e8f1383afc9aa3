// Affine maps of the plane.
#pragma once

#include "base/geometry.h"

namespace oa {

/// (x, y) goes to (xx x + xy y + x0, yx x + yy y + y0).
struct Affine {
  double xx = 1, xy = 0, x0 = 0;
  double yx = 0, yy = 1, y0 = 0;

  [[nodiscard]] Point operator()(Point p) const { return {xx * p.x + xy * p.y + x0, yx * p.x + yy * p.y + y0}; }
  /// The map of directions: without the shift.
  [[nodiscard]] Point direction(Point p) const { return {xx * p.x + xy * p.y, yx * p.x + yy * p.y}; }
  /// How areas grow; negative where left and right are exchanged.
  [[nodiscard]] double determinant() const { return xx * yy - xy * yx; }
  /// First this map, then `next`.
  [[nodiscard]] Affine then(const Affine& next) const {
    return {next.xx * xx + next.xy * yx, next.xx * xy + next.xy * yy, next.xx * x0 + next.xy * y0 + next.x0,
            next.yx * xx + next.yy * yx, next.yx * xy + next.yy * yy, next.yx * x0 + next.yy * y0 + next.y0};
  }
  /// The way back; the determinant must not be 0.
  [[nodiscard]] Affine inverse() const {
    const double d = determinant();
    return {yy / d, -xy / d, (xy * y0 - yy * x0) / d, -yx / d, xx / d, (yx * x0 - xx * y0) / d};
  }
  bool operator==(const Affine&) const = default;
};

}  // namespace oa
