#include "image/enlarged.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <utility>

#include "base/parallel.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/enlarged.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"

#ifndef OA_ENLARGED_ONCE
#define OA_ENLARGED_ONCE
namespace oa {
namespace {

// Where a pixel lies between samples, planned once: the sample to its left and the weights of four.
struct AcrossPlan {
  // For fields, for each vector of pixels: its first cell, and for each lane its cell counted from there and t.
  std::vector<std::int32_t> first;
  std::vector<std::int32_t> lane;
  std::vector<float> t;
  // Where steps are two or three whole pixels: the first cell and the weights of every first, second and third pixel.
  struct Phase {
    std::int32_t cell;
    float weights[4];
  };
  std::vector<Phase> phases;
  // Where they are a few whole vectors of a picture's pixels: the pixels of a cell, the one that cell 0 begins at, and of each vector four
  // vectors of weights.
  int wholeStep = 0;
  int wholeBegin = 0;
  std::vector<float> wholeWeights;
  // For pictures: the first pixel of each cell (and one past the last), and t four times for each pixel.
  std::vector<std::int32_t> begin;
  std::vector<float> t4;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

int enlargeLanes() { return static_cast<int>(hn::Lanes(D())); }

// Four rows of samples to one, `n` floats.
void mixRows(const float* const* rows, const float* weights, int n, float* out) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V sum = hn::Mul(hn::LoadU(d, rows[0] + i), hn::Set(d, weights[0]));
    for (int k = 1; k < 4; ++k) sum = hn::MulAdd(hn::LoadU(d, rows[k] + i), hn::Set(d, weights[k]), sum);
    hn::StoreU(sum, d, out + i);
  }
}

// One mixed row of samples to `n` pixels of a field from x0 on, a multiple of what a vector holds: per cell a cubic in t, the coefficients,
// of cell `cell` on, picked from the cells that a vector touches.
void fieldPixels(const AcrossPlan& plan, int cell, const float* const* cubic, int x0, int n, float* out) {
  const D d;
  const hn::RebindToSigned<D> di;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const std::int32_t* const lanesOfCells = plan.lane.data() + x0;
  const float* const shares = plan.t.data() + x0;
  const std::int32_t* firstCell = plan.first.data() + x0 / lanes;
  for (int x = 0; x < n; x += lanes) {
    const std::int32_t first = *firstCell++ - cell;
    const auto lane = hn::IndicesFromVec(d, hn::LoadU(di, lanesOfCells + x));
    const V t = hn::LoadU(d, shares + x);
    V value = hn::TableLookupLanes(hn::LoadU(d, cubic[3] + first), lane);
    for (int k = 2; k >= 0; --k) value = hn::MulAdd(value, t, hn::TableLookupLanes(hn::LoadU(d, cubic[k] + first), lane));
    hn::StoreU(value, d, out + x);
  }
}

// Coefficients of 1, t, t^2 and t^3 for each cell of a row of samples; `n` floats, neighbours `apart`.
void cubicRow(const float* s, int n, int apart, float* const* out) {
  const D d;
  const V half = hn::Set(d, 0.5f);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const V a = hn::LoadU(d, s + i);
    const V b = hn::LoadU(d, s + i + apart);
    const V c = hn::LoadU(d, s + i + 2 * apart);
    const V e = hn::LoadU(d, s + i + 3 * apart);
    hn::StoreU(b, d, out[0] + i);
    hn::StoreU(hn::Mul(half, hn::Sub(c, a)), d, out[1] + i);
    const V two = hn::Sub(hn::MulAdd(hn::Set(d, 2.0f), c, a), hn::MulAdd(hn::Set(d, 2.5f), b, hn::Mul(half, e)));
    hn::StoreU(two, d, out[2] + i);
    hn::StoreU(hn::MulAdd(hn::Set(d, 1.5f), hn::Sub(b, c), hn::Mul(half, hn::Sub(e, a))), d, out[3] + i);
  }
}

// Colours between samples. What is opaque is so to the last bit: others see it from that.
template <bool kOpaque>
HWY_INLINE V held(V sum) {
  const D d;
  if constexpr (!kOpaque) return heldColours(d, sum);
  const V one = hn::Set(d, 1.0f);
  return hn::IfThenElse(alphaLanes(d), one, hn::Min(one, hn::Max(hn::Zero(d), sum)));
}

