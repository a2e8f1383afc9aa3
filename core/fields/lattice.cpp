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

Axes axesAbout(const PlaneView& view, Point centre, double degrees, double unitX, double unitY) {
  degrees = std::remainder(degrees, 360.0);
  const double c = degrees == 0 ? 1 : std::cos(degrees * std::numbers::pi / 180);
  const double s = degrees == 0 ? 0 : std::sin(degrees * std::numbers::pi / 180);
  return axesAlong(view, centre, {c / unitX, s / unitX}, {-s / unitY, c / unitY});
}

Axes axesAlong(const PlaneView& view, Point centre, Point u, Point v) {
  const double x = view.planeX(0, 0) - centre.x;
  const double y = view.planeY(0, 0) - centre.y;
  Axes a{};
  a.u0 = u.x * x + u.y * y;
  a.ux = (u.x * view.xx + u.y * view.yx) / view.scale;
  a.uy = (u.x * view.xy + u.y * view.yy) / view.scale;
  a.v0 = v.x * x + v.y * y;
  a.vx = (v.x * view.xx + v.y * view.yx) / view.scale;
  a.vy = (v.x * view.xy + v.y * view.yy) / view.scale;
  // What is turned there and back leaves rounding errors, and paths for what is upright are quicker.
  const double least = 1e-12 * (std::abs(a.ux) + std::abs(a.vy) + std::abs(a.uy) + std::abs(a.vx));
  for (double* small : {&a.ux, &a.uy, &a.vx, &a.vy})
    if (std::abs(*small) < least) *small = 0;
  return a;
}

void setAxes(Ramp& ramp, const Axes& axes) {
  ramp.a0 = axes.u0;
  ramp.ax = axes.ux;
  ramp.ay = axes.uy;
  ramp.b0 = axes.v0;
  ramp.bx = axes.vx;
  ramp.by = axes.vy;
}

Lattice latticeOf(const StepContext& context, double wider) {
  const PlaneView& view = context.view();
  Lattice l;
  // Whole cells fill the frame, counted from the values at rest: a tile's count must not jump while they move.
  const double restHeight = context.baseNumber("cell");
  const double restWidth = std::max(1.0, restHeight * context.baseNumber("stretch") * wider);
  l.periodX = std::max(1, static_cast<int>(std::lround(view.frameWidth / restWidth)));
  l.periodY = std::max(1, static_cast<int>(std::lround(view.frameHeight / restHeight)));
  const double zoom = context.number("cell") / restHeight;
  l.cellWidth = view.frameWidth / l.periodX * zoom * (context.number("stretch") / context.baseNumber("stretch"));
  l.cellHeight = view.frameHeight / l.periodY * zoom;
  const Axes axes = axesAbout(view, {view.frameWidth / 2, view.frameHeight / 2}, context.number("angle"), l.cellWidth, l.cellHeight);
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
