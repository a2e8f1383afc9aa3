#include "image/transfer.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/transfer.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/contrib/math/math-inl.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

HWY_INLINE V power(V base, float exponent) {
  const D d;
  const V safe = hn::Max(base, hn::Set(d, 1e-9f));
  return hn::Exp(d, hn::Mul(hn::Log(d, safe), hn::Set(d, exponent)));
}

HWY_INLINE V decoded(V v) {
  const D d;
  const V bent = power(hn::MulAdd(v, hn::Set(d, 1 / 1.055f), hn::Set(d, 0.055f / 1.055f)), 2.4f);
  return hn::IfThenElse(hn::Le(v, hn::Set(d, 0.04045f)), hn::Mul(v, hn::Set(d, 1 / 12.92f)), bent);
}

HWY_INLINE V encoded(V v) {
  const D d;
  const V bent = hn::MulSub(power(v, 1 / 2.4f), hn::Set(d, 1.055f), hn::Set(d, 0.055f));
  return hn::IfThenElse(hn::Le(v, hn::Set(d, 0.0031308f)), hn::Mul(v, hn::Set(d, 12.92f)), bent);
}

template <class Curve>
HWY_INLINE void eachColour(float* rgba, int n, Curve curve) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V r, g, b, a;
    hn::LoadInterleaved4(d, rgba + i * 4, r, g, b, a);
    const V inverse = hn::IfThenElseZero(hn::Gt(a, hn::Zero(d)), hn::Div(one, a));
    const auto channel = [&](V c) HWY_ATTR { return hn::Mul(a, curve(hn::Min(one, hn::Mul(c, inverse)))); };
    hn::StoreInterleaved4(channel(r), channel(g), channel(b), a, d, rgba + i * 4);
  }
}

void decodeSpanOn(float* rgba, int n) {
  eachColour(rgba, n, [](V v) HWY_ATTR { return decoded(v); });
}

void encodeSpanOn(float* rgba, int n) {
  eachColour(rgba, n, [](V v) HWY_ATTR { return encoded(v); });
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
