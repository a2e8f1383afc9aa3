#include "fields/lattice.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace oa {

Lattice Lattice::sampled(double stepX, double stepY) const {
  Lattice l = *this;
  l.ux *= stepX;
  l.vx *= stepX;
  l.uy *= stepY;
  l.vy *= stepY;
  return l;
}

Axes axesAbout(const FrameInfo& frame, Point centre, double degrees, double unitX, double unitY) {
  degrees = std::remainder(degrees, 360.0);
  const double c = degrees == 0 ? 1 : std::cos(degrees * std::numbers::pi / 180);
  const double s = degrees == 0 ? 0 : std::sin(degrees * std::numbers::pi / 180);
  const double x = frame.sceneX(0) - centre.x;
  const double y = frame.sceneY(0) - centre.y;
  return {(c * x + s * y) / unitX,
          c / (frame.scale * unitX),
          s / (frame.scale * unitX),
          (c * y - s * x) / unitY,
          s == 0 ? 0 : -s / (frame.scale * unitY),
          c / (frame.scale * unitY)};
}

Lattice latticeOf(const StepContext& context, double wider) {
  const FrameInfo& frame = context.frame();
  Lattice l;
  // Whole cells fill the frame, counted from the values at rest: a tile's count must not jump while they move.
  const double restHeight = context.baseNumber("cell");
  const double restWidth = std::max(1.0, restHeight * context.baseNumber("stretch") * wider);
  l.periodX = std::max(1, static_cast<int>(std::lround(frame.sceneWidth / restWidth)));
  l.periodY = std::max(1, static_cast<int>(std::lround(frame.sceneHeight / restHeight)));
  const double zoom = context.number("cell") / restHeight;
  l.cellWidth = frame.sceneWidth / l.periodX * zoom * (context.number("stretch") / context.baseNumber("stretch"));
  l.cellHeight = frame.sceneHeight / l.periodY * zoom;
  const Axes axes = axesAbout(frame, {frame.sceneWidth / 2, frame.sceneHeight / 2}, context.number("angle"), l.cellWidth, l.cellHeight);
  const Point travel = context.point("travel");
  const double done = context.progress("travel");
  l.u0 = axes.u0 + l.periodX * (0.5 - travel.x * done);
  l.v0 = axes.v0 + l.periodY * (0.5 - travel.y * done);
  l.ux = axes.ux;
  l.uy = axes.uy;
  l.vx = axes.vx;
  l.vy = axes.vy;
  return l;
}

TileSize latticeTile(const StepContext& context) {
  const Lattice l = latticeOf(context);
  return {l.periodX * l.cellWidth, l.periodY * l.cellHeight, std::remainder(context.number("angle"), 360.0)};
}

}  // namespace oa
