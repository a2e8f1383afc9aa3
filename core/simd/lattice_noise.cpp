// Axis-aligned rows, and the front door to the other paths.
#include "simd/lattice_noise.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

#include "base/numbers.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/lattice_noise.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/aligned_allocator.h>

#include "simd/lattice_noise-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

int noiseLanes() { return static_cast<int>(hn::Lanes(D())); }

// Corner data of one lattice row.
struct NodeRow {
  std::vector<float> gx, gy, c;
};

void makeNodeRow(const Octave& o, const std::vector<std::uint32_t>& hashX, std::int64_t row, NodeRow& out) {
  const D d;
  const DU du;
  const InstantTables tables(o);
  const auto hy = hn::Set(du, cellBits(floorMod(row, o.periodY)) * kHashY ^ o.seed);
  const std::size_t n = hashX.size();
  out.gx.resize(n);
  out.gy.resize(n);
  out.c.resize(n);
  for (std::size_t i = 0; i < n; i += hn::Lanes(d)) {
    V gx, gy, c;
    tables.at(hn::Xor(hn::LoadU(du, hashX.data() + i), hy), gx, gy, c);
    hn::StoreU(gx, d, out.gx.data() + i);
    hn::StoreU(gy, d, out.gy.data() + i);
    hn::StoreU(c, d, out.c.data() + i);
  }
}

// One picture row of one octave is reduced to four numbers per column of cells, so that a pixel is
// A + B dx + P f + Q f dx with f = fade(dx). They stand kStride floats apart: A B P Q of the first row, then of the
// next; a distance known to the compiler costs no address arithmetic in the sweep.
template <std::size_t kStride>
void reduceRow(const NodeRow& upper, const NodeRow& lower, double dyExact, double weight, std::size_t n, float* out) {
  const D d;
  float* const a = out;
  float* const b = out + kStride;
  float* const p = out + 2 * kStride;
  float* const q = out + 3 * kStride;
  const V fy = hn::Set(d, static_cast<float>(fade(dyExact)));
  const V dy0 = hn::Set(d, static_cast<float>(dyExact));
  const V dy1 = hn::Set(d, static_cast<float>(dyExact - 1));
  const V k = hn::Set(d, static_cast<float>(weight));
  for (std::size_t i = 0; i < n; i += hn::Lanes(d)) {
    const V b0 = hn::LoadU(d, upper.gx.data() + i);
    const V b1 = hn::LoadU(d, lower.gx.data() + i);
    const V a0 = hn::MulAdd(hn::LoadU(d, upper.gy.data() + i), dy0, hn::LoadU(d, upper.c.data() + i));
    const V a1 = hn::MulAdd(hn::LoadU(d, lower.gy.data() + i), dy1, hn::LoadU(d, lower.c.data() + i));
    hn::StoreU(hn::Mul(k, hn::MulAdd(fy, hn::Sub(b1, b0), b0)), d, b + i);
    hn::StoreU(hn::Mul(k, hn::MulAdd(fy, hn::Sub(a1, a0), a0)), d, a + i);
  }
  for (std::size_t i = 0; i + hn::Lanes(d) < n; i += hn::Lanes(d)) {
    const V b1 = hn::LoadU(d, b + i + 1);
    hn::StoreU(hn::Sub(b1, hn::LoadU(d, b + i)), d, q + i);
    hn::StoreU(hn::Sub(hn::Sub(hn::LoadU(d, a + i + 1), b1), hn::LoadU(d, a + i)), d, p + i);
  }
}

