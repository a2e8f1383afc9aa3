#include "image/transfer.h"

#include "image/rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/transfer.cpp"
#include <hwy/foreach_target.h>
#include <hwy/cache_control.h>
#include <hwy/highway.h>

#include "image/transfer-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

template <class Curve, bool kOpaque = false>
HWY_INLINE void eachSeveral(const float* from, float* to, int n) {
  const D d;
  const std::size_t lanes = hn::Lanes(d);
  const std::size_t count = static_cast<std::size_t>(n) * 4;
  for (std::size_t i = 0; i < count; i += lanes * kByTurns) {
    V p[kByTurns];
    for (std::size_t k = 0; k < kByTurns; ++k) {
      const float* const at = from + i + k * lanes;
      // The next span of what lies finished in memory.
      hwy::Prefetch(at + static_cast<std::ptrdiff_t>(kSpanStep) * 4);
      p[k] = hn::LoadU(d, at);
    }
    if (kOpaque)
      ofOpaque<Curve>(d, p);
    else
      ofColours<Curve>(d, p);
    for (std::size_t k = 0; k < kByTurns; ++k) hn::StoreU(p[k], d, to + i + k * lanes);
  }
}

template <class Curved>
HWY_INLINE void eachPixel(const float* from, float* to, int n, Curved curved) {
  const D d;
  const std::size_t count = static_cast<std::size_t>(n) * 4;
  for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
    // The next span of what lies finished in memory.
    hwy::Prefetch(from + i + static_cast<std::ptrdiff_t>(kSpanStep) * 4);
    hn::StoreU(curved(hn::LoadU(d, from + i)), d, to + i);
  }
}

void decodeSpanOn(const float* from, float* to, int n) { eachSeveral<Decoded>(from, to, n); }

void decodeTintOn(const float* from, const float* light, float* to, int n) {
  const V whole = hn::LoadDup128(D(), light);
  eachPixel(from, to, n, [&](V p) HWY_ATTR { return hn::Mul(alphaOf(D(), p), whole); });
}

void encodeSpanOn(float* rgba, int n) { eachSeveral<Encoded>(rgba, rgba, n); }

void decodeOpaqueOn(const float* from, float* to, int n) { eachSeveral<Decoded, true>(from, to, n); }

void encodeOpaqueOn(float* rgba, int n) { eachSeveral<Encoded, true>(rgba, rgba, n); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(decodeSpanOn);
HWY_EXPORT(decodeTintOn);
HWY_EXPORT(encodeSpanOn);
HWY_EXPORT(decodeOpaqueOn);
HWY_EXPORT(encodeOpaqueOn);

void decodeSpan(float* rgba, int n) { decodeSpan(rgba, rgba, n); }
void decodeSpan(const float* from, float* to, int n) { HWY_DYNAMIC_DISPATCH(decodeSpanOn)(from, to, n); }
void decodeTint(const float* from, const float light[4], float* to, int n) { HWY_DYNAMIC_DISPATCH(decodeTintOn)(from, light, to, n); }
void encodeSpan(float* rgba, int n) { HWY_DYNAMIC_DISPATCH(encodeSpanOn)(rgba, n); }
void decodeOpaque(const float* from, float* to, int n) { HWY_DYNAMIC_DISPATCH(decodeOpaqueOn)(from, to, n); }
void encodeOpaque(float* rgba, int n) { HWY_DYNAMIC_DISPATCH(encodeOpaqueOn)(rgba, n); }

}  // namespace oa
#endif
