#include "image/resampled.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/parallel.h"
#include "image/cropped.h"
#include "image/enlarged.h"
#include "image/sampling.h"

namespace oa {
namespace {

// Turned: pixels are read in tiles, whose sources lie close together.
class TurnedRows final : public RowMaker {
 public:
  TurnedRows(SourcePlane source, const Affine& to, int width) : source_(std::move(source)), to_(to), width_(width) {}
  [[nodiscard]] int channels() const override { return source_.pixels().channels; }
  [[nodiscard]] bool opaque() const override { return source_.opaque(); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    constexpr int kTile = 64;
    for (int x = 0; x < width_; x += kTile)
      for (int y = y0; y < y1; ++y)
        sampleLineCubic(source_.pixels(), Edge::Clamp, to_({static_cast<double>(x), static_cast<double>(y)}), {to_.xx, to_.yx},
                        std::min(kTile, width_ - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * channels(),
                        Cubic::Convolution, {to_.xy, to_.yy});
  }

 private:
  SourcePlane source_;
  Affine to_;  // from the pixels wanted to those there are
  int width_;
};

// Moved or sized only: down first, then across, in pieces that stay in the L1 cache, each row's columns planned once.
class UprightRows final : public RowMaker {
 public:
  UprightRows(SourcePlane source, const Affine& to, int width) : source_(std::move(source)), to_(to), width_(width) {
    for (int x = 0; x < width; ++x) {
      // Further out than a pixel all is edge.
      const double place = std::clamp(to.xx * x + to.x0, -1.0, static_cast<double>(source_.pixels().width));
      columns_.push_back(static_cast<std::int32_t>(std::floor(place)) - 1);
      shares_.push_back(static_cast<float>(place - std::floor(place)));
    }
  }
  [[nodiscard]] int channels() const override { return source_.pixels().channels; }
  [[nodiscard]] bool opaque() const override { return source_.opaque(); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int x = 0; x < width_; x += kPiece)
      piece(x, std::min(kPiece, width_ - x), y0, y1, out + static_cast<std::ptrdiff_t>(x) * channels(), stride);
  }

 private:
  static constexpr int kPiece = 256;

  void piece(int x, int n, int y0, int y1, float* out, std::ptrdiff_t stride) const {
    const PlanePixels& p = source_.pixels();
    const std::int32_t* const columns = columns_.data() + x;
    // Of the columns [first, first + count) those of [begin, end) are there; the others are edge. They rise, or fall where the picture
    // is seen from behind.
    const int first = std::min(columns[0], columns[n - 1]);
    const int count = std::max(columns[0], columns[n - 1]) + 4 - first;
    const int begin = std::clamp(first, 0, p.width - 1);
    const int end = std::clamp(first + count, begin + 1, p.width);
    // Moved only, and nowhere beyond the edge: one weight for all.
    const bool moved = p.channels == 4 && to_.xx == 1 && count == n + 3;
    std::vector<std::int32_t> own(columns, columns + n);
    for (std::int32_t& column : own) column -= first;
    FloatBuffer mixed(static_cast<std::size_t>(count + 2 * kSpanPadding) * static_cast<std::size_t>(p.channels) + 64);
    const auto pixelAt = [&](int column) { return mixed.data() + static_cast<std::ptrdiff_t>(column - first) * p.channels; };
    for (int y = y0; y < y1; ++y) {
      const double place = std::clamp(to_.yy * y + to_.y0, -1.0, static_cast<double>(p.height));
      const int row = static_cast<int>(std::floor(place));
      const float* four[4];
      for (int k = 0; k < 4; ++k)
        four[k] = p.row(std::clamp(row + k - 1, 0, p.height - 1)) + static_cast<std::ptrdiff_t>(begin) * p.channels;
      mixRowsCubic(four, weightsOf(place - row).data(), (end - begin) * p.channels, pixelAt(begin));
      for (int c = first; c < begin; ++c) std::copy_n(pixelAt(begin), p.channels, pixelAt(c));
      for (int c = std::max(end, first); c < first + count; ++c) std::copy_n(pixelAt(end - 1), p.channels, pixelAt(c));
      float* const to = out + (y - y0) * stride;
      if (moved)
        shiftRowCubic(mixed.data(), weightsOf(static_cast<double>(shares_[static_cast<std::size_t>(x)])).data(), n, to);
      else
        sampleColumnsCubic(mixed.data(), p.channels, own.data(), shares_.data() + x, n, to);
    }
  }
  static std::array<float, 4> weightsOf(double t) {
    double w[4];
    cubicWeights(t, w);
    return {static_cast<float>(w[0]), static_cast<float>(w[1]), static_cast<float>(w[2]), static_cast<float>(w[3])};
  }

  SourcePlane source_;
  Affine to_;
  int width_;
  std::vector<std::int32_t> columns_;  // the first of four
  std::vector<float> shares_;
};

}  // namespace

std::shared_ptr<const RowMaker> resampled(const std::shared_ptr<const RowMaker>& rows, const PlaneView& have, const PlaneView& wanted) {
  const Point origin = have.pixel(wanted.place(0, 0));
  const Point right = have.pixel(wanted.place(1, 0));
  const Point below = have.pixel(wanted.place(0, 1));
  const Affine to{right.x - origin.x, below.x - origin.x, origin.x, right.y - origin.y, below.y - origin.y, origin.y};
  constexpr double kWhole = 1e-6;
  const bool straight = std::abs(to.xy) < kWhole && std::abs(to.yx) < kWhole;
  // Moved by whole pixels: nothing is lost.
  const bool whole = straight && std::abs(to.xx - 1) < kWhole && std::abs(to.yy - 1) < kWhole &&
                     std::abs(to.x0 - std::round(to.x0)) < 1e-3 && std::abs(to.y0 - std::round(to.y0)) < 1e-3;
  const auto x = static_cast<int>(std::round(to.x0));
  const auto y = static_cast<int>(std::round(to.y0));
  if (whole && x >= 0 && y >= 0 && x + wanted.width <= have.width && y + wanted.height <= have.height)
    return cropped(rows, x, y, wanted.width, have.width);
  // Enlarged evenly, with samples all round.
  const auto inside = [](double begin, double step, int n, int size) { return begin >= 1 && begin + step * (n - 1) < size - 2; };
  if (straight && to.xx < 0.6 && to.xx > 0 && std::abs(to.xx - to.yy) < kWhole && inside(to.x0, to.xx, wanted.width, have.width) &&
      inside(to.y0, to.yy, wanted.height, have.height))
    return enlarged(SampleGrid(wholePlane(*rows, have.width, have.height), to.x0, to.y0, to.xx, wanted.width, wanted.height),
                    rows->opaque());
  SourcePlane source(rows, have.width, have.height);
  if (straight) return std::make_shared<UprightRows>(std::move(source), to, wanted.width);
  return std::make_shared<TurnedRows>(std::move(source), to, wanted.width);
}

}  // namespace oa