// Adds up all octaves for R picture rows in one sweep: what depends on x only is loaded once for R rows.
template <NoiseShape kShape, int R, std::size_t kStride>
void sweep(const LatticeNoise::Plan& plan, const float* reduced, float* const* out) {
  const D d;
  const DI di;
  const std::size_t octaves = plan.octaves.size();
  const std::size_t lanes = hn::Lanes(d);
  const float* stream = plan.stream.data();
  const std::int32_t* first = plan.first.data();
  for (std::size_t x = 0; x < static_cast<std::size_t>(plan.width); x += lanes) {
    V sum[R];
    V carry[R];
    for (int r = 0; r < R; ++r) sum[r] = hn::Set(d, 0.5f);
    if constexpr (kShape == NoiseShape::Ridged)
      for (int r = 0; r < R; ++r) carry[r] = hn::Set(d, octaves > 0 ? plan.folds[0].strength : 0.0f);
    const auto add = [&](std::size_t r, const FoldVectors& fold, V f, V ab, V pq) HWY_ATTR {
      if constexpr (kShape == NoiseShape::Smooth) {
        sum[r] = hn::MulAdd(f, pq, hn::Add(sum[r], ab));
      } else {
        addFolded<kShape>(fold, hn::MulAdd(f, pq, ab), carry[r], sum[r]);
      }
    };
    const float* coefficients = reduced;
    for (std::size_t o = 0; o < octaves; ++o, stream += 3 * lanes, coefficients += 16 * kStride) {
      const V dx = hn::LoadU(d, stream);
      const V f = hn::LoadU(d, stream + lanes);
      const std::int32_t cell = *first++;
      const FoldVectors fold(plan.folds[o]);
      if (cell < 0) {
        // All pixels lie in one cell.
        const float* c = coefficients + ~cell;
        for (std::size_t r = 0; r < R; ++r, c += 4 * kStride) {
          const V ab = hn::MulAdd(hn::Set(d, c[kStride]), dx, hn::Set(d, c[0]));
          const V pq = hn::MulAdd(hn::Set(d, c[3 * kStride]), dx, hn::Set(d, c[2 * kStride]));
          add(r, fold, f, ab, pq);
        }
        continue;
      }
      const float* c = coefficients + cell;
      const auto lane = hn::IndicesFromVec(d, hn::BitCast(di, hn::LoadU(d, stream + 2 * lanes)));
      const auto pick = [&](const float* table) HWY_ATTR { return hn::TableLookupLanes(hn::LoadU(d, table), lane); };
      for (std::size_t r = 0; r < R; ++r, c += 4 * kStride) {
        const V ab = hn::MulAdd(pick(c + kStride), dx, pick(c));
        const V pq = hn::MulAdd(pick(c + 3 * kStride), dx, pick(c + 2 * kStride));
        add(r, fold, f, ab, pq);
      }
    }
    for (int r = 0; r < R; ++r) hn::StoreU(sum[r], d, out[r] + x);
  }
}

template <NoiseShape kShape, std::size_t kStride>
void alignedBand(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  const std::size_t octaves = plan.octaves.size();
  // Lattice rows that this band touches; the last two of each octave are kept while sweeping down.
  struct Rows {
    std::int64_t upperIndex = INT64_MIN;
    NodeRow upper, lower;
  };
  std::vector<Rows> nodes(octaves);
  const auto reduced = hwy::AllocateAligned<float>(std::max<std::size_t>(1, octaves) * 16 * kStride);
  for (int y = y0; y < y1;) {
    const int count = y1 - y >= 4 ? 4 : 1;
    for (std::size_t o = 0; o < octaves; ++o) {
      const Octave& octave = plan.octaves[o];
      for (int r = 0; r < count; ++r) {
        const double v = octave.v0 + octave.vy * (y + r);
        const auto row = static_cast<std::int64_t>(std::floor(v));
        Rows& have = nodes[o];
        if (have.upperIndex != row) {
          if (have.upperIndex != INT64_MIN && have.upperIndex + 1 == row)
            std::swap(have.upper, have.lower);
          else
            makeNodeRow(octave, plan.hashX[o], row, have.upper);
          makeNodeRow(octave, plan.hashX[o], row + 1, have.lower);
          have.upperIndex = row;
        }
        reduceRow<kStride>(have.upper, have.lower, v - static_cast<double>(row), octave.weight, plan.hashX[o].size(),
                           reduced.get() + (o * 16 + static_cast<std::size_t>(r) * 4) * kStride);
      }
    }
    float* rows[4];
    for (int r = 0; r < count; ++r) rows[r] = out + (y - y0 + r) * stride;
    if (count == 4)
      sweep<kShape, 4, kStride>(plan, reduced.get(), rows);
    else
      sweep<kShape, 1, kStride>(plan, reduced.get(), rows);
    y += count;
  }
}

