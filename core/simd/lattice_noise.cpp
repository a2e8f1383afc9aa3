#include "simd/lattice_noise.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

#include "base/numbers.h"
#include "base/random.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/lattice_noise.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/aligned_allocator.h>

#ifndef OA_LATTICE_NOISE_ONCE
#define OA_LATTICE_NOISE_ONCE
namespace oa {
namespace {

// The corners (+-1, +-1, +-1) / sqrt(3) turned by a generic rotation: isotropic to second order and without
// a preferred axis in the picture. Computed as Rz(0.7) Ry(0.5) Rx(0.3) c, rounded.
struct Gradients {
  alignas(64) float x[16];
  alignas(64) float y[16];
  alignas(64) float z[16];
};

const Gradients& gradients() {
  static const Gradients table = [] {
    Gradients g{};
    const double a = 0.3;
    const double b = 0.5;
    const double c = 0.7;
    for (int i = 0; i < 16; ++i) {
      const double s = 1 / std::sqrt(3.0);
      const double px = (i & 1 ? s : -s);
      const double py = (i & 2 ? s : -s);
      const double pz = (i & 4 ? s : -s);
      const double y1 = std::cos(a) * py - std::sin(a) * pz;
      const double z1 = std::sin(a) * py + std::cos(a) * pz;
      const double x2 = std::cos(b) * px + std::sin(b) * z1;
      const double z2 = -std::sin(b) * px + std::cos(b) * z1;
      g.x[i] = static_cast<float>(std::cos(c) * x2 - std::sin(c) * y1);
      g.y[i] = static_cast<float>(std::sin(c) * x2 + std::cos(c) * y1);
      g.z[i] = static_cast<float>(z2);
    }
    return g;
  }();
  return table;
}

// A node's place is mixed once; each time slice then draws its gradient with a multiplier of its own, so that a
// pixel that looks at two slices pays for one hash.
constexpr std::uint32_t kHashX = 0x9E3779B1u;
constexpr std::uint32_t kHashY = 0x85EBCA77u;

// A cell's number as it stands in the mantissa of the float 2^23 + cell: vectors get it by adding, without the
// several instructions of a conversion.
constexpr std::uint32_t cellBits(std::int64_t cell) { return 0x4B000000u + static_cast<std::uint32_t>(cell); }

constexpr std::uint32_t nodeIndex(std::uint32_t place, std::uint32_t slice) {
  place ^= place >> 15;
  return (place * slice) >> 29;
}

inline double fade(double t) { return t * t * t * (t * (t * 6 - 15) + 10); }

// What one octave needs at one moment, apart from the picture's width.
struct Octave {
  double u0, ux, uy, v0, vx, vy;
  int periodX, periodY;
  std::uint32_t seed;
  std::uint32_t slice[2];  // odd multipliers of both time slices
  double fz;               // share of the way between them
  double weight;
};

// Strength of a whole stack of octaves is brought to the same standard deviation, so that turning detail or
// roughness does not change the contrast. 0.62 puts three deviations at the ends of 0 to 1.
constexpr double kGain = 0.62;

}  // namespace

struct LatticeNoise::Plan {
  int width = 0;
  bool aligned = true;
  std::vector<Octave> octaves;

