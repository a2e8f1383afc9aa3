#include "image/plane_view.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace oa {
namespace {

// Views of the same pixels that were come by in different ways differ by rounding.
constexpr double kSame = 1e-6;

PixelBox around(const std::array<Point, 4>& corners) {
  Point low{1e9, 1e9};
  Point high{-1e9, -1e9};
  for (const Point p : corners) {
    low = {std::min(low.x, p.x), std::min(low.y, p.y)};
    high = {std::max(high.x, p.x), std::max(high.y, p.y)};
  }
  // Pixels reach half of one round their centres.
  const auto whole = [](double v) { return static_cast<int>(std::clamp(v, -1e8, 1e8)); };
  return {whole(std::floor(low.x)), whole(std::floor(low.y)), whole(std::ceil(high.x)) + 1, whole(std::ceil(high.y)) + 1};
}

}  // namespace

Point PlaneView::pixel(Point place) const {
  // The inverse of a matrix of determinant +-1.
  const double det = xx * yy - xy * yx;
  const double x = (place.x - left) * scale;
  const double y = (place.y - top) * scale;
  return {(yy * x - xy * y) / det - 0.5, (xx * y - yx * x) / det - 0.5};
}

bool PlaneView::isFrame() const {
  return upright() && std::abs(left * scale) < kSame && std::abs(top * scale) < kSame && std::abs(frameWidth * scale - width) < kSame &&
         std::abs(frameHeight * scale - height) < kSame;
}

PlaneView PlaneView::grown(int leftward, int upward, int rightward, int downward) const {
  return part(-leftward, -upward, width + leftward + rightward, height + upward + downward);
}

PlaneView PlaneView::part(int x, int y, int w, int h) const {
  PlaneView v = *this;
  v.left += (x * xx + y * xy) / scale;
  v.top += (x * yx + y * yy) / scale;
  v.width = w;
  v.height = h;
  return v;
}

PlaneView PlaneView::through(const Affine& place, double ownWidth, double ownHeight) const {
  const Affine back = place.inverse();
  const double density = std::sqrt(std::abs(back.determinant()));
  PlaneView v = *this;
  v.frameWidth = ownWidth;
  v.frameHeight = ownHeight;
  const Point corner = back({left, top});
  v.left = corner.x;
  v.top = corner.y;
  v.scale = scale / density;
  const Point along = back.direction({xx, yx});
  const Point down = back.direction({xy, yy});
  v.xx = along.x / density;
  v.yx = along.y / density;
  v.xy = down.x / density;
  v.yy = down.y / density;
  // A turn by nothing, or there and back, leaves rounding errors; what is upright must be known as such.
  if (std::abs(v.xx - 1) < 1e-12 && std::abs(v.yy - 1) < 1e-12 && std::abs(v.xy) < 1e-12 && std::abs(v.yx) < 1e-12) {
    v.xx = v.yy = 1;
    v.xy = v.yx = 0;
  }
  return v;
}

PlaneView PlaneView::uprightAround(int by) const {
  const double w = width / scale;
  const double h = height / scale;
  const double lowX = left + std::min(0.0, w * xx) + std::min(0.0, h * xy);
  const double highX = left + std::max(0.0, w * xx) + std::max(0.0, h * xy);
  const double lowY = top + std::min(0.0, w * yx) + std::min(0.0, h * yy);
  const double highY = top + std::max(0.0, w * yx) + std::max(0.0, h * yy);
  PlaneView v = *this;
  v.xx = v.yy = 1;
  v.xy = v.yx = 0;
  const double x0 = std::floor(lowX * scale) - by;
  const double y0 = std::floor(lowY * scale) - by;
  v.left = x0 / scale;
  v.top = y0 / scale;
  v.width = static_cast<int>(std::ceil(highX * scale) + by - x0);
  v.height = static_cast<int>(std::ceil(highY * scale) + by - y0);
  return v;
}

PlaneView PlaneView::thinned(int times) const {
  PlaneView v = *this;
  v.scale /= times;
  v.width /= times;
  v.height /= times;
  return v;
}

PlaneView PlaneView::coarser(double times) const {
  PlaneView v = *this;
  v.scale = scale / times;
  if (upright()) {
    const auto fit = [&](double& begin, int& size) {
      const double first = std::floor(begin * v.scale + 1e-9) - 2;
      const double last = std::ceil(begin * v.scale + size / times) + 2;
      begin = first / v.scale;
      size = static_cast<int>(last - first);
    };
    fit(v.left, v.width);
    fit(v.top, v.height);
    return v;
  }
  return v.part(0, 0, static_cast<int>(std::ceil(width / times)), static_cast<int>(std::ceil(height / times))).grown(2);
}

PlaneView PlaneView::cover(int sceneWidth, int sceneHeight, int width, int height) {
  PlaneView view;
  view.width = width;
  view.height = height;
  view.frameWidth = sceneWidth;
  view.frameHeight = sceneHeight;
  view.scale = std::max(static_cast<double>(width) / sceneWidth, static_cast<double>(height) / sceneHeight);
  view.left = (sceneWidth - width / view.scale) / 2;
  view.top = (sceneHeight - height / view.scale) / 2;
  return view;
}

PixelBox pixelsOf(const PlaneView& view, double left, double top, double right, double bottom) {
  return around({view.pixel({left, top}), view.pixel({right, top}), view.pixel({right, bottom}), view.pixel({left, bottom})});
}

PixelBox pixelsOf(const Affine& place, double left, double top, double right, double bottom) {
  return around({place({left, top}), place({right, top}), place({right, bottom}), place({left, bottom})});
}

}  // namespace oa
