// Turned rows of lattice noise, and lattice noise at any places.
#include <algorithm>
#include <cmath>
#include <vector>

#include "base/numbers.h"
#include "simd/lattice_noise.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/lattice_turned.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/lattice_noise-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// Whole numbers modulo a whole period, for |value| below 2^23. The half keeps multiples of the period off the
// rounding error of its inverse.
HWY_INLINE V wrapped(V value, V period, V inverse) {
  const V laps = hn::Floor(hn::Mul(hn::Add(value, hn::Set(D(), 0.5f)), inverse));
  return hn::NegMulAdd(laps, period, value);
}

HWY_INLINE V lerp(V t, V a, V b) { return hn::MulAdd(t, hn::Sub(b, a), a); }

// One octave of a lattice: its value at any places.
struct OctaveField {
  InstantTables tables;
  V px, py, ipx, ipy;
  hn::Vec<DU> seed;

  explicit OctaveField(const Octave& o)
      : tables(o),
        px(hn::Set(D(), static_cast<float>(o.periodX))),
        py(hn::Set(D(), static_cast<float>(o.periodY))),
        ipx(hn::Set(D(), 1.0f / static_cast<float>(o.periodX))),
        ipy(hn::Set(D(), 1.0f / static_cast<float>(o.periodY))),
        seed(hn::Set(DU(), o.seed)) {}

  // Places within cell (iu, iv), which every lane finds its own corners for.
  HWY_INLINE V at(V iu, V iv, V dx, V dy) const {
    const D d;
    const DU du;
    const V one = hn::Set(d, 1.0f);
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
      return hn::MulAdd(gx, ax, hn::MulAdd(gy, ay, c));
    };
    const V dx1 = hn::Sub(dx, one);
    const V dy1 = hn::Sub(dy, one);
    const V fx = fadeOf(dx);
    return lerp(fadeOf(dy), lerp(fx, corner(hn::Xor(hx0, hy0), dx, dy), corner(hn::Xor(hx1, hy0), dx1, dy)),
                lerp(fx, corner(hn::Xor(hx0, hy1), dx, dy1), corner(hn::Xor(hx1, hy1), dx1, dy1)));
  }
};

// Adds one octave's share to what is stored; `carry` is only touched by ridges.
template <NoiseShape kShape>
HWY_INLINE void addShare(const Octave& o, const FoldStep& step, V value, float* sum, float* carry) {
  const D d;
  const V weight = hn::Set(d, static_cast<float>(o.weight));
  if constexpr (kShape == NoiseShape::Smooth) {
    hn::StoreU(hn::MulAdd(weight, value, hn::LoadU(d, sum)), d, sum);
  } else {
    V c = kShape == NoiseShape::Ridged ? hn::LoadU(d, carry) : hn::Zero(d);
    V total = hn::LoadU(d, sum);
    addFolded<kShape>(FoldVectors(step), hn::Mul(weight, value), c, total);
    hn::StoreU(total, d, sum);
    if constexpr (kShape == NoiseShape::Ridged) hn::StoreU(c, d, carry);
  }
}