  // For axis-aligned rows. For each vector of pixels and each octave, one after the other as the sweep reads them:
  // the places within their cells, their fades, and (as integers) their cells counted from the vector's first.
  std::vector<float> stream;
  std::vector<std::int32_t> first;                // the vector's first cell; its complement where all pixels share it
  std::vector<std::vector<std::uint32_t>> hashX;  // per octave and column of nodes
  std::size_t mostNodes = 0;
};

namespace {

std::vector<Octave> makeOctaves(const NoiseSettings& s) {
  std::vector<Octave> list;
  double energy = 0;
  double strength = 1;
  for (int o = 0; o < s.octaves; ++o, strength *= s.roughness) {
    energy += strength * strength;
    const double f = std::ldexp(1.0, o);
    const double perPixel = f * std::max(std::hypot(s.ux, s.uy), std::hypot(s.vx, s.vy));
    // Cells below two pixels fade out and below one are gone: they would only alias.
    const double visible = std::clamp(1 / perPixel - 1, 0.0, 1.0);
    const std::uint64_t seed = mix64((std::uint64_t{s.seed} << 8) | static_cast<std::uint64_t>(o));
    Octave octave{};
    octave.periodX = s.periodX << o;
    octave.periodY = s.periodY << o;
    // Each octave is shifted by a share of a cell, or the zeros of all lattices would meet.
    const auto placed = [&](double origin, std::uint64_t index, int period) {
      const double place = origin * f + randomUnit(seed, index);
      return place - std::floor(place / period) * period;
    };
    octave.u0 = placed(s.u0, 0, octave.periodX);
    octave.v0 = placed(s.v0, 1, octave.periodY);
    octave.ux = s.ux * f;
    octave.uy = s.uy * f;
    octave.vx = s.vx * f;
    octave.vy = s.vy * f;
    const int periodZ = std::max(1, octaveChurn(s.churn, o));
    const double z = randomUnit(seed, 2) + octaveChurn(s.churn, o) * s.progress;
    const auto slice = static_cast<std::int64_t>(std::floor(z));
    octave.fz = z - std::floor(z);
    octave.seed = static_cast<std::uint32_t>(seed >> 20);
    for (int i = 0; i < 2; ++i)
      octave.slice[i] = static_cast<std::uint32_t>(mix64(seed ^ static_cast<std::uint64_t>(floorMod(slice + i, periodZ))) >> 32) | 1u;
    octave.weight = strength * visible;
    list.push_back(octave);
  }
  const double norm = kGain / std::sqrt(energy);
  std::erase_if(list, [](const Octave& octave) { return octave.weight <= 0; });
  for (Octave& octave : list) octave.weight *= norm;
  return list;
}

}  // namespace
}  // namespace oa
#endif  // OA_LATTICE_NOISE_ONCE

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using DI = hn::RebindToSigned<D>;
using DU = hn::RebindToUnsigned<D>;
using V = hn::Vec<D>;

int noiseLanes() { return static_cast<int>(hn::Lanes(D())); }

// An eight-entry table as one permute where vectors are wide enough, else two and a choice.
struct Table8 {
  V lo;
  V hi;
};
HWY_INLINE Table8 loadTable(const float* entries) {
  const D d;
  return {hn::LoadU(d, entries), hn::LoadU(d, entries + (hn::MaxLanes(d) >= 8 ? 0 : 4))};
}
HWY_INLINE V lookup8(const Table8& table, hn::Vec<DU> index) {
  const DI di;
  const DU du;
  if constexpr (hn::MaxLanes(D()) >= 8) {
    return hn::TableLookupLanes(table.lo, hn::IndicesFromVec(D(), hn::BitCast(di, index)));
  } else if constexpr (hn::MaxLanes(D()) == 4) {
    const auto low = hn::IndicesFromVec(D(), hn::BitCast(di, hn::And(index, hn::Set(du, 3))));
    const auto upper = hn::Ne(hn::And(index, hn::Set(du, 4)), hn::Zero(du));
    return hn::IfThenElse(hn::RebindMask(D(), upper), hn::TableLookupLanes(table.hi, low), hn::TableLookupLanes(table.lo, low));
  } else {
    return table.lo;
  }
}

// Corner data of nodes at one instant: 3-D noise with the inner time fixed is 2-D noise with
// G = (1-w) g0 + w g1 and C = (1-w) g0z fz + w g1z (fz-1). The factors are multiplied into the tables.
struct InstantTables {
  Table8 x[2];
  Table8 y[2];
  Table8 c[2];
  hn::Vec<DU> slice[2];

  explicit InstantTables(const Octave& o) {
    const D d;
    const auto& g = gradients();
    const double w = fade(o.fz);
    for (int k = 0; k < 2; ++k) {
      const double share = k == 0 ? 1 - w : w;
      const auto scaled = [&](const float* table, double by) HWY_ATTR {
        const V f = hn::Set(d, static_cast<float>(by));
        Table8 t = loadTable(table);
        t.lo = hn::Mul(t.lo, f);
        t.hi = hn::Mul(t.hi, f);
        return t;
      };
      x[k] = scaled(g.x, share);
      y[k] = scaled(g.y, share);
      c[k] = scaled(g.z, share * (o.fz - k));
      slice[k] = hn::Set(DU(), o.slice[k]);
    }
  }

