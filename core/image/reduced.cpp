#include "image/reduced.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

#include "base/parallel.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/reduced.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"

#ifndef OA_REDUCED_ONCE
#define OA_REDUCED_ONCE
namespace oa {
namespace {

// For each pixel of the smaller one the first that it takes in, and the weights of as many as the widest of them takes in.
struct Taps {
  int count = 1;
  std::vector<int> first;  // may lie outside
  std::vector<float> weights;
  [[nodiscard]] const float* of(int i) const { return weights.data() + static_cast<std::size_t>(i) * static_cast<std::size_t>(count); }
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;
using D4 = hn::FixedTag<float, 4>;

// A row made smaller; `row` begins at pixel `before` to the left of the picture.
void across(const float* row, int before, const Taps& taps, int n, float* out) {
  const D4 d;
  for (int i = 0; i < n; ++i) {
    const float* const in = row + static_cast<std::ptrdiff_t>(taps.first[static_cast<std::size_t>(i)] + before) * 4;
    const float* const w = taps.of(i);
    auto even = hn::Zero(d);
    auto odd = hn::Zero(d);
    int k = 0;
    for (; k + 1 < taps.count; k += 2) {
      even = hn::MulAdd(hn::LoadU(d, in + k * 4), hn::Set(d, w[k]), even);
      odd = hn::MulAdd(hn::LoadU(d, in + k * 4 + 4), hn::Set(d, w[k + 1]), odd);
    }
    if (k < taps.count) even = hn::MulAdd(hn::LoadU(d, in + k * 4), hn::Set(d, w[k]), even);
    hn::StoreU(hn::Add(even, odd), d, out + static_cast<std::ptrdiff_t>(i) * 4);
  }
}

// `count` rows of `n` pixels added up; colours do not go beyond their alpha.
void down(const float* const* rows, const float* weights, int count, int n, float* out) {
  const D4 d;
  for (int i = 0; i < n; ++i) {
    auto sum = hn::Zero(d);
    for (int k = 0; k < count; ++k)
      sum = hn::MulAdd(hn::LoadU(d, rows[k] + static_cast<std::ptrdiff_t>(i) * 4), hn::Set(d, weights[k]), sum);
    hn::StoreU(heldColours(d, sum), d, out + static_cast<std::ptrdiff_t>(i) * 4);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(across);
HWY_EXPORT(down);

namespace {

double cubicKernel(double x) {
  x = std::abs(x);
  if (x < 1) return (1.5 * x - 2.5) * x * x + 1;
  return x < 2 ? ((-0.5 * x + 2.5) * x - 4) * x + 2 : 0;
}

Taps tapsFor(int size, int outSize) {
  const double step = static_cast<double>(size) / outSize;
  Taps taps;
  taps.count = size == outSize ? 1 : static_cast<int>(std::ceil(4 * step)) + 1;
  for (int i = 0; i < outSize; ++i) {
    const double middle = (i + 0.5) * step - 0.5;
    const int first = taps.count == 1 ? i : static_cast<int>(std::ceil(middle - 2 * step));
    double sum = 0;
    for (int k = 0; k < taps.count; ++k) sum += cubicKernel((first + k - middle) / step);
    taps.first.push_back(first);
    for (int k = 0; k < taps.count; ++k) taps.weights.push_back(static_cast<float>(cubicKernel((first + k - middle) / step) / sum));
  }
  return taps;
}

// Rows of the picture made smaller across, each once, while a band needs them.
class BandRows {
 public:
  BandRows(const PictureRow& row, const Taps& taps, int width, int height, int outWidth, EdgePair edges, int held)
      : row_(row), taps_(taps), width_(width), height_(height), outWidth_(outWidth), edges_(edges), held_(held) {
    before_ = std::max(0, -*std::min_element(taps.first.begin(), taps.first.end()));
    after_ = std::max(0, *std::max_element(taps.first.begin(), taps.first.end()) + taps.count - width);
    wide_.resize(static_cast<std::size_t>(before_ + width + after_ + kSpanPadding) * 4);
    made_.resize(static_cast<std::size_t>(held) * static_cast<std::size_t>(outWidth) * 4);
    which_.assign(static_cast<std::size_t>(held), kNone);
  }
  // Row `y`, which may lie outside.
  const float* row(int y) {
    const auto slot = static_cast<std::size_t>(floorMod(y, held_));
    float* const to = made_.data() + slot * static_cast<std::size_t>(outWidth_) * 4;
    if (which_[slot] == y) return to;
    which_[slot] = y;
    const int inside = edgeIndex(edges_.down, y, height_);
    if (inside < 0) {
      std::fill_n(to, static_cast<std::size_t>(outWidth_) * 4, 0.0f);
      return to;
    }
    row_(inside, wide_.data() + static_cast<std::ptrdiff_t>(before_) * 4);
    for (int x = -before_; x < width_ + after_; ++x) {
      if (x == 0) x = width_;
      if (x == width_ + after_) break;
      const int from = edgeIndex(edges_.across, x, width_);
      float* const at = wide_.data() + static_cast<std::ptrdiff_t>(before_ + x) * 4;
      if (from < 0)
        std::fill_n(at, 4, 0.0f);
      else
        std::copy_n(wide_.data() + static_cast<std::ptrdiff_t>(before_ + from) * 4, 4, at);
    }
    HWY_DYNAMIC_DISPATCH(across)(wide_.data(), before_, taps_, outWidth_, to);
    return to;
  }

 private:
  static constexpr int kNone = std::numeric_limits<int>::min();
  const PictureRow& row_;
  const Taps& taps_;
  int width_;
  int height_;
  int outWidth_;
  EdgePair edges_;
  int held_;
  int before_ = 0;
  int after_ = 0;
  std::vector<float> wide_;
  std::vector<float> made_;
  std::vector<int> which_;
};

}  // namespace

void surround(Plane& plane, int width, int height, EdgePair edges, int border) {
  const auto pixel = [&](int x, int y) { return plane.row(y + border) + static_cast<std::ptrdiff_t>(x + border) * 4; };
  for (int y = 0; y < height; ++y)
    for (int x = -border; x < width + border; ++x) {
      if (x == 0) x = width;
      if (x == width + border) break;
      const int from = edgeIndex(edges.across, x, width);
      if (from < 0)
        std::fill_n(pixel(x, y), 4, 0.0f);
      else
        std::copy_n(pixel(from, y), 4, pixel(x, y));
    }
  for (int y = -border; y < height + border; ++y) {
    if (y == 0) y = height;
    if (y == height + border) break;
    const int from = edgeIndex(edges.down, y, height);
    if (from < 0)
      std::fill_n(pixel(-border, y), static_cast<std::size_t>(width + 2 * border) * 4, 0.0f);
    else
      std::copy_n(pixel(-border, from), static_cast<std::size_t>(width + 2 * border) * 4, pixel(-border, y));
  }
}

Plane reducedPicture(const PictureRow& row, int width, int height, int outWidth, int outHeight, EdgePair edges, int border) {
  Plane plane(outWidth + 2 * border, outHeight + 2 * border, 4);
  if (width == outWidth && height == outHeight) {
    parallelBands(height, [&](int y0, int y1) {
      for (int y = y0; y < y1; ++y) row(y, plane.row(y + border) + static_cast<std::ptrdiff_t>(border) * 4);
    });
    surround(plane, width, height, edges, border);
    return plane;
  }
  const Taps columns = tapsFor(width, outWidth);
  const Taps lines = tapsFor(height, outHeight);
  parallelBands(
      outHeight,
      [&](int y0, int y1) {
        BandRows rows(row, columns, width, height, outWidth, edges, lines.count + 1);
        std::vector<const float*> from(static_cast<std::size_t>(lines.count));
        for (int y = y0; y < y1; ++y) {
          for (int k = 0; k < lines.count; ++k) from[static_cast<std::size_t>(k)] = rows.row(lines.first[static_cast<std::size_t>(y)] + k);
          HWY_DYNAMIC_DISPATCH(down)
          (from.data(), lines.of(y), lines.count, outWidth, plane.row(y + border) + static_cast<std::ptrdiff_t>(border) * 4);
        }
      },
      64);
  surround(plane, outWidth, outHeight, edges, border);
  return plane;
}

}  // namespace oa
#endif