// A turned lattice: every pixel finds its own four corners, unless a whole vector shares a cell.
template <NoiseShape kShape>
void turnedRows(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  const D d;
  const DU du;
  const V one = hn::Set(d, 1.0f);
  const V within = hn::Iota(d, 0.0f);
  const auto step = static_cast<int>(hn::Lanes(d));
  for (int y = y0; y < y1; ++y) {
    float* row = out + (y - y0) * stride;
    for (int x = 0; x < plan.width; x += step) hn::StoreU(hn::Set(d, 0.5f), d, row + x);
  }
  const std::ptrdiff_t carryStride = plan.width + 16;
  std::vector<float> carry(kShape == NoiseShape::Ridged ? static_cast<std::size_t>(carryStride * (y1 - y0)) : 0,
                           plan.folds.empty() ? 0.0f : plan.folds[0].strength);
  for (std::size_t octave = 0; octave < plan.octaves.size(); ++octave) {
    const Octave& o = plan.octaves[octave];
    const OctaveField field(o);
    const auto inTile = [](double place, int period) { return place - std::floor(place / period) * period; };
    const V ux = hn::Set(d, static_cast<float>(o.ux));
    const V vx = hn::Set(d, static_cast<float>(o.vx));
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
        const float cellU = hn::GetLane(iu);
        const float cellV = hn::GetLane(iv);
        V value;
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
            field.tables.at(hn::LoadU(du, nodes), gx, gy, c);
            const V* const parts[3] = {&gx, &gy, &c};
            for (int part = 0; part < 3; ++part) {
              hn::StoreU(*parts[part], d, lanes);
              for (int k = 0; k < 4; ++k) shared[part * 4 + k] = lanes[k];
            }
          }
          const auto corner = [&](int k, V ax, V ay) HWY_ATTR {
            return hn::MulAdd(hn::Set(d, shared[k]), ax, hn::MulAdd(hn::Set(d, shared[4 + k]), ay, hn::Set(d, shared[8 + k])));
          };
          const V dx1 = hn::Sub(dx, one);
          const V dy1 = hn::Sub(dy, one);
          const V fx = fadeOf(dx);
          value = lerp(fadeOf(dy), lerp(fx, corner(0, dx, dy), corner(1, dx1, dy)), lerp(fx, corner(2, dx, dy1), corner(3, dx1, dy1)));
        } else {
          value = field.at(iu, iv, dx, dy);
        }
        addShare<kShape>(o, plan.folds[octave], value, row + x,
                         kShape == NoiseShape::Ridged ? carry.data() + (y - y0) * carryStride + x : nullptr);
      }
    }
  }
}

void noiseRowsTurned(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  switch (plan.shape) {
    case NoiseShape::Smooth:
      return turnedRows<NoiseShape::Smooth>(plan, y0, y1, out, stride);
    case NoiseShape::Ridged:
      return turnedRows<NoiseShape::Ridged>(plan, y0, y1, out, stride);
    case NoiseShape::Billowing:
      return turnedRows<NoiseShape::Billowing>(plan, y0, y1, out, stride);
  }
}

void noiseAtPlaces(const LatticeNoise::Plan& plan, const float* u, const float* v, int n, float* out) {
  const D d;
  const auto step = static_cast<int>(hn::Lanes(d));
  for (int i = 0; i < n; i += step) hn::StoreU(hn::Set(d, 0.5f), d, out + i);
  for (std::size_t octave = 0; octave < plan.octaves.size(); ++octave) {
    const Octave& o = plan.octaves[octave];
    const OctaveField field(o);
    const V timesU = hn::Set(d, static_cast<float>(o.timesU));
    const V timesV = hn::Set(d, static_cast<float>(o.timesV));
    const V shiftU = hn::Set(d, static_cast<float>(o.shiftU));
    const V shiftV = hn::Set(d, static_cast<float>(o.shiftV));
    for (int i = 0; i < n; i += step) {
      const V pu = hn::MulAdd(hn::LoadU(d, u + i), timesU, shiftU);
      const V pv = hn::MulAdd(hn::LoadU(d, v + i), timesV, shiftV);
      const V iu = hn::Floor(pu);
      const V iv = hn::Floor(pv);
      addShare<NoiseShape::Smooth>(o, plan.folds[octave], field.at(iu, iv, hn::Sub(pu, iu), hn::Sub(pv, iv)), out + i, nullptr);
    }
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(noiseRowsTurned);
HWY_EXPORT(noiseAtPlaces);

void turnedNoiseRows(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride) {
  HWY_DYNAMIC_DISPATCH(noiseRowsTurned)(plan, y0, y1, out, stride);
}

void LatticeNoise::at(const float* u, const float* v, int n, float* out) const {
  HWY_DYNAMIC_DISPATCH(noiseAtPlaces)(*plan_, u, v, n, out);
}

}  // namespace oa
#endif  // HWY_ONCE
