#include "fields/specks.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "simd/speckle.h"

namespace oa {
namespace {

// Pixels whose centre lies upon an edge belong to the speck after it, whatever rounding says.
constexpr double kEdge = 1e-7;

std::uint32_t indexOf(double place, int count) {
  return static_cast<std::uint32_t>(floorMod(static_cast<std::int64_t>(std::floor(place + kEdge)), count));
}

}  // namespace

Specks::Specks(const FrameInfo& frame, double size, std::uint32_t still) : still_(still) {
  across_ = std::max(1, static_cast<int>(std::lround(frame.sceneWidth / size)));
  down_ = std::max(1, static_cast<int>(std::lround(frame.sceneHeight / size)));
  perPixelX_ = across_ / frame.sceneWidth / frame.scale;
  perPixelY_ = down_ / frame.sceneHeight / frame.scale;
  x0_ = frame.sceneX(0) * across_ / frame.sceneWidth;
  y0_ = frame.sceneY(0) * down_ / frame.sceneHeight;
  strength_ = static_cast<float>(std::min(1.0, 1 / std::max(perPixelX_, perPixelY_)));
}

std::uint32_t Specks::column(int x) const { return indexOf(x0_ + perPixelX_ * x, across_); }
std::uint32_t Specks::row(int y) const { return indexOf(y0_ + perPixelY_ * y, down_); }

std::vector<std::uint32_t> Specks::columns(int width) const {
  std::vector<std::uint32_t> list;
  for (int x = 0; x < width + kSpanPadding; ++x) list.push_back(column(x));
  return list;
}

double Specks::tone(int x, int y, std::uint32_t channel) const {
  const float v = speckTone(column(x), row(y), still_ + channelSeed(channel));
  return 0.5 + (static_cast<double>(v) - 0.5) * static_cast<double>(strength_);
}

}  // namespace oa
