#include "simd/lattice_noise.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/numbers.h"
#include "base/random.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/lattice_noise.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

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

constexpr std::uint32_t kHashX = 0x9E3779B1u;
constexpr std::uint32_t kHashY = 0x85EBCA77u;
constexpr std::uint32_t kHashZ = 0xC2B2AE3Du;
constexpr std::uint32_t kHashMix = 0x2C1B3C6Du;

constexpr std::uint32_t nodeIndex(std::uint32_t mixed) {
  mixed ^= mixed >> 15;
  return (mixed * kHashMix) >> 29;
}

inline double fade(double t) { return t * t * t * (t * (t * 6 - 15) + 10); }

// What one octave needs at one moment, apart from the picture's width.
struct Octave {
  double u0, ux, uy, v0, vx, vy;
  int periodX, periodY;
  std::uint32_t hashZ[2];  // both time slices, with the octave's seed mixed in
  double fz;               // share of the way between them
  double weight;
};

// Strength of a whole stack of octaves is brought to the same standard deviation, so that turning detail or
// roughness does not change the contrast. 0.62 puts three deviations at the ends of 0 to 1.
constexpr double kGain = 0.62;

}  // namespace

struct LatticeNoise::Plan {
  struct Columns {
    int firstCell = 0;
    int nodes = 0;
    std::vector<std::uint32_t> hash;  // per node
    std::vector<float> dx;            // per pixel: place within its cell
    std::vector<float> fadeX;
    std::vector<std::int32_t> lane;   // per pixel: cell, counted from its vector's first cell
    std::vector<std::int32_t> first;  // per vector: first cell
  };
  int width = 0;
  int lanes = 1;
  bool aligned = true;
  std::vector<Octave> octaves;
  std::vector<Columns> columns;  // empty unless aligned
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
    for (int i = 0; i < 2; ++i)
      octave.hashZ[i] = static_cast<std::uint32_t>(floorMod(slice + i, periodZ)) * kHashZ ^ static_cast<std::uint32_t>(seed >> 20);
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

HWY_INLINE hn::Vec<DU> nodeIndexes(hn::Vec<DU> mixed) {
  mixed = hn::Xor(mixed, hn::ShiftRight<15>(mixed));
  return hn::ShiftRight<29>(hn::Mul(mixed, hn::Set(DU(), kHashMix)));
}

HWY_INLINE V fadeOf(V t) {
  const D d;
  const V inner = hn::MulAdd(t, hn::MulSub(t, hn::Set(d, 6.0f), hn::Set(d, 15.0f)), hn::Set(d, 10.0f));
  return hn::Mul(hn::Mul(hn::Mul(t, t), t), inner);
}

// Corner data of one lattice row at one instant: 3-D noise with the inner time fixed is 2-D noise with
// G = (1-w) g0 + w g1 and C = (1-w) g0z fz + w g1z (fz-1).
struct NodeRow {
  std::vector<float> gx, gy, c;
};

void makeNodeRow(const Octave& o, const LatticeNoise::Plan::Columns& columns, std::int64_t row, NodeRow& out) {
  const D d;
  const DU du;
  const auto& g = gradients();
  const Table8 tx = loadTable(g.x);
  const Table8 ty = loadTable(g.y);
  const Table8 tz = loadTable(g.z);
  const std::uint32_t hy = static_cast<std::uint32_t>(floorMod(row, o.periodY)) * kHashY;
  const auto h0 = hn::Set(du, hy ^ o.hashZ[0]);
  const auto h1 = hn::Set(du, hy ^ o.hashZ[1]);
  const V w = hn::Set(d, static_cast<float>(fade(o.fz)));
  const V fz = hn::Set(d, static_cast<float>(o.fz));
  const V fz1 = hn::Set(d, static_cast<float>(o.fz - 1));
  const std::size_t n = columns.hash.size();
  out.gx.resize(n);
  out.gy.resize(n);
  out.c.resize(n);
  for (std::size_t i = 0; i < n; i += hn::Lanes(d)) {
    const auto hx = hn::LoadU(du, columns.hash.data() + i);
    const auto i0 = nodeIndexes(hn::Xor(hx, h0));
    const auto i1 = nodeIndexes(hn::Xor(hx, h1));
    const V x0 = lookup8(tx, i0);
    const V y0 = lookup8(ty, i0);
    const V c0 = hn::Mul(lookup8(tz, i0), fz);
    const V c1 = hn::Mul(lookup8(tz, i1), fz1);
    hn::StoreU(hn::MulAdd(w, hn::Sub(lookup8(tx, i1), x0), x0), d, out.gx.data() + i);
    hn::StoreU(hn::MulAdd(w, hn::Sub(lookup8(ty, i1), y0), y0), d, out.gy.data() + i);
    hn::StoreU(hn::MulAdd(w, hn::Sub(c1, c0), c0), d, out.c.data() + i);
  }
}

// One picture row of one octave, reduced to four numbers per column of cells, so that a pixel is
// A + B dx + P f + Q f dx with f = fade(dx).
struct ReducedRow {
  float* a;
  float* b;
  float* p;
  float* q;
};

void reduceRow(const NodeRow& upper, const NodeRow& lower, double dyExact, double weight, std::size_t n, const ReducedRow& out) {
  const D d;
  const auto dy = static_cast<float>(dyExact);
  const V fy = hn::Set(d, static_cast<float>(fade(dyExact)));
  const V dy0 = hn::Set(d, dy);
  const V dy1 = hn::Set(d, dy - 1);
  const V k = hn::Set(d, static_cast<float>(weight));
  for (std::size_t i = 0; i < n; i += hn::Lanes(d)) {
    const V b0 = hn::LoadU(d, upper.gx.data() + i);
    const V b1 = hn::LoadU(d, lower.gx.data() + i);
    const V a0 = hn::MulAdd(hn::LoadU(d, upper.gy.data() + i), dy0, hn::LoadU(d, upper.c.data() + i));
    const V a1 = hn::MulAdd(hn::LoadU(d, lower.gy.data() + i), dy1, hn::LoadU(d, lower.c.data() + i));
    hn::StoreU(hn::Mul(k, hn::MulAdd(fy, hn::Sub(b1, b0), b0)), d, out.b + i);
    hn::StoreU(hn::Mul(k, hn::MulAdd(fy, hn::Sub(a1, a0), a0)), d, out.a + i);
  }
  for (std::size_t i = 0; i + hn::Lanes(d) < n; i += hn::Lanes(d)) {
    const V q = hn::Sub(hn::LoadU(d, out.b + i + 1), hn::LoadU(d, out.b + i));
    const V b1 = hn::LoadU(d, out.b + i + 1);
    hn::StoreU(q, d, out.q + i);
    hn::StoreU(hn::Sub(hn::Sub(hn::LoadU(d, out.a + i + 1), b1), hn::LoadU(d, out.a + i)), d, out.p + i);
  }
}

HWY_INLINE V pick(const float* table, hn::Vec<DI> lane) {
  const D d;
  if constexpr (hn::MaxLanes(D()) == 1) return hn::LoadU(d, table);
  else return hn::TableLookupLanes(hn::LoadU(d, table), hn::IndicesFromVec(d, lane));
}

// Adds up all octaves for R picture rows in one sweep: what depends on x only is loaded once for R rows.
template <int R>
void sweep(const LatticeNoise::Plan& plan, const std::vector<ReducedRow>& reduced, float* const* out) {
  const D d;
  const DI di;
  const std::size_t octaves = plan.octaves.size();
  const auto step = static_cast<std::size_t>(hn::Lanes(d));
  for (std::size_t x = 0, j = 0; x < static_cast<std::size_t>(plan.width); x += step, ++j) {
    V sum[R];
    for (int r = 0; r < R; ++r) sum[r] = hn::Set(d, 0.5f);
    for (std::size_t o = 0; o < octaves; ++o) {
      const auto& columns = plan.columns[o];
      const auto lane = hn::LoadU(di, columns.lane.data() + x);
      const V dx = hn::LoadU(d, columns.dx.data() + x);
      const V f = hn::LoadU(d, columns.fadeX.data() + x);
      const auto first = static_cast<std::size_t>(columns.first[j]);
      for (int r = 0; r < R; ++r) {
        const ReducedRow& row = reduced[o * 4 + static_cast<std::size_t>(r)];
        const V ab = hn::MulAdd(pick(row.b + first, lane), dx, pick(row.a + first, lane));
        const V pq = hn::MulAdd(pick(row.q + first, lane), dx, pick(row.p + first, lane));
        sum[r] = hn::MulAdd(f, pq, hn::Add(sum[r], ab));
      }
    }
    for (int r = 0; r < R; ++r) hn::StoreU(sum[r], d, out[r] + x);
  }
}

void noiseRowsAligned(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  const std::size_t octaves = plan.octaves.size();
  // Lattice rows that this band touches; the last two of each octave are kept while sweeping down.
  struct Rows {
    std::int64_t upperIndex = INT64_MIN;
    NodeRow upper, lower;
  };
  std::vector<Rows> nodes(octaves);
  std::vector<std::vector<float>> storage(octaves * 4);
  std::vector<ReducedRow> reduced(octaves * 4);
  for (std::size_t o = 0; o < octaves; ++o)
    for (std::size_t r = 0; r < 4; ++r) {
      const std::size_t n = plan.columns[o].hash.size();
      auto& buffer = storage[o * 4 + r];
      buffer.assign(4 * n + 64, 0.0f);
      reduced[o * 4 + r] = {buffer.data(), buffer.data() + n, buffer.data() + 2 * n, buffer.data() + 3 * n};
    }
  for (int y = y0; y < y1;) {
    const int count = y1 - y >= 4 ? 4 : 1;
    for (std::size_t o = 0; o < octaves; ++o) {
      const Octave& octave = plan.octaves[o];
      for (int r = 0; r < count; ++r) {
        const double v = octave.v0 + octave.vy * (y + r);
        const auto row = static_cast<std::int64_t>(std::floor(v));
        Rows& have = nodes[o];
        if (have.upperIndex != row) {
          if (have.upperIndex != INT64_MIN && have.upperIndex + 1 == row) std::swap(have.upper, have.lower);
          else makeNodeRow(octave, plan.columns[o], row, have.upper);
          makeNodeRow(octave, plan.columns[o], row + 1, have.lower);
          have.upperIndex = row;
        }
        reduceRow(have.upper, have.lower, v - static_cast<double>(row), octave.weight, plan.columns[o].hash.size(),
                  reduced[o * 4 + static_cast<std::size_t>(r)]);
      }
    }
    float* rows[4];
    for (int r = 0; r < count; ++r) rows[r] = out + (y - y0 + r) * stride;
    if (count == 4) sweep<4>(plan, reduced, rows);
    else sweep<1>(plan, reduced, rows);
    y += count;
  }
}

// Whole numbers modulo a period, for |value| well below 2^23.
HWY_INLINE V wrapped(V value, V period, V inverse) {
  const D d;
  V r = hn::NegMulAdd(hn::Floor(hn::Mul(value, inverse)), period, value);
  r = hn::IfThenElse(hn::Lt(r, hn::Zero(d)), hn::Add(r, period), r);
  return hn::IfThenElse(hn::Ge(r, period), hn::Sub(r, period), r);
}

// A turned lattice: every pixel hashes its own eight corners.
void noiseRowsTurned(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  const D d;
  const DI di;
  const DU du;
  const auto& g = gradients();
  const Table8 tx = loadTable(g.x);
  const Table8 ty = loadTable(g.y);
  const Table8 tz = loadTable(g.z);
  const auto step = static_cast<int>(hn::Lanes(d));
  for (int y = y0; y < y1; ++y) {
    float* row = out + (y - y0) * stride;
    for (int x = 0; x < plan.width; x += step) hn::StoreU(hn::Set(d, 0.5f), d, row + x);
    for (const Octave& o : plan.octaves) {
      const auto inTile = [](double place, int period) { return place - std::floor(place / period) * period; };
      const V u0 = hn::Set(d, static_cast<float>(inTile(o.u0 + o.uy * y, o.periodX)));
      const V v0 = hn::Set(d, static_cast<float>(inTile(o.v0 + o.vy * y, o.periodY)));
      const V ux = hn::Set(d, static_cast<float>(o.ux));
      const V vx = hn::Set(d, static_cast<float>(o.vx));
      const V px = hn::Set(d, static_cast<float>(o.periodX));
      const V py = hn::Set(d, static_cast<float>(o.periodY));
      const V ipx = hn::Set(d, 1.0f / static_cast<float>(o.periodX));
      const V ipy = hn::Set(d, 1.0f / static_cast<float>(o.periodY));
      const V fz = hn::Set(d, static_cast<float>(o.fz));
      const V fz1 = hn::Set(d, static_cast<float>(o.fz - 1));
      const V wz = hn::Set(d, static_cast<float>(fade(o.fz)));
      const V weight = hn::Set(d, static_cast<float>(o.weight));
      const V one = hn::Set(d, 1.0f);
      const auto z0 = hn::Set(du, o.hashZ[0]);
      const auto z1 = hn::Set(du, o.hashZ[1]);
      const auto kx = hn::Set(du, kHashX);
      const auto ky = hn::Set(du, kHashY);
      for (int x = 0; x < plan.width; x += step) {
        const V place = hn::ConvertTo(d, hn::Iota(di, x));
        const V u = hn::MulAdd(place, ux, u0);
        const V v = hn::MulAdd(place, vx, v0);
        const V iu = hn::Floor(u);
        const V iv = hn::Floor(v);
        const V dx = hn::Sub(u, iu);
        const V dy = hn::Sub(v, iv);
        const V cu0 = wrapped(iu, px, ipx);
        const V cv0 = wrapped(iv, py, ipy);
        const V nu = hn::Add(cu0, one);
        const V nv = hn::Add(cv0, one);
        const V cu1 = hn::IfThenZeroElse(hn::Ge(nu, px), nu);
        const V cv1 = hn::IfThenZeroElse(hn::Ge(nv, py), nv);
        const auto hashed = [&](V cell, hn::Vec<DU> k) HWY_ATTR {
          return hn::Mul(hn::BitCast(du, hn::ConvertTo(di, cell)), k);
        };
        const auto hx0 = hashed(cu0, kx);
        const auto hx1 = hashed(cu1, kx);
        const auto hy0 = hashed(cv0, ky);
        const auto hy1 = hashed(cv1, ky);
        const V dx1 = hn::Sub(dx, one);
        const V dy1 = hn::Sub(dy, one);
        const auto corner = [&](hn::Vec<DU> h, V ax, V ay) HWY_ATTR {
          const auto i0 = nodeIndexes(hn::Xor(h, z0));
          const auto i1 = nodeIndexes(hn::Xor(h, z1));
          const V n0 = hn::MulAdd(lookup8(tx, i0), ax, hn::MulAdd(lookup8(ty, i0), ay, hn::Mul(lookup8(tz, i0), fz)));
          const V n1 = hn::MulAdd(lookup8(tx, i1), ax, hn::MulAdd(lookup8(ty, i1), ay, hn::Mul(lookup8(tz, i1), fz1)));
          return hn::MulAdd(wz, hn::Sub(n1, n0), n0);
        };
        const V c00 = corner(hn::Xor(hx0, hy0), dx, dy);
        const V c10 = corner(hn::Xor(hx1, hy0), dx1, dy);
        const V c01 = corner(hn::Xor(hx0, hy1), dx, dy1);
        const V c11 = corner(hn::Xor(hx1, hy1), dx1, dy1);
        const V fx = fadeOf(dx);
        const V top = hn::MulAdd(fx, hn::Sub(c10, c00), c00);
        const V bottom = hn::MulAdd(fx, hn::Sub(c11, c01), c01);
        const V value = hn::MulAdd(fadeOf(dy), hn::Sub(bottom, top), top);
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

int octaveChurn(int churn, int octave) {
  return static_cast<int>(std::lround(churn * std::pow(1.4, octave)));
}

LatticeNoise::LatticeNoise(const NoiseSettings& settings, int width) : plan_(std::make_unique<Plan>()) {
  Plan& plan = *plan_;
  plan.width = width;
  plan.octaves = makeOctaves(settings);
  plan.lanes = HWY_DYNAMIC_DISPATCH(noiseLanes)();
  plan.aligned = settings.uy == 0 && settings.vx == 0 && settings.ux > 0;
  if (!plan.aligned) return;
  const int padded = (width + 15) / 16 * 16;
  for (const Octave& octave : plan.octaves) {
    Plan::Columns columns;
    columns.firstCell = static_cast<int>(std::floor(octave.u0));
    const int lastCell = static_cast<int>(std::floor(octave.u0 + octave.ux * (padded - 1)));
    columns.nodes = lastCell - columns.firstCell + 2;
    // Vectors are loaded whole from any cell, and one node further for differences.
    const int room = (columns.nodes + 48) / 16 * 16;
    columns.hash.resize(static_cast<std::size_t>(room));
    for (int i = 0; i < room; ++i)
      columns.hash[static_cast<std::size_t>(i)] =
          static_cast<std::uint32_t>(floorMod(columns.firstCell + i, octave.periodX)) * kHashX;
    columns.dx.resize(static_cast<std::size_t>(padded));
    columns.fadeX.resize(columns.dx.size());
    columns.lane.resize(columns.dx.size());
    for (int x = 0; x < padded; ++x) {
      const auto i = static_cast<std::size_t>(x);
      const double u = octave.u0 + octave.ux * x;
      const int cell = static_cast<int>(std::floor(u)) - columns.firstCell;
      if (x % plan.lanes == 0) columns.first.push_back(cell);
      columns.lane[i] = cell - columns.first.back();
      columns.dx[i] = static_cast<float>(u - std::floor(u));
      columns.fadeX[i] = static_cast<float>(fade(u - std::floor(u)));
    }
    plan.columns.push_back(std::move(columns));
  }
}

LatticeNoise::~LatticeNoise() = default;

void LatticeNoise::rows(int y0, int y1, float* out, std::ptrdiff_t stride) const {
  if (plan_->aligned) HWY_DYNAMIC_DISPATCH(noiseRowsAligned)(*plan_, y0, y1, out, stride);
  else HWY_DYNAMIC_DISPATCH(noiseRowsTurned)(*plan_, y0, y1, out, stride);
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
      const auto hx = static_cast<std::uint32_t>(floorMod(static_cast<std::int64_t>(std::floor(u)) + i, o.periodX)) * kHashX;
      const auto hy = static_cast<std::uint32_t>(floorMod(static_cast<std::int64_t>(std::floor(v)) + j, o.periodY)) * kHashY;
      const std::uint32_t n = nodeIndex(hx ^ hy ^ o.hashZ[k]);
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