template <NoiseShape kShape>
void alignedRows(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  // Off powers of two, or all rows would fall on the same cache lines.
  constexpr std::size_t kNarrow = 512 + 16;
  constexpr std::size_t kWide = 8192 + 256 + 16;
  if (plan.mostNodes <= kNarrow)
    alignedBand<kShape, kNarrow>(plan, y0, y1, out, stride);
  else
    alignedBand<kShape, kWide>(plan, y0, y1, out, stride);
}

void noiseRowsAligned(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  switch (plan.shape) {
    case NoiseShape::Smooth:
      return alignedRows<NoiseShape::Smooth>(plan, y0, y1, out, stride);
    case NoiseShape::Ridged:
      return alignedRows<NoiseShape::Ridged>(plan, y0, y1, out, stride);
    case NoiseShape::Billowing:
      return alignedRows<NoiseShape::Billowing>(plan, y0, y1, out, stride);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(noiseLanes);
HWY_EXPORT(noiseRowsAligned);

LatticeNoise::LatticeNoise(const NoiseSettings& settings, int width) : plan_(std::make_unique<Plan>()) {
  Plan& plan = *plan_;
  plan.width = width;
  plan.octaves = makeOctaves(settings);
  plan.shape = settings.shape;
  for (std::size_t o = 0; o < plan.octaves.size(); ++o) {
    const double next = o + 1 < plan.octaves.size() ? plan.octaves[o + 1].strength : 0;
    plan.folds.push_back({static_cast<float>(plan.octaves[o].strength), static_cast<float>(next), static_cast<float>(next * kRidgeCarry)});
  }
  plan.aligned = settings.uy == 0 && settings.vx == 0 && settings.ux > 0;
  if (!plan.aligned) return;
  const auto lanes = static_cast<std::size_t>(HWY_DYNAMIC_DISPATCH(noiseLanes)());
  const std::size_t vectors = (static_cast<std::size_t>(width) + lanes - 1) / lanes;
  const std::size_t octaves = plan.octaves.size();
  plan.stream.resize(vectors * octaves * 3 * lanes);
  plan.first.resize(vectors * octaves);
  plan.hashX.resize(octaves);
  for (std::size_t o = 0; o < octaves; ++o) {
    const Octave& octave = plan.octaves[o];
    const int firstCell = static_cast<int>(std::floor(octave.u0));
    const int lastCell = static_cast<int>(std::floor(octave.u0 + octave.ux * static_cast<double>(vectors * lanes - 1)));
    // Vectors are loaded whole from any cell, and one node further for differences.
    const int room = (lastCell - firstCell + 2 + 48) / 16 * 16;
    plan.mostNodes = std::max(plan.mostNodes, static_cast<std::size_t>(room));
    for (int i = 0; i < room; ++i) plan.hashX[o].push_back(cellBits(floorMod(firstCell + i, octave.periodX)) * kHashX);
    // A branch per vector only pays where it nearly always goes one way.
    const bool mayShare = octave.ux * 4 * static_cast<double>(lanes) < 1;
    for (std::size_t j = 0; j < vectors; ++j) {
      float* part = plan.stream.data() + (j * octaves + o) * 3 * lanes;
      std::int32_t& start = plan.first[j * octaves + o];
      std::int32_t lane = 0;
      for (std::size_t i = 0; i < lanes; ++i) {
        const double u = octave.u0 + octave.ux * static_cast<double>(j * lanes + i);
        const auto cell = static_cast<std::int32_t>(u);  // u0 lies in its tile, so u is not negative
        if (i == 0) start = cell - firstCell;
        lane = cell - firstCell - start;
        part[i] = static_cast<float>(u - cell);
        part[lanes + i] = static_cast<float>(fade(u - cell));
        std::memcpy(part + 2 * lanes + i, &lane, sizeof lane);
      }
      if (mayShare && lane == 0) start = ~start;
    }
  }
}

LatticeNoise::~LatticeNoise() = default;

void LatticeNoise::rows(int y0, int y1, float* out, std::ptrdiff_t stride) const {
  if (plan_->aligned)
    HWY_DYNAMIC_DISPATCH(noiseRowsAligned)(*plan_, y0, y1, out, stride);
  else
    turnedNoiseRows(*plan_, y0, y1, out, stride);
}

}  // namespace oa
#endif  // HWY_ONCE
