#include "image/grow.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "base/parallel.h"

namespace oa {
namespace {

// The larger, or where a field is narrowed the smaller of two.
template <bool kLargest>
float chosen(float a, float b) {
  return kLargest ? std::max(a, b) : std::min(a, b);
}

// The largest (smallest) of every run of `length` pixels from x on, made of two runs of a power of two.
template <bool kLargest>
class Runs {
 public:
  Runs(int width, int reach) : reach_(reach), size_(width + 2 * reach) {
    for (int length = 1; length <= 2 * reach + 1; length *= 2) levels_.emplace_back(static_cast<std::size_t>(size_));
  }
  void set(const float* row, int width) {
    std::vector<float>& first = levels_[0];
    for (int i = 0; i < size_; ++i) first[static_cast<std::size_t>(i)] = row[std::clamp(i - reach_, 0, width - 1)];
    int length = 1;
    for (std::size_t k = 1; k < levels_.size(); ++k, length *= 2) {
      const float* from = levels_[k - 1].data();
      float* to = levels_[k].data();
      for (int i = 0; i + length < size_; ++i) to[i] = chosen<kLargest>(from[i], from[i + length]);
      for (int i = std::max(0, size_ - length); i < size_; ++i) to[i] = from[i];
    }
  }
  // out[x] becomes the larger (smaller) of itself and the largest (smallest) within `half` pixels of x.
  void widen(int half, int width, float* out) const {
    const int length = 2 * half + 1;
    std::size_t level = 0;
    int power = 1;
    while (power * 2 <= length) {
      power *= 2;
      ++level;
    }
    const float* a = levels_[level].data() + reach_ - half;
    const float* b = a + length - power;
    for (int x = 0; x < width; ++x) out[x] = chosen<kLargest>(out[x], chosen<kLargest>(a[x], b[x]));
  }

 private:
  int reach_;
  int size_;
  std::vector<std::vector<float>> levels_;
};

template <bool kLargest>
Plane widened(const Plane& field, int radius) {
  const int width = field.width();
  const int height = field.height();
  Plane out(width, height, 1);
  parallelBands(height, [&](int y0, int y1) {
    Runs<kLargest> runs(width, radius);
    for (int y = y0; y < y1; ++y) std::copy_n(field.row(y), width, out.row(y));
    for (int from = y0 - radius; from < y1 + radius; ++from) {
      runs.set(field.row(std::clamp(from, 0, height - 1)), width);
      for (int y = std::max(y0, from - radius); y < std::min(y1, from + radius + 1); ++y) {
        const double away = y - from;
        runs.widen(static_cast<int>(std::sqrt(static_cast<double>(radius) * radius - away * away)), width, out.row(y));
      }
    }
  });
  return out;
}

template <bool kLargest>
Plane grownBy(const Plane& field, double radius) {
  const int whole = static_cast<int>(std::floor(radius));
  const auto rest = static_cast<float>(radius - whole);
  Plane low = widened<kLargest>(field, whole);
  if (rest < 1e-3f) return low;
  const Plane high = widened<kLargest>(field, whole + 1);
  for (int y = 0; y < low.height(); ++y)
    for (int x = 0; x < low.width(); ++x) low.row(y)[x] += (high.row(y)[x] - low.row(y)[x]) * rest;
  return low;
}

}  // namespace

Plane grown(const Plane& field, double radius) { return radius < 0 ? grownBy<false>(field, -radius) : grownBy<true>(field, radius); }

}  // namespace oa