// Pixels [x0, x0 + n) of a picture, several at a time, from the coefficients of cell `cell` on; what is written beyond a cell's end the
// next one writes anew.
template <bool kOpaque>
HWY_INLINE void eachCell(const AcrossPlan& plan, std::size_t cell, const float* const* cubic, int x0, int n, float* out) {
  const D d;
  const auto lanes = static_cast<std::ptrdiff_t>(hn::Lanes(d));
  const float* const t4 = plan.t4.data() + static_cast<std::ptrdiff_t>(x0) * 4;
  const std::ptrdiff_t all = static_cast<std::ptrdiff_t>(n) * 4;
  std::ptrdiff_t at = 0;
  for (std::ptrdiff_t from = 0; at < all; ++cell, from += 4) {
    V c[4];
    for (int k = 0; k < 4; ++k) c[k] = hn::LoadDup128(d, cubic[k] + from);
    const std::ptrdiff_t end = std::min(all, static_cast<std::ptrdiff_t>(plan.begin[cell + 1] - x0) * 4);
    std::ptrdiff_t i = at;
    for (; i < end; i += lanes) {
      const V t = hn::LoadU(d, t4 + i);
      const V sum = hn::MulAdd(hn::MulAdd(hn::MulAdd(c[3], t, c[2]), t, c[1]), t, c[0]);
      hn::StoreU(held<kOpaque>(sum), d, out + i);
    }
    at = end;
  }
}
// Pixels of one phase, a vector of them from `from` on.
template <bool kOpaque>
HWY_INLINE V phaseAt(const AcrossPlan::Phase& phase, const float* from) {
  const D d;
  V sum = hn::Mul(hn::LoadU(d, from), hn::Set(d, phase.weights[0]));
  for (int k = 1; k < 4; ++k) sum = hn::MulAdd(hn::LoadU(d, from + 4 * k), hn::Set(d, phase.weights[k]), sum);
  return held<kOpaque>(sum);
}

// Pixels of two vectors in turn.
HWY_INLINE void storeInTurn(V a, V b, float* out) {
  const D d;
#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
  const V first = evenPixels(d, a, b);
  const V second = oddPixels(d, a, b);
  hn::StoreU(hn::ConcatLowerLower(d, second, first), d, out);
  hn::StoreU(hn::ConcatUpperUpper(d, second, first), d, out + hn::Lanes(d));
#elif HWY_MAX_BYTES == 32 && !HWY_HAVE_SCALABLE
  hn::StoreU(hn::ConcatLowerLower(d, b, a), d, out);
  hn::StoreU(hn::ConcatUpperUpper(d, b, a), d, out + hn::Lanes(d));
#else
  hn::StoreU(a, d, out);
  hn::StoreU(b, d, out + hn::Lanes(d));
#endif
}

// Every second pixel is a sample, the others lie in the middle between two.
template <bool kOpaque>
HWY_INLINE void eachHalf(const AcrossPlan& plan, const float* samples, int first, int x0, int n, float* out) {
  const D d;
  const int pixels = static_cast<int>(hn::Lanes(d)) / 4;
  const AcrossPlan::Phase& middle = plan.phases[1];
  const bool odd = x0 % 2 != 0;
  const float* on = samples + static_cast<std::ptrdiff_t>(plan.phases[0].cell + 1 + (x0 + 1) / 2 - first) * 4;
  const float* between = samples + static_cast<std::ptrdiff_t>(middle.cell + x0 / 2 - first) * 4;
  for (int x = 0; x < n; x += 2 * pixels, on += 4 * pixels, between += 4 * pixels) {
    const V one = held<kOpaque>(hn::LoadU(d, on));
    const V other = phaseAt<kOpaque>(middle, between);
    odd ? storeInTurn(other, one, out + static_cast<std::ptrdiff_t>(x) * 4)
        : storeInTurn(one, other, out + static_cast<std::ptrdiff_t>(x) * 4);
  }
}

