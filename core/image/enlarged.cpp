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

// One mixed row of samples to `n` pixels of a field, from vector `vector` on: per cell a cubic in t, the coefficients picked
// from the cells that a vector touches.
void fieldPixels(const AcrossPlan& plan, int vector, const float* const* cubic, int n, float* out) {
  const D d;
  const hn::RebindToSigned<D> di;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  for (int x = 0; x < n; x += lanes, ++vector) {
    const std::size_t at = static_cast<std::size_t>(vector) * static_cast<std::size_t>(lanes);
    const std::int32_t first = plan.first[static_cast<std::size_t>(vector)];
    const auto lane = hn::IndicesFromVec(d, hn::LoadU(di, plan.lane.data() + at));
    const V t = hn::LoadU(d, plan.t.data() + at);
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

// One row of cells to a picture's pixels, several at a time; what is written beyond a cell's end the next one writes anew.
template <bool kOpaque>
HWY_INLINE void eachCell(const AcrossPlan& plan, const float* const* cubic, float* out) {
  const D d;
  const auto lanes = static_cast<std::ptrdiff_t>(hn::Lanes(d));
  for (std::size_t cell = 0; cell + 1 < plan.begin.size(); ++cell) {
    V c[4];
    for (int k = 0; k < 4; ++k) c[k] = hn::LoadDup128(d, cubic[k] + cell * 4);
    const std::ptrdiff_t end = plan.begin[cell + 1] * 4;
    for (std::ptrdiff_t at = plan.begin[cell] * 4; at < end; at += lanes) {
      const V t = hn::LoadU(d, plan.t4.data() + at);
      const V sum = hn::MulAdd(hn::MulAdd(hn::MulAdd(c[3], t, c[2]), t, c[1]), t, c[0]);
      hn::StoreU(held<kOpaque>(sum), d, out + at);
    }
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
HWY_INLINE void eachHalf(const AcrossPlan& plan, const float* mixed, int width, float* out) {
  const D d;
  const int pixels = static_cast<int>(hn::Lanes(d)) / 4;
  const AcrossPlan::Phase& middle = plan.phases[1];
  const float* on = mixed + static_cast<std::ptrdiff_t>(plan.phases[0].cell + 1) * 4;
  const float* between = mixed + static_cast<std::ptrdiff_t>(middle.cell) * 4;
  for (int x = 0; x < width; x += 2 * pixels, on += 4 * pixels, between += 4 * pixels)
    storeInTurn(held<kOpaque>(hn::LoadU(d, on)), phaseAt<kOpaque>(middle, between), out + static_cast<std::ptrdiff_t>(x) * 4);
}

// The same where weights repeat with every cell: all pixels of one phase, then the next, then each to its place.
template <bool kOpaque>
HWY_INLINE void eachPhase(const AcrossPlan& plan, const float* mixed, int width, float* scratch, float* out) {
  const D d;
  const hn::FixedTag<float, 4> pixel;
  const int count = static_cast<int>(plan.phases.size());
  if (count == 2 && plan.phases[0].weights[1] == 1) return eachHalf<kOpaque>(plan, mixed, width, out);
  for (int j = 0; j < count; ++j) {
    const AcrossPlan::Phase& phase = plan.phases[static_cast<std::size_t>(j)];
    const float* const from = mixed + static_cast<std::ptrdiff_t>(phase.cell) * 4;
    const int n = (width - j + count - 1) / count * 4;
    for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) hn::StoreU(phaseAt<kOpaque>(phase, from + i), d, scratch + i);
    for (int i = 0, x = j; x < width; ++i, x += count)
      hn::StoreU(hn::LoadU(pixel, scratch + i * 4), pixel, out + static_cast<std::ptrdiff_t>(x) * 4);
  }
}
void phasePixels(const AcrossPlan& plan, bool opaque, const float* mixed, int width, float* scratch, float* out) {
  opaque ? eachPhase<true>(plan, mixed, width, scratch, out) : eachPhase<false>(plan, mixed, width, scratch, out);
}

void picturePixels(const AcrossPlan& plan, bool opaque, const float* const* cubic, float* out) {
  opaque ? eachCell<true>(plan, cubic, out) : eachCell<false>(plan, cubic, out);
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

void cubicWeights(double t, double* weights) {
  weights[0] = ((-0.5 * t + 1) * t - 0.5) * t;
  weights[1] = (1.5 * t - 2.5) * t * t + 1;
  weights[2] = ((-1.5 * t + 2) * t + 0.5) * t;
  weights[3] = (0.5 * t - 0.5) * t * t;
}

namespace {

int samplesFor(int pixels, double step, double begin) { return static_cast<int>(std::ceil((pixels - 1 - begin) / step)) + 4; }

AcrossPlan planAcross(const SampleGrid& grid) {
  AcrossPlan plan;
  const auto lanes = static_cast<std::size_t>(HWY_DYNAMIC_DISPATCH(enlargeLanes)());
  const std::size_t pixels = (static_cast<std::size_t>(grid.width) + kSpanPadding) / lanes * lanes + lanes;
  const int times = grid.plane.channels() == 4 ? 4 : 0;  // only pictures need it
  plan.t4.reserve(pixels * static_cast<std::size_t>(times) + 64);
  plan.lane.reserve(pixels);
  plan.t.reserve(pixels);
  for (std::size_t x = 0; x < pixels; ++x) {
    const double place = (std::min(static_cast<double>(x), static_cast<double>(grid.width - 1)) - grid.beginX) / grid.stepX;
    const auto cell = static_cast<std::int32_t>(place);
    while (static_cast<std::int32_t>(plan.begin.size()) <= cell) plan.begin.push_back(static_cast<std::int32_t>(x));
    for (int k = 0; k < times; ++k) plan.t4.push_back(static_cast<float>(place - cell));
    if (x % lanes == 0) plan.first.push_back(cell);
    plan.lane.push_back(cell - plan.first.back());
    plan.t.push_back(static_cast<float>(place - cell));
  }
  plan.begin.push_back(grid.width);
  const double whole = std::round(grid.stepX);
  if (std::abs(grid.stepX - whole) < 1e-9 && whole <= 3)
    for (int j = 0; j < static_cast<int>(whole); ++j) {
      const double place = (j - grid.beginX) / grid.stepX;
      const auto cell = static_cast<std::int32_t>(place);
      double w[4];
      cubicWeights(place - cell, w);
      plan.phases.push_back(
          {cell, {static_cast<float>(w[0]), static_cast<float>(w[1]), static_cast<float>(w[2]), static_cast<float>(w[3])}});
    }
  plan.t4.insert(plan.t4.end(), 64, 0.0f);
  return plan;
}

class EnlargedRows final : public RowMaker {
 public:
  EnlargedRows(SampleGrid grid, bool opaque) : grid_(std::move(grid)), plan_(planAcross(grid_)), opaque_(opaque) {}
  [[nodiscard]] int channels() const override { return grid_.plane.channels(); }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const int have = grid_.plane.channels();
    const int floats = grid_.plane.width() * have;
    const std::size_t room = static_cast<std::size_t>(floats) + 64;
    FloatBuffer mixed(room);
    FloatBuffer cubic(room * 4);
    // Vectors read a little beyond the last sample; what they find there is not used, but it must be something.
    std::fill_n(mixed.data() + floats, 64, 0.0f);
    for (int y = y0; y < y1; ++y) {
      float weights[4];
      const int cell = grid_.cellOf(y, weights);
      const float* four[4];
      for (int k = 0; k < 4; ++k) four[k] = grid_.plane.row(cell + k);
      // On a row of samples that row alone counts.
      const bool one = weights[1] == 1;
      const float* const samples = one ? four[1] : mixed.data();
      if (!one) HWY_DYNAMIC_DISPATCH(mixRows)(four, weights, floats, mixed.data());
      float* row = out + (y - y0) * stride;
      if (have == 4 && !plan_.phases.empty()) {
        HWY_DYNAMIC_DISPATCH(phasePixels)(plan_, opaque_, samples, grid_.width, cubic.data(), row);
        continue;
      }
      float* const parts[4] = {cubic.data(), cubic.data() + room, cubic.data() + 2 * room, cubic.data() + 3 * room};
      HWY_DYNAMIC_DISPATCH(cubicRow)(samples, floats - 3 * have, have, parts);
      if (have == 4)
        HWY_DYNAMIC_DISPATCH(picturePixels)(plan_, opaque_, parts, row);
      else
        HWY_DYNAMIC_DISPATCH(fieldPixels)(plan_, 0, parts, grid_.width, row);
    }
  }

 private:
  SampleGrid grid_;
  AcrossPlan plan_;
  bool opaque_;
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
        HWY_DYNAMIC_DISPATCH(fieldPixels)(plan, 0, parts, grid.width, to->row(y));
      }
  });
  return wide;
}

std::unique_ptr<RowMaker> enlarged(SampleGrid grid, bool opaque) { return std::make_unique<EnlargedRows>(std::move(grid), opaque); }

}  // namespace oa
#endif
