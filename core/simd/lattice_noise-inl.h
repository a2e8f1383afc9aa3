// Vector code that the paths of lattice noise share; included once for each SIMD target, as Highway's -inl files are.
#if defined(OA_LATTICE_NOISE_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_LATTICE_NOISE_INL
#undef OA_LATTICE_NOISE_INL
#else
#define OA_LATTICE_NOISE_INL
#endif

#include <hwy/highway.h>

#include "simd/lattice_plan.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using DI = hn::RebindToSigned<D>;
using DU = hn::RebindToUnsigned<D>;
using V = hn::Vec<D>;

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

// What an octave of a folded field multiplies with, in all lanes.
struct FoldVectors {
  V strength, next, nextCarry, nextBase;
  HWY_INLINE explicit FoldVectors(const FoldStep& step)
      : strength(hn::Set(D(), step.strength)),
        next(hn::Set(D(), step.next)),
        nextCarry(hn::Set(D(), step.nextCarry)),
        nextBase(hn::Set(D(), step.nextCarry * static_cast<float>(kRidgeMean))) {}
};

// Adds one octave's share of a folded field, see foldedShape(); what is carried holds the strengths already.
template <NoiseShape kShape>
HWY_INLINE void addFolded(const FoldVectors& step, V noise, V& carry, V& sum) {
  const D d;
  if constexpr (kShape == NoiseShape::Billowing) {
    const V height = hn::Min(hn::Set(d, 1.0f), hn::Abs(noise));
    sum = hn::MulAdd(hn::Sub(height, hn::Set(d, static_cast<float>(kBillowMean))), step.strength, sum);
  } else {
    const V left = hn::Max(hn::Zero(d), hn::Sub(hn::Set(d, 1.0f), hn::Abs(noise)));
    const V centred = hn::MulSub(left, left, hn::Set(d, static_cast<float>(kRidgeMean)));
    sum = hn::MulAdd(centred, carry, sum);
    carry = hn::Min(step.next, hn::MulAdd(centred, step.nextCarry, step.nextBase));
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