// The same where weights repeat with every cell: all pixels of one phase, then the next, then each to its place.
template <bool kOpaque>
HWY_INLINE void eachPhase(const AcrossPlan& plan, const float* samples, int first, int x0, int n, float* scratch, float* out) {
  const D d;
  const hn::FixedTag<float, 4> pixel;
  const int count = static_cast<int>(plan.phases.size());
  if (count == 2 && plan.phases[0].weights[1] == 1) return eachHalf<kOpaque>(plan, samples, first, x0, n, out);
  for (int j = 0; j < count; ++j) {
    const int x = x0 + j;
    const AcrossPlan::Phase& phase = plan.phases[static_cast<std::size_t>(x % count)];
    const float* const from = samples + static_cast<std::ptrdiff_t>(phase.cell + x / count - first) * 4;
    const int floats = (n - j + count - 1) / count * 4;
    for (int i = 0; i < floats; i += static_cast<int>(hn::Lanes(d))) hn::StoreU(phaseAt<kOpaque>(phase, from + i), d, scratch + i);
    for (int i = 0, at = j; at < n; ++i, at += count)
      hn::StoreU(hn::LoadU(pixel, scratch + i * 4), pixel, out + static_cast<std::ptrdiff_t>(at) * 4);
  }
}
// Pixels [x0, x0 + n); `samples` begins with column `first` of them.
void phasePixels(const AcrossPlan& plan, bool opaque, const float* samples, int first, int x0, int n, float* scratch, float* out) {
  opaque ? eachPhase<true>(plan, samples, first, x0, n, scratch, out) : eachPhase<false>(plan, samples, first, x0, n, scratch, out);
}

// Cells of kVectors whole vectors of pixels, all with the same weights; `samples` begins with column `cell`.
template <bool kOpaque, int kVectors>
HWY_INLINE void eachWhole(const AcrossPlan& plan, const float* samples, int cell, int x0, int n, float* out) {
  const D d;
  const auto lanes = static_cast<std::ptrdiff_t>(hn::Lanes(d));
  V w[kVectors][4];
  for (int v = 0; v < kVectors; ++v)
    for (int k = 0; k < 4; ++k) w[v][k] = hn::LoadU(d, plan.wholeWeights.data() + (v * 4 + k) * lanes);
  V s[4] = {hn::Zero(d), hn::LoadDup128(d, samples), hn::LoadDup128(d, samples + 4), hn::LoadDup128(d, samples + 8)};
  // What may be written.
  const int room = (n + kSpanPadding - 1) / kSpanPadding * kSpanPadding;
  alignas(64) float aside[static_cast<std::size_t>(kVectors) * 16];
  for (int at = plan.wholeBegin + cell * plan.wholeStep - x0; at < n; at += plan.wholeStep, samples += 4) {
    for (int k = 0; k < 3; ++k) s[k] = s[k + 1];
    s[3] = hn::LoadDup128(d, samples + 12);
    const bool fits = at >= 0 && at + plan.wholeStep <= room;
    float* const to = fits ? out + static_cast<std::ptrdiff_t>(at) * 4 : aside;
    for (int v = 0; v < kVectors; ++v) {
      const V sum = hn::MulAdd(s[3], w[v][3], hn::MulAdd(s[2], w[v][2], hn::MulAdd(s[1], w[v][1], hn::Mul(s[0], w[v][0]))));
      hn::StoreU(held<kOpaque>(sum), d, to + v * lanes);
    }
    if (fits) continue;
    const int from = std::max(0, -at);
    const int count = std::min(plan.wholeStep, n - at) - from;
    if (count > 0) std::copy_n(aside + from * 4, count * 4, out + static_cast<std::ptrdiff_t>(at + from) * 4);
  }
}
template <bool kOpaque>
HWY_INLINE void eachWholeCell(const AcrossPlan& plan, const float* samples, int cell, int x0, int n, float* out) {
  switch (plan.wholeStep * 4 / static_cast<int>(hn::Lanes(D()))) {
    case 1:
      return eachWhole<kOpaque, 1>(plan, samples, cell, x0, n, out);
    case 2:
      return eachWhole<kOpaque, 2>(plan, samples, cell, x0, n, out);
    default:
      return eachWhole<kOpaque, 4>(plan, samples, cell, x0, n, out);
  }
}
void wholePixels(const AcrossPlan& plan, bool opaque, const float* samples, int cell, int x0, int n, float* out) {
  opaque ? eachWholeCell<true>(plan, samples, cell, x0, n, out) : eachWholeCell<false>(plan, samples, cell, x0, n, out);
}

