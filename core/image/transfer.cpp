#include "image/transfer.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/transfer.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/transfer-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

// On pixels as they lie: most are opaque, and those need neither be taken apart nor divided.
template <class Curve>
HWY_INLINE void eachColour(float* rgba, int n, Curve curve) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const auto isAlpha = alphaLanes(d);
  const std::size_t count = static_cast<std::size_t>(n) * 4;
  for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
    const V p = hn::LoadU(d, rgba + i);
    const V a = alphaOf(d, p);
    const auto opaque = hn::Eq(a, one);
    if (HWY_LIKELY(hn::AllTrue(d, opaque))) {
      hn::StoreU(hn::IfThenElse(isAlpha, p, hn::Min(one, curve(hn::Min(one, p)))), d, rgba + i);
      continue;
    }
    // Of nothing there is nothing to be made.
    if (hn::AllTrue(d, hn::Eq(p, hn::Zero(d)))) continue;
    const V inverse = nearInverse(d, a);
    // What is opaque comes out the same whatever lies beside it, or behind the last pixel, where anything may.
    const V divided = hn::IfThenElse(opaque, p, hn::Mul(p, inverse));
    const V straight = hn::IfThenElseZero(hn::Gt(a, hn::Set(d, 1e-20f)), hn::Min(one, divided));
    hn::StoreU(hn::IfThenElse(isAlpha, p, hn::Mul(a, hn::Min(one, curve(straight)))), d, rgba + i);
  }
}

void decodeSpanOn(float* rgba, int n) {
  eachColour(rgba, n, [](V v) HWY_ATTR { return decoded(D(), v); });
}

void encodeSpanOn(float* rgba, int n) {
  eachColour(rgba, n, [](V v) HWY_ATTR { return encoded(D(), v); });
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(decodeSpanOn);
HWY_EXPORT(encodeSpanOn);

void decodeSpan(float* rgba, int n) { HWY_DYNAMIC_DISPATCH(decodeSpanOn)(rgba, n); }
void encodeSpan(float* rgba, int n) { HWY_DYNAMIC_DISPATCH(encodeSpanOn)(rgba, n); }

}  // namespace oa
#endif