  HWY_INLINE void at(hn::Vec<DU> place, V& gx, V& gy, V& constant) const {
    place = hn::Xor(place, hn::ShiftRight<15>(place));
    const auto i0 = hn::ShiftRight<29>(hn::Mul(place, slice[0]));
    const auto i1 = hn::ShiftRight<29>(hn::Mul(place, slice[1]));
    gx = hn::Add(lookup8(x[0], i0), lookup8(x[1], i1));
    gy = hn::Add(lookup8(y[0], i0), lookup8(y[1], i1));
    constant = hn::Add(lookup8(c[0], i0), lookup8(c[1], i1));
  }
};

HWY_INLINE V fadeOf(V t) {
  const D d;
  const V inner = hn::MulAdd(t, hn::MulSub(t, hn::Set(d, 6.0f), hn::Set(d, 15.0f)), hn::Set(d, 10.0f));
  return hn::Mul(hn::Mul(hn::Mul(t, t), t), inner);
}

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
template <int R, std::size_t kStride>
void sweep(const LatticeNoise::Plan& plan, const float* reduced, float* const* out) {
  const D d;
  const DI di;
  const std::size_t octaves = plan.octaves.size();
  const std::size_t lanes = hn::Lanes(d);
  const float* stream = plan.stream.data();
  const std::int32_t* first = plan.first.data();
  for (std::size_t x = 0; x < static_cast<std::size_t>(plan.width); x += lanes) {
    V sum[R];
    for (int r = 0; r < R; ++r) sum[r] = hn::Set(d, 0.5f);
    const float* coefficients = reduced;
    for (std::size_t o = 0; o < octaves; ++o, stream += 3 * lanes, coefficients += 16 * kStride) {
      const V dx = hn::LoadU(d, stream);
      const V f = hn::LoadU(d, stream + lanes);
      const std::int32_t cell = *first++;
      if (cell < 0) {
        // All pixels lie in one cell.
        const float* c = coefficients + ~cell;
        for (std::size_t r = 0; r < R; ++r, c += 4 * kStride) {
          const V ab = hn::MulAdd(hn::Set(d, c[kStride]), dx, hn::Set(d, c[0]));
          const V pq = hn::MulAdd(hn::Set(d, c[3 * kStride]), dx, hn::Set(d, c[2 * kStride]));
          sum[r] = hn::MulAdd(f, pq, hn::Add(sum[r], ab));
        }
        continue;
      }
      const float* c = coefficients + cell;
      const auto lane = hn::IndicesFromVec(d, hn::BitCast(di, hn::LoadU(d, stream + 2 * lanes)));
      const auto pick = [&](const float* table) HWY_ATTR { return hn::TableLookupLanes(hn::LoadU(d, table), lane); };
      for (std::size_t r = 0; r < R; ++r, c += 4 * kStride) {
        const V ab = hn::MulAdd(pick(c + kStride), dx, pick(c));
        const V pq = hn::MulAdd(pick(c + 3 * kStride), dx, pick(c + 2 * kStride));
        sum[r] = hn::MulAdd(f, pq, hn::Add(sum[r], ab));
      }
    }
    for (int r = 0; r < R; ++r) hn::StoreU(sum[r], d, out[r] + x);
  }
}

template <std::size_t kStride>
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
      sweep<4, kStride>(plan, reduced.get(), rows);
    else
      sweep<1, kStride>(plan, reduced.get(), rows);
    y += count;
  }
}

void noiseRowsAligned(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  // Off powers of two, or all rows would fall on the same cache lines.
  constexpr std::size_t kNarrow = 512 + 16;
  constexpr std::size_t kWide = 8192 + 256 + 16;
  if (plan.mostNodes <= kNarrow)
    alignedBand<kNarrow>(plan, y0, y1, out, stride);
  else
    alignedBand<kWide>(plan, y0, y1, out, stride);
}

// Whole numbers modulo a whole period, for |value| below 2^23. The half keeps multiples of the period off the
// rounding error of its inverse.
HWY_INLINE V wrapped(V value, V period, V inverse) {
  const V laps = hn::Floor(hn::Mul(hn::Add(value, hn::Set(D(), 0.5f)), inverse));
  return hn::NegMulAdd(laps, period, value);
}

