#include "fields/folded_noise.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "base/parallel.h"
#include "base/random.h"
#include "image/enlarged.h"

namespace oa {
namespace {

// The noise's standard deviation is near 0.116: this makes `amount` the shift of a strong value, about two deviations.
constexpr double kShiftGain = 4;

NoiseSettings shiftNoise(const FoldedSettings& s, int which) {
  NoiseSettings n = s.noise;
  n.octaves = std::min(s.detail, kFoldedOctaves);
  n.firstOctave = 0;
  n.lastOctave = kMaxOctaves;
  n.seed = static_cast<std::uint32_t>(mix64(s.noise.seed * 2ull + static_cast<std::uint64_t>(which)) >> 40);
  return n;
}

NoiseSettings coarseNoise(const FoldedSettings& s) {
  NoiseSettings n = s.noise;
  n.u0 = n.v0 = 0;
  n.lastOctave = kFoldedOctaves;
  return n;
}

NoiseSettings fineNoise(const FoldedSettings& s) {
  NoiseSettings n = s.noise;
  n.firstOctave = kFoldedOctaves;
  return n;
}

SampleGrid foldedGrid(const FoldedSettings& s, const PlaneView& view, double step) {
  SampleGrid grid(view, step, 1);
  const int columns = grid.plane.width();
  const auto sampled = [&grid](NoiseSettings n) {
    grid.place(n);
    return n;
  };
  NoiseSettings base = sampled(s.noise);
  const LatticeNoise across(sampled(shiftNoise(s, 0)), columns);
  const LatticeNoise down(sampled(shiftNoise(s, 1)), columns);
  NoiseSettings field = coarseNoise(s);
  field.ux *= grid.stepX;
  field.vx *= grid.stepX;
  field.uy *= grid.stepY;
  field.vy *= grid.stepY;
  const LatticeNoise noise(field, columns);
  const double gain = s.amount * kShiftGain;
  const auto inTile = [](double v, int period) { return v - std::floor(v / period) * period; };
  parallelBands(grid.plane.height(), [&](int y0, int y1) {
    const std::ptrdiff_t stride = paddedRow(columns, 1);
    std::vector<float> u(static_cast<std::size_t>(stride));
    std::vector<float> v(static_cast<std::size_t>(stride));
    for (int y = y0; y < y1; ++y) {
      across.rows(y, y + 1, u.data(), stride);
      down.rows(y, y + 1, v.data(), stride);
      // Whole tiles are taken off the row's beginning; what is left fits floats.
      const auto rowU = static_cast<float>(inTile(base.u0 + base.uy * y, s.noise.periodX) - 0.5 * gain);
      const auto rowV = static_cast<float>(inTile(base.v0 + base.vy * y, s.noise.periodY) - 0.5 * gain);
      const auto ux = static_cast<float>(base.ux);
      const auto vx = static_cast<float>(base.vx);
      const auto by = static_cast<float>(gain);
      float* const pu = u.data();
      float* const pv = v.data();
      for (int x = 0; x < columns; ++x) pu[x] = rowU + ux * static_cast<float>(x) + by * pu[x];
      for (int x = 0; x < columns; ++x) pv[x] = rowV + vx * static_cast<float>(x) + by * pv[x];
      noise.at(u.data(), v.data(), columns, grid.plane.row(y));
    }
  });
  return grid;
}

class FoldedRows final : public RowMaker {
 public:
  FoldedRows(const FoldedSettings& s, const PlaneView& view, double step)
      : coarse_(enlarged(foldedGrid(s, view, step), true)), width_(view.width) {
    if (s.noise.octaves > kFoldedOctaves) fine_ = std::make_unique<LatticeNoise>(fineNoise(s), width_);
  }
  [[nodiscard]] int channels() const override { return 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    coarse_->rows(y0, y1, out, stride);
    if (!fine_) return;
    thread_local std::vector<float> band;
    const std::ptrdiff_t own = paddedRow(width_, 1);
    band.resize(static_cast<std::size_t>(own * (y1 - y0)));
    fine_->rows(y0, y1, band.data(), own);
    for (int y = y0; y < y1; ++y) {
      float* row = out + (y - y0) * stride;
      const float* add = band.data() + (y - y0) * own;
      for (int x = 0; x < width_; ++x) row[x] += add[x] - 0.5f;
    }
  }

 private:
  std::unique_ptr<RowMaker> coarse_;
  std::unique_ptr<LatticeNoise> fine_;
  int width_;
};

}  // namespace

double foldedStep(const FoldedSettings& s) {
  const double cell = 1 / std::max(std::hypot(s.noise.ux, s.noise.uy), std::hypot(s.noise.vx, s.noise.vy));
  // Four samples to a cell of the finest folded octave.
  const int finest = std::min(s.noise.octaves, kFoldedOctaves) - 1;
  return std::clamp(cell / std::ldexp(4.0, finest), 2.0, 16.0);
}

std::unique_ptr<RowMaker> foldedNoise(const FoldedSettings& s, const PlaneView& view, double step) {
  return std::make_unique<FoldedRows>(s, view, step);
}

double foldedReference(const FoldedSettings& s, double x, double y) {
  const double gain = s.amount * kShiftGain;
  const double u = s.noise.u0 + s.noise.ux * x + s.noise.uy * y + gain * (LatticeNoise::reference(shiftNoise(s, 0), x, y) - 0.5);
  const double v = s.noise.v0 + s.noise.vx * x + s.noise.vy * y + gain * (LatticeNoise::reference(shiftNoise(s, 1), x, y) - 0.5);
  double value = LatticeNoise::referenceAt(coarseNoise(s), u, v);
  if (s.noise.octaves > kFoldedOctaves) value += LatticeNoise::reference(fineNoise(s), x, y) - 0.5;
  return value;
}

}  // namespace oa
