#include "shapes/area_cover.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>

namespace oa {
namespace {

// What rounding leaves of edges that cancel each other out.
constexpr double kNothing = 1e-6;

// A piece of an edge within the row, from left to right or straight down: `height` is its share of the row, with the direction.
void addPiece(double x0, double x1, double height, int width, float* sums) {
  if (height == 0) return;
  if (x0 > x1) std::swap(x0, x1);
  if (x0 >= width) return;
  if (x1 <= 0) {
    sums[0] += static_cast<float>(height);
    return;
  }
  // What lies left of the picture lets all of the row in.
  if (x0 < 0) {
    const double part = height * (0 - x0) / (x1 - x0);
    sums[0] += static_cast<float>(part);
    height -= part;
    x0 = 0;
  }
  if (x1 > width) {
    height *= (width - x0) / (x1 - x0);
    x1 = width;
  }
  const int first = std::min(static_cast<int>(x0), width - 1);
  const int last = std::min(static_cast<int>(std::ceil(x1)) - 1, width - 1);
  if (last <= first) {
    // Within one pixel: what is right of its middle on average is in it, the rest in the next ones.
    const double share = 1 - ((x0 + x1) / 2 - first);
    sums[first] += static_cast<float>(height * share);
    sums[first + 1] += static_cast<float>(height * (1 - share));
    return;
  }
  const double perPixel = height / (x1 - x0);
  for (int x = first; x <= last; ++x) {
    const double a = std::max(x0, static_cast<double>(x));
    const double b = std::min(x1, static_cast<double>(x + 1));
    const double h = perPixel * (b - a);
    const double share = 1 - ((a + b) / 2 - x);
    sums[x] += static_cast<float>(h * share);
    sums[x + 1] += static_cast<float>(h * (1 - share));
  }
}

}  // namespace

// The row as pixels whose corners are whole numbers.
RowCover::RowCover(int y, int left, int width, float* sums) : left_(left), width_(width), top_(y - 0.5), bottom_(y + 0.5), sums_(sums) {}

void RowCover::add(const AreaEdge& edge) {
  Point a = edge.from;
  Point b = edge.to;
  const double way = a.y <= b.y ? 1 : -1;
  if (way < 0) std::swap(a, b);
  const double from = std::max(a.y, top_);
  const double to = std::min(b.y, bottom_);
  if (from >= to) return;
  const double beside = 0.5 - left_;
  if (std::min(a.x, b.x) + beside >= width_) return;
  if (!any_) std::fill_n(sums_, static_cast<std::size_t>(width_) + 2, 0.0F);
  any_ = true;
  const double slope = (b.x - a.x) / (b.y - a.y);
  addPiece(a.x + (from - a.y) * slope + beside, a.x + (to - a.y) * slope + beside, way * (to - from), width_, sums_);
}

bool RowCover::finish() {
  if (!any_) return false;
  double sum = 0;
  float share = 0;
  for (int x = 0; x < width_;) {
    // Where no edge runs all pixels are as the one before: several at once are looked at as bits.
    constexpr int kTogether = 8;
    if (x + kTogether <= width_) {
      std::array<std::uint64_t, kTogether / 2> bits;
      std::memcpy(bits.data(), sums_ + x, sizeof bits);
      if ((bits[0] | bits[1] | bits[2] | bits[3]) == 0) {
        std::fill_n(sums_ + x, kTogether, share);
        x += kTogether;
        continue;
      }
    }
    for (const int end = std::min(width_, x + kTogether); x < end; ++x) {
      sum += static_cast<double>(sums_[x]);
      sums_[x] = share = static_cast<float>(std::min(1.0, std::abs(sum)));
    }
  }
  return true;
}

void coverRow(const AreaEdge* edges, std::size_t count, int y, int left, int width, float* sums) {
  RowCover cover(y, left, width, sums);
  for (std::size_t i = 0; i < count; ++i) cover.add(edges[i]);
  if (!cover.finish()) std::fill_n(sums, static_cast<std::size_t>(width), 0.0F);
}

void coverBox(const AreaEdge* edges, std::size_t count, int left, int top, int width, int height, float* out) {
  const auto stride = static_cast<std::size_t>(width) + 2;
  std::fill_n(out, stride * static_cast<std::size_t>(height), 0.0F);
  for (std::size_t i = 0; i < count; ++i) {
    // About the box, whose pixels have corners that are whole numbers.
    Point a{edges[i].from.x + 0.5 - left, edges[i].from.y + 0.5 - top};
    Point b{edges[i].to.x + 0.5 - left, edges[i].to.y + 0.5 - top};
    const double way = a.y <= b.y ? 1 : -1;
    if (way < 0) std::swap(a, b);
    if (b.y <= 0 || a.y >= height || std::min(a.x, b.x) >= width || a.y == b.y) continue;
    const double slope = (b.x - a.x) / (b.y - a.y);
    double from = std::max(a.y, 0.0);
    const double end = std::min(b.y, static_cast<double>(height));
    double x = a.x + (from - a.y) * slope;
    for (int row = static_cast<int>(from); from < end; ++row) {
      const double to = std::min(end, static_cast<double>(row + 1));
      const double next = to == b.y ? b.x : a.x + (to - a.y) * slope;
      addPiece(x, next, way * (to - from), width, out + stride * static_cast<std::size_t>(row));
      x = next;
      from = to;
    }
  }
  // Four rows side by side, for a sum waits for the one before.
  for (int row = 0; row < height; row += 4) {
    const int rows = std::min(4, height - row);
    float* const sums = out + stride * static_cast<std::size_t>(row);
    double sum[4] = {};
    for (std::size_t x = 0; x < static_cast<std::size_t>(width); ++x)
      for (int k = 0; k < rows; ++k) {
        float& here = sums[stride * static_cast<std::size_t>(k) + x];
        sum[k] += static_cast<double>(here);
        const double share = std::min(1.0, std::abs(sum[k]));
        here = share < kNothing ? 0.0F : static_cast<float>(share);
      }
  }
}

}  // namespace oa
