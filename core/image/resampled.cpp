#include "image/resampled.h"

#include <cmath>

#include "image/cropped.h"
#include "image/sampling.h"

namespace oa {
namespace {

class Resampled final : public SpanMaker {
 public:
  Resampled(Plane plane, bool opaque, const Affine& to, int width) : SpanMaker(width), plane_(std::move(plane)), opaque_(opaque), to_(to) {}
  [[nodiscard]] int channels() const override { return plane_.channels(); }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  void span(int y, int x0, int n, float* out) const override {
    alignas(64) float px[kSpanStep];
    alignas(64) float py[kSpanStep];
    const Point at = to_({static_cast<double>(x0), static_cast<double>(y)});
    for (int i = 0; i < n; ++i) {
      px[i] = static_cast<float>(at.x + to_.xx * i);
      py[i] = static_cast<float>(at.y + to_.yx * i);
    }
    samplePlaneCubic(plane_, Edge::Clamp, px, py, n, out);
  }

 private:
  Plane plane_;
  bool opaque_;
  Affine to_;  // from the pixels wanted to those there are
};

}  // namespace

std::shared_ptr<const RowMaker> resampled(const std::shared_ptr<const RowMaker>& rows, const PlaneView& have, const PlaneView& wanted) {
  const Point origin = have.pixel(wanted.place(0, 0));
  const Point right = have.pixel(wanted.place(1, 0));
  const Point below = have.pixel(wanted.place(0, 1));
  const Affine to{right.x - origin.x, below.x - origin.x, origin.x, right.y - origin.y, below.y - origin.y, origin.y};
  // Moved by whole pixels: nothing is lost.
  constexpr double kWhole = 1e-6;
  const bool whole = std::abs(to.xx - 1) < kWhole && std::abs(to.yy - 1) < kWhole && std::abs(to.xy) < kWhole && std::abs(to.yx) < kWhole &&
                     std::abs(to.x0 - std::round(to.x0)) < 1e-3 && std::abs(to.y0 - std::round(to.y0)) < 1e-3;
  const auto x = static_cast<int>(std::round(to.x0));
  const auto y = static_cast<int>(std::round(to.y0));
  if (whole && x >= 0 && y >= 0 && x + wanted.width <= have.width && y + wanted.height <= have.height)
    return cropped(rows, x, y, wanted.width);
  return std::make_shared<Resampled>(wholePlane(*rows, have.width, have.height), rows->opaque(), to, wanted.width);
}

}  // namespace oa
