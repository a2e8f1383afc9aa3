#include "image/sparse.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <utility>
#include <vector>

#include "base/pooled_vector.h"
#include "image/blend.h"

namespace oa {
namespace {

class SparseRows final : public RowMaker {
 public:
  SparseRows(Plane picture, bool inOneColour)
      : picture_(std::move(picture)),
        first_(static_cast<std::size_t>(picture_.height()) + 1),
        opaque_(static_cast<std::size_t>(picture_.height())) {
    const int width = picture_.width();
    for (int y = 0; y < picture_.height(); ++y) {
      const float* const row = picture_.row(y);
      for (int x = 0; x < width; x += kSpanPadding) {
        const int end = std::min(width, x + kSpanPadding);
        if (!std::any_of(row + static_cast<std::ptrdiff_t>(x) * 4, row + static_cast<std::ptrdiff_t>(end) * 4,
                         [](float v) { return v != 0; }))
          continue;
        if (runs_.size() > first_[static_cast<std::size_t>(y)] && runs_.back().to == x)
          runs_.back().to = end;
        else
          runs_.push_back({x, end});
      }
      findOpaque(y);
      first_[static_cast<std::size_t>(y) + 1] = runs_.size();
    }
    takeAlphas(inOneColour);
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] bool hides(int y, int x0, int n) const override {
    const auto [from, to] = opaque_[static_cast<std::size_t>(y)];
    return x0 >= from && x0 + n <= to;
  }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override {
    return std::none_of(runs_.begin() + static_cast<std::ptrdiff_t>(first_[static_cast<std::size_t>(y)]),
                        runs_.begin() + static_cast<std::ptrdiff_t>(first_[static_cast<std::size_t>(y) + 1]),
                        [=](const Run& run) { return run.from < x0 + n && run.to > x0; });
  }
  [[nodiscard]] RowParts something(int y, int x0, int n) const override {
    RowParts made;
    for (std::size_t i = first_[static_cast<std::size_t>(y)]; i < first_[static_cast<std::size_t>(y) + 1]; ++i)
      made.add(std::max(runs_[i].from, x0), std::min(runs_[i].to, x0 + n));
    return made;
  }
  [[nodiscard]] const float* stored(int y) const override { return picture_.row(y); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      std::memcpy(out + (y - y0) * stride, picture_.row(y), sizeof(float) * 4 * static_cast<std::size_t>(picture_.width()));
  }
  [[nodiscard]] StoredShares storedShares(int y, int x0, int n) const override {
    if (alphas_.empty()) return {};
    for (std::size_t i = first_[static_cast<std::size_t>(y)]; i < first_[static_cast<std::size_t>(y) + 1]; ++i)
      if (x0 >= runs_[i].from && x0 + n <= runs_[i].to)
        return {alphas_.data() + runs_[i].alphas + (x0 - runs_[i].from), products_ ? colour_.data() : nullptr};
    return {};
  }
  [[nodiscard]] bool paints() const override { return true; }
  void paint(int y, int x0, int n, float* onto) const override {
    for (std::size_t i = first_[static_cast<std::size_t>(y)]; i < first_[static_cast<std::size_t>(y) + 1]; ++i) {
      const int from = std::max(runs_[i].from, x0);
      const int to = std::min(runs_[i].to, x0 + n);
      if (from >= to) continue;
      if (products_) {
        layTint(alphas_.data() + runs_[i].alphas + (from - runs_[i].from), colour_.data(),
                onto + static_cast<std::ptrdiff_t>(from - x0) * 4, to - from);
        continue;
      }
      laySpan(picture_.row(y) + static_cast<std::ptrdiff_t>(from) * 4, onto + static_cast<std::ptrdiff_t>(from - x0) * 4, to - from);
    }
  }

 private:
  // The longest stretch of a row that hides what is below; it lies within one run.
  void findOpaque(int y) {
    const float* const row = picture_.row(y);
    auto& best = opaque_[static_cast<std::size_t>(y)];
    for (std::size_t i = first_[static_cast<std::size_t>(y)]; i < runs_.size(); ++i) {
      int from = runs_[i].from;
      for (int x = from; x <= runs_[i].to; ++x) {
        if (x < runs_[i].to && row[static_cast<std::ptrdiff_t>(x) * 4 + 3] == 1) continue;
        if (x - from > best.second - best.first) best = {from, x};
        from = x + 1;
      }
    }
  }

  struct Run {
    int from, to;
    std::size_t alphas = 0;  // where those of its pixels begin
  };

  // Plain words and shapes are one colour; the alpha that each pixel has is a quarter to read, and what lies in one row is read in one go.
  // Only where a product gives back just what the picture holds it takes the picture's place.
  void takeAlphas(bool inOneColour) {
    eachPixel([&](Run&, const float* pixel) {
      if (pixel[3] > colour_[3]) std::copy_n(pixel, 4, colour_.data());
      return true;
    });
    if (!(colour_[3] > 0)) return;
    for (std::size_t c = 0; c < 3; ++c) colour_[c] /= colour_[3];
    colour_[3] = 1;
    products_ = eachPixel([&](Run&, const float* pixel) {
      return pixel[0] == pixel[3] * colour_[0] && pixel[1] == pixel[3] * colour_[1] && pixel[2] == pixel[3] * colour_[2];
    });
    if (!products_ && !inOneColour) return;
    std::size_t count = 0;
    for (const Run& run : runs_) count += static_cast<std::size_t>(run.to - run.from);
    alphas_.reserve(count + kSpanPadding);
    const Run* last = nullptr;
    eachPixel([&](Run& run, const float* pixel) {
      if (&run != last) run.alphas = alphas_.size();
      last = &run;
      alphas_.push_back(pixel[3]);
      return true;
    });
    // Kernels read in whole steps.
    alphas_.resize(alphas_.size() + kSpanPadding);
  }
  // All pixels of all runs, row by row, until one is not wanted; false then.
  template <class Take>
  bool eachPixel(Take take) {
    for (int y = 0; y < picture_.height(); ++y)
      for (std::size_t i = first_[static_cast<std::size_t>(y)]; i < first_[static_cast<std::size_t>(y) + 1]; ++i)
        for (int x = runs_[i].from; x < runs_[i].to; ++x)
          if (!take(runs_[i], picture_.row(y) + static_cast<std::ptrdiff_t>(x) * 4)) return false;
    return true;
  }

  Plane picture_;
  std::vector<std::size_t> first_;  // of each row
  std::vector<Run> runs_;
  std::vector<std::pair<int, int>> opaque_;  // of each row
  std::array<float, 4> colour_{};
  PooledVector<float> alphas_;  // of the runs' pixels, one run after the other; none where it is not of one colour
  bool products_ = false;       // pixels are, of the colour and their alphas
};

}  // namespace

std::unique_ptr<RowMaker> sparseRows(Plane picture, bool inOneColour) {
  return std::make_unique<SparseRows>(std::move(picture), inOneColour);
}

}  // namespace oa