HWY_INLINE V lerp(V t, V a, V b) { return hn::MulAdd(t, hn::Sub(b, a), a); }

// A turned lattice: every pixel finds its own four corners, unless a whole vector shares a cell.
void noiseRowsTurned(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  const D d;
  const DU du;
  const V one = hn::Set(d, 1.0f);
  const V within = hn::Iota(d, 0.0f);
  const auto step = static_cast<int>(hn::Lanes(d));
  for (int y = y0; y < y1; ++y) {
    float* row = out + (y - y0) * stride;
    for (int x = 0; x < plan.width; x += step) hn::StoreU(hn::Set(d, 0.5f), d, row + x);
  }
  for (const Octave& o : plan.octaves) {
    const InstantTables tables(o);
    const auto inTile = [](double place, int period) { return place - std::floor(place / period) * period; };
    const V ux = hn::Set(d, static_cast<float>(o.ux));
    const V vx = hn::Set(d, static_cast<float>(o.vx));
    const V px = hn::Set(d, static_cast<float>(o.periodX));
    const V py = hn::Set(d, static_cast<float>(o.periodY));
    const V ipx = hn::Set(d, 1.0f / static_cast<float>(o.periodX));
    const V ipy = hn::Set(d, 1.0f / static_cast<float>(o.periodY));
    const V weight = hn::Set(d, static_cast<float>(o.weight));
    const auto seed = hn::Set(du, o.seed);
    // Sharing only pays where cells are wide against a vector.
    const bool mayShare = std::max(std::abs(o.ux), std::abs(o.vx)) * 2 * step < 1;
    for (int y = y0; y < y1; ++y) {
      float* row = out + (y - y0) * stride;
      const auto startU = static_cast<float>(inTile(o.u0 + o.uy * y, o.periodX));
      const auto startV = static_cast<float>(inTile(o.v0 + o.vy * y, o.periodY));
      const V u0 = hn::Set(d, startU);
      const V v0 = hn::Set(d, startV);
      float sharedU = -1e30f;
      float sharedV = -1e30f;
      // Corner data of the last shared cell: gradient x, y and constant of the four corners.
      float shared[12] = {};
      for (int x = 0; x < plan.width; x += step) {
        const V place = hn::Add(hn::Set(d, static_cast<float>(x)), within);
        const V u = hn::MulAdd(place, ux, u0);
        const V v = hn::MulAdd(place, vx, v0);
        const V iu = hn::Floor(u);
        const V iv = hn::Floor(v);
        const V dx = hn::Sub(u, iu);
        const V dy = hn::Sub(v, iv);
        const V dx1 = hn::Sub(dx, one);
        const V dy1 = hn::Sub(dy, one);
        const V fx = fadeOf(dx);
        const V fy = fadeOf(dy);
        const float cellU = hn::GetLane(iu);
        const float cellV = hn::GetLane(iv);
        V n00, n10, n01, n11;
        const auto dot = [](V gx, V gy, V c, V ax, V ay) HWY_ATTR { return hn::MulAdd(gx, ax, hn::MulAdd(gy, ay, c)); };
        if (mayShare && hn::AllTrue(d, hn::And(hn::Eq(iu, hn::Set(d, cellU)), hn::Eq(iv, hn::Set(d, cellV))))) {
          if (cellU != sharedU || cellV != sharedV) {
            sharedU = cellU;
            sharedV = cellV;
            std::uint32_t nodes[16] = {};
            for (int k = 0; k < 4; ++k)
              nodes[k] = cellBits(floorMod(static_cast<std::int64_t>(cellU) + (k & 1), o.periodX)) * kHashX ^
                         cellBits(floorMod(static_cast<std::int64_t>(cellV) + (k >> 1), o.periodY)) * kHashY ^ o.seed;
            V gx, gy, c;
            float lanes[16];
            tables.at(hn::LoadU(du, nodes), gx, gy, c);
            const V* const parts[3] = {&gx, &gy, &c};
            for (int part = 0; part < 3; ++part) {
              hn::StoreU(*parts[part], d, lanes);
              for (int k = 0; k < 4; ++k) shared[part * 4 + k] = lanes[k];
            }
          }
          const auto corner = [&](int k, V ax, V ay) HWY_ATTR {
            return dot(hn::Set(d, shared[k]), hn::Set(d, shared[4 + k]), hn::Set(d, shared[8 + k]), ax, ay);
          };
          n00 = corner(0, dx, dy);
          n10 = corner(1, dx1, dy);
          n01 = corner(2, dx, dy1);
          n11 = corner(3, dx1, dy1);
        } else {
          const V cu0 = wrapped(iu, px, ipx);
          const V cv0 = wrapped(iv, py, ipy);
          const V nu = hn::Add(cu0, one);
          const V nv = hn::Add(cv0, one);
          const V cu1 = hn::IfThenZeroElse(hn::Ge(nu, px), nu);
          const V cv1 = hn::IfThenZeroElse(hn::Ge(nv, py), nv);
          const auto hashed = [&](V cell, std::uint32_t k)
                                  HWY_ATTR { return hn::Mul(hn::BitCast(du, hn::Add(cell, hn::Set(d, 8388608.0f))), hn::Set(du, k)); };
          const auto hx0 = hashed(cu0, kHashX);
          const auto hx1 = hashed(cu1, kHashX);
          const auto hy0 = hn::Xor(hashed(cv0, kHashY), seed);
          const auto hy1 = hn::Xor(hashed(cv1, kHashY), seed);
          const auto corner = [&](hn::Vec<DU> h, V ax, V ay) HWY_ATTR {
            V gx, gy, c;
            tables.at(h, gx, gy, c);
            return dot(gx, gy, c, ax, ay);
          };
          n00 = corner(hn::Xor(hx0, hy0), dx, dy);
          n10 = corner(hn::Xor(hx1, hy0), dx1, dy);
          n01 = corner(hn::Xor(hx0, hy1), dx, dy1);
          n11 = corner(hn::Xor(hx1, hy1), dx1, dy1);
        }
        const V value = lerp(fy, lerp(fx, n00, n10), lerp(fx, n01, n11));
        hn::StoreU(hn::MulAdd(weight, value, hn::LoadU(d, row + x)), d, row + x);
      }
    }
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(noiseLanes);
HWY_EXPORT(noiseRowsAligned);
HWY_EXPORT(noiseRowsTurned);

int octaveChurn(int churn, int octave) { return static_cast<int>(std::lround(churn * std::pow(1.4, octave))); }

LatticeNoise::LatticeNoise(const NoiseSettings& settings, int width) : plan_(std::make_unique<Plan>()) {
  Plan& plan = *plan_;
  plan.width = width;
  plan.octaves = makeOctaves(settings);
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
    HWY_DYNAMIC_DISPATCH(noiseRowsTurned)(*plan_, y0, y1, out, stride);
}

double LatticeNoise::reference(const NoiseSettings& settings, double x, double y) {
  const auto& g = gradients();
  double sum = 0.5;
  for (const Octave& o : makeOctaves(settings)) {
    const double u = o.u0 + o.ux * x + o.uy * y;
    const double v = o.v0 + o.vx * x + o.vy * y;
    const double dx = u - std::floor(u);
    const double dy = v - std::floor(v);
    const auto corner = [&](int i, int j, int k) {
      const auto hx = cellBits(floorMod(static_cast<std::int64_t>(std::floor(u)) + i, o.periodX)) * kHashX;
      const auto hy = cellBits(floorMod(static_cast<std::int64_t>(std::floor(v)) + j, o.periodY)) * kHashY;
      const std::uint32_t n = nodeIndex(hx ^ hy ^ o.seed, o.slice[k]);
      return static_cast<double>(g.x[n]) * (dx - i) + static_cast<double>(g.y[n]) * (dy - j) + static_cast<double>(g.z[n]) * (o.fz - k);
    };
    const auto plane = [&](int k) {
      return mix(mix(corner(0, 0, k), corner(1, 0, k), fade(dx)), mix(corner(0, 1, k), corner(1, 1, k), fade(dx)), fade(dy));
    };
    sum += o.weight * mix(plane(0), plane(1), fade(o.fz));
  }
  return sum;
}

}  // namespace oa
#endif  // HWY_ONCE
