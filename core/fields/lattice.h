// A lattice of cells laid over the frame so that whole cells fill it: what noise and cells stand on.
#pragma once

#include "image/rows.h"
#include "params/step_context.h"
#include "simd/ramps.h"

namespace oa {

/// Pixel (X, Y) lies at u = u0 + ux X + uy Y, v = v0 + vx X + vy Y, in cells. The tile is periodX x periodY cells.
struct Lattice {
  double u0 = 0, ux = 0, uy = 0;
  double v0 = 0, vx = 0, vy = 0;
  int periodX = 1;
  int periodY = 1;
  double cellWidth = 1;  ///< in pixels of the scene
  double cellHeight = 1;

  /// The same lattice over samples that lie `stepX` and `stepY` pixels apart.
  [[nodiscard]] Lattice sampled(double stepX, double stepY) const;
};

/// Pixels as a turned system of axes about a place of the scene: pixel (X, Y) lies at u0 + ux X + uy Y along the first and
/// v0 + vx X + vy Y along the second, counted in units of `unitX` and `unitY` pixels of the scene.
struct Axes {
  double u0, ux, uy;
  double v0, vx, vy;
};
Axes axesAbout(const PlaneView& view, Point centre, double degrees, double unitX, double unitY);
/// The same along directions of the plane: a step by d goes by u.x d.x + u.y d.y along the first axis, and so on.
Axes axesAlong(const PlaneView& view, Point centre, Point u, Point v);

/// Gives a ramp the first of them for its own axis.
void setAxes(Ramp& ramp, const Axes& axes);

/// From the parameters of fields/field_params.h: cell, stretch, angle and travel. `wider` stretches once more.
Lattice latticeOf(const StepContext& context, double wider = 1);

/// The tile of latticeOf() in pixels of the scene.
TileSize latticeTile(const StepContext& context);

}  // namespace oa