void picturePixels(const AcrossPlan& plan, bool opaque, int cell, const float* const* cubic, int x0, int n, float* out) {
  opaque ? eachCell<true>(plan, static_cast<std::size_t>(cell), cubic, x0, n, out)
         : eachCell<false>(plan, static_cast<std::size_t>(cell), cubic, x0, n, out);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(enlargeLanes);
HWY_EXPORT(mixRows);
HWY_EXPORT(fieldPixels);
HWY_EXPORT(cubicRow);
HWY_EXPORT(picturePixels);
HWY_EXPORT(phasePixels);
HWY_EXPORT(wholePixels);

void cubicWeights(double t, double* weights) {
  weights[0] = ((-0.5 * t + 1) * t - 0.5) * t;
  weights[1] = (1.5 * t - 2.5) * t * t + 1;
  weights[2] = ((-1.5 * t + 2) * t + 0.5) * t;
  weights[3] = (0.5 * t - 0.5) * t * t;
}

namespace {

int samplesFor(int pixels, double step, double begin) { return static_cast<int>(std::ceil((pixels - 1 - begin) / step)) + 4; }

AcrossPlan planAcross(int width, int channels, double stepX, double beginX) {
  AcrossPlan plan;
  const auto lanes = static_cast<std::size_t>(HWY_DYNAMIC_DISPATCH(enlargeLanes)());
  const std::size_t pixels = (static_cast<std::size_t>(width) + kSpanPadding) / lanes * lanes + lanes;
  const int times = channels == 4 ? 4 : 0;  // only pictures need it
  plan.t4.reserve(pixels * static_cast<std::size_t>(times) + 64);
  plan.lane.reserve(pixels);
  plan.t.reserve(pixels);
  for (std::size_t x = 0; x < pixels; ++x) {
    const double place = (std::min(static_cast<double>(x), static_cast<double>(width - 1)) - beginX) / stepX;
    const auto cell = static_cast<std::int32_t>(place);
    while (static_cast<std::int32_t>(plan.begin.size()) <= cell) plan.begin.push_back(static_cast<std::int32_t>(x));
    for (int k = 0; k < times; ++k) plan.t4.push_back(static_cast<float>(place - cell));
    if (x % lanes == 0) plan.first.push_back(cell);
    plan.lane.push_back(cell - plan.first.back());
    plan.t.push_back(static_cast<float>(place - cell));
  }
  plan.begin.push_back(width);
  const double whole = std::round(stepX);
  if (std::abs(stepX - whole) < 1e-9 && whole <= 3)
    for (int j = 0; j < static_cast<int>(whole); ++j) {
      const double place = (j - beginX) / stepX;
      const auto cell = static_cast<std::int32_t>(place);
      double w[4];
      cubicWeights(place - cell, w);
      plan.phases.push_back(
          {cell, {static_cast<float>(w[0]), static_cast<float>(w[1]), static_cast<float>(w[2]), static_cast<float>(w[3])}});
    }
  plan.t4.insert(plan.t4.end(), 64, 0.0f);
  // Weights of more vectors than that find no room at hand.
  const int step = std::abs(stepX - whole) < 1e-9 && whole < 64 ? static_cast<int>(whole) : 0;
  const int vectors = step * 4 / static_cast<int>(lanes);
  if (channels == 4 && step > 3 && vectors * static_cast<int>(lanes) == step * 4 && (vectors <= 2 || (vectors == 4 && lanes == 16))) {
    plan.wholeStep = step;
    plan.wholeBegin = static_cast<int>(std::ceil(beginX - 1e-6));
    plan.wholeWeights.resize(static_cast<std::size_t>(vectors) * 4 * lanes);
    for (int i = 0; i < step * 4; ++i) {
      double w[4];
      const int pixel = i / 4;
      cubicWeights((plan.wholeBegin + pixel - beginX) / step, w);
      for (int k = 0; k < 4; ++k) {
        const auto vector = static_cast<std::size_t>(i) / lanes * 4 + static_cast<std::size_t>(k);
        plan.wholeWeights[vector * lanes + static_cast<std::size_t>(i) % lanes] = static_cast<float>(w[k]);
      }
    }
  }
  return plan;
}

AcrossPlan planAcross(const SampleGrid& grid) { return planAcross(grid.width, grid.plane.channels(), grid.stepX, grid.beginX); }

// From rows of samples to pixels.
class EnlargedAcross : public RowMaker {
 public:
  EnlargedAcross(AcrossPlan plan, int width, int channels, double stepX, double beginX, bool opaque)
      : plan_(std::move(plan)), width_(width), channels_(channels), stepX_(stepX), beginX_(beginX), opaque_(opaque) {}
  [[nodiscard]] int channels() const final { return channels_; }
  [[nodiscard]] bool opaque() const final { return opaque_; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const final {
    FloatBuffer scratch(static_cast<std::size_t>(samplesRoom(width_) + 4 * cubicRoom(width_)));
    for (int y = y0; y < y1; ++y) pixels(y, 0, width_, scratch.data(), out + (y - y0) * stride);
  }
  [[nodiscard]] bool makesSpans() const final { return true; }
  [[nodiscard]] bool costly() const final { return true; }
  void span(int y, int x0, int n, float* out) const final {
    // Samples are more than a pixel apart.
    alignas(128) float scratch[kMostSpanRoom];
    const int ahead = channels_ == 1 ? x0 % kSpanPadding : 0;
    if (ahead == 0) return pixels(y, x0, n, scratch, out);
    // Fields begin where vectors do.
    alignas(128) float made[kSpanStep + 2 * kSpanPadding];
    pixels(y, x0 - ahead, n + ahead, scratch, made);
    std::copy_n(made + ahead, n, out);
  }

 protected:
  // Samples of a row from column `first` on, `count` of them, of which column 0 is the one before the first: where they lie, in `room` or
  // elsewhere, with 64 floats behind them that may be read.
  [[nodiscard]] virtual const float* samples(int y, int first, int count, float* room) const = 0;
  // Floats that this takes.
  [[nodiscard]] virtual int roomFor(int count) const = 0;

 private:
  static constexpr int kMostSpanRoom = 8192;
  [[nodiscard]] int countFor(int n) const { return static_cast<int>((n - 1) / stepX_) + 6; }
  [[nodiscard]] int samplesRoom(int n) const { return (roomFor(countFor(n)) + 31) / 16 * 16; }
  [[nodiscard]] int cubicRoom(int n) const { return (countFor(n) * channels_ + 31) / 16 * 16; }
  [[nodiscard]] int cellAt(int x) const {
    return plan_.wholeStep > 0 ? (x - plan_.wholeBegin) / plan_.wholeStep : static_cast<int>((x - beginX_) / stepX_);
  }

  void pixels(int y, int x0, int n, float* scratch, float* out) const {
    const int first = cellAt(x0);
    const int count = cellAt(x0 + n - 1) - first + 4;
    const float* const from = samples(y, first, count, scratch);
    float* const cubic = scratch + samplesRoom(n);
    if (plan_.wholeStep > 0) return HWY_DYNAMIC_DISPATCH(wholePixels)(plan_, opaque_, from, first, x0, n, out);
    if (channels_ == 4 && !plan_.phases.empty()) return HWY_DYNAMIC_DISPATCH(phasePixels)(plan_, opaque_, from, first, x0, n, cubic, out);
    const int room = cubicRoom(n);
    float* const parts[4] = {cubic, cubic + room, cubic + 2 * room, cubic + 3 * room};
    HWY_DYNAMIC_DISPATCH(cubicRow)(from, (count - 3) * channels_, channels_, parts);
    if (channels_ == 4)
      HWY_DYNAMIC_DISPATCH(picturePixels)(plan_, opaque_, first, parts, x0, n, out);
    else
      HWY_DYNAMIC_DISPATCH(fieldPixels)(plan_, first, parts, x0, n, out);
  }

  AcrossPlan plan_;
  int width_;
  int channels_;
  double stepX_;
  double beginX_;
  bool opaque_;
};

class EnlargedGrid final : public EnlargedAcross {
 public:
  EnlargedGrid(SampleGrid grid, bool opaque)
      : EnlargedAcross(planAcross(grid), grid.width, grid.plane.channels(), grid.stepX, grid.beginX, opaque), grid_(std::move(grid)) {}

 protected:
  const float* samples(int y, int first, int count, float* room) const override {
    const int floats = count * grid_.plane.channels();
    float weights[4];
    const int cell = grid_.cellOf(y, weights);
    const float* four[4];
    for (int k = 0; k < 4; ++k) four[k] = grid_.plane.row(cell + k) + static_cast<std::ptrdiff_t>(first) * grid_.plane.channels();
    // On a row of samples that row alone counts.
    if (weights[1] == 1) return four[1];
    HWY_DYNAMIC_DISPATCH(mixRows)(four, weights, floats, room);
    // What is not used must be something all the same.
    std::fill_n(room + floats, 64, 0.0f);
    return room;
  }
  int roomFor(int count) const override { return count * grid_.plane.channels() + 64; }

 private:
  SampleGrid grid_;
};

class EnlargedSamples final : public EnlargedAcross {
 public:
  EnlargedSamples(std::unique_ptr<SampleRows> samples, int apart, int width, bool opaque)
      : EnlargedAcross(planAcross(width, 4, apart, 0), width, 4, apart, 0, opaque), samples_(std::move(samples)) {}

 protected:
  const float* samples(int y, int first, int count, float* room) const override { return samples_->samples(y, first, count, room); }
  int roomFor(int count) const override { return samples_->room(count) + 64; }

 private:
  std::unique_ptr<SampleRows> samples_;
};

}  // namespace

SampleGrid::SampleGrid(const PlaneView& view, double step, int channels) : width(view.width), height(view.height) {
  step = std::max(2.0, step);
  stepX = stepY = step;
  if (view.upright()) {
    const auto fitted = [&](double pixels) { return pixels / std::max(1.0, std::floor(pixels / step)); };
    stepX = fitted(view.frameWidth * view.scale);
    stepY = fitted(view.frameHeight * view.scale);
    const auto begin = [](double before, double s) { return std::floor(before / s + 1e-9) * s - before; };
    beginX = std::min(0.0, begin(view.left * view.scale, stepX));
    beginY = std::min(0.0, begin(view.top * view.scale, stepY));
  }
  plane = Plane(samplesFor(width, stepX, beginX), samplesFor(height, stepY, beginY), channels);
}

SampleGrid::SampleGrid(Plane samples, double x0, double y0, double step, int w, int h)
    : width(w), height(h), stepX(1 / step), stepY(1 / step), beginX((1 - x0) / step), beginY((1 - y0) / step), plane(std::move(samples)) {}

SampleGrid::SampleGrid(Plane samples, int pixelsX, int pixelsY, int w, int h)
    : width(w), height(h), stepX(pixelsX), stepY(pixelsY), plane(std::move(samples)) {}

int SampleGrid::cellOf(int y, float* weights) const {
  const double at = (y - beginY) / stepY;
  const int cell = static_cast<int>(at);
  double w[4];
  cubicWeights(at - cell, w);
  std::copy_n(w, 4, weights);
  return cell;
}

std::pair<Plane, Plane> enlargedAcross(const SampleGrid& grid, const SampleGrid& other) {
  const AcrossPlan plan = planAcross(grid);
  std::pair wide{Plane(grid.width, grid.plane.height(), 1), Plane(grid.width, grid.plane.height(), 1)};
  const int samples = grid.plane.width();
  const std::size_t room = static_cast<std::size_t>(samples) + 64;
  parallelBands(grid.plane.height(), [&](int y0, int y1) {
    FloatBuffer row(room);
    FloatBuffer cubic(room * 4);
    std::fill_n(row.data() + samples, 64, 0.0f);
    float* const parts[4] = {cubic.data(), cubic.data() + room, cubic.data() + 2 * room, cubic.data() + 3 * room};
    for (int y = y0; y < y1; ++y)
      for (const auto& [from, to] : {std::pair{&grid.plane, &wide.first}, std::pair{&other.plane, &wide.second}}) {
        std::copy_n(from->row(y), samples, row.data());
        HWY_DYNAMIC_DISPATCH(cubicRow)(row.data(), samples - 3, 1, parts);
        HWY_DYNAMIC_DISPATCH(fieldPixels)(plan, 0, parts, 0, grid.width, to->row(y));
      }
  });
  return wide;
}

std::unique_ptr<RowMaker> enlarged(SampleGrid grid, bool opaque) { return std::make_unique<EnlargedGrid>(std::move(grid), opaque); }

std::unique_ptr<RowMaker> enlarged(std::unique_ptr<SampleRows> samples, int apart, int width, bool opaque) {
  return std::make_unique<EnlargedSamples>(std::move(samples), apart, width, opaque);
}

}  // namespace oa
#endif
