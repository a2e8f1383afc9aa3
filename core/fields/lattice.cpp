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
  const double degrees = std::remainder(context.number("angle"), 360.0);
  const double angle = degrees * std::numbers::pi / 180;
  const double c = degrees == 0 ? 1 : std::cos(angle);
  const double sn = degrees == 0 ? 0 : std::sin(angle);
  const double x = frame.sceneX(0) - frame.sceneWidth / 2;
  const double y = frame.sceneY(0) - frame.sceneHeight / 2;
  const Point travel = context.point("travel");
  const double done = context.progress("travel");
  l.u0 = (c * x + sn * y) / l.cellWidth + l.periodX * (0.5 - travel.x * done);
  l.ux = c / (frame.scale * l.cellWidth);
  l.uy = sn / (frame.scale * l.cellWidth);
  l.v0 = (c * y - sn * x) / l.cellHeight + l.periodY * (0.5 - travel.y * done);
  l.vx = -sn / (frame.scale * l.cellHeight);
  l.vy = c / (frame.scale * l.cellHeight);
  if (degrees == 0) l.uy = l.vx = 0;
  return l;
}

TileSize latticeTile(const StepContext& context) {
  const Lattice l = latticeOf(context);
  return {l.periodX * l.cellWidth, l.periodY * l.cellHeight, std::remainder(context.number("angle"), 360.0)};
}

}  // namespace oa
