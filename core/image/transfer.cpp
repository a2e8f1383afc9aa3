#include "image/transfer.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/transfer.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

// Both curves beyond their straight toe are polynomials that take 1 to 1, the least worst fits (Remez) by what is seen of an error:
// 1.7e-6 of the display's range, a fifth of half a step of 16 bits, single precision included. `a` holds coefficients from the highest
// power.
template <std::size_t kCount>
HWY_INLINE V polynomial(V x, const float (&a)[kCount]) {
  const D d;
  V sum = hn::Set(d, a[0]);
  for (std::size_t k = 1; k < kCount; ++k) sum = hn::MulAdd(sum, x, hn::Set(d, a[k]));
  return sum;
}

HWY_INLINE V decoded(V v) {
  static constexpr float kBent[] = {-0.13153952360153198f, 0.594523012638092f,    -1.1585129499435425f,
                                    1.3119175434112549f,   -1.0414091348648071f,  0.9097946882247925f,
                                    0.4786334335803986f,   0.035748690366744995f, 0.0008441904792562127f};
  const D d;
  return hn::IfThenElse(hn::Le(v, hn::Set(d, 0.04045f)), hn::Mul(v, hn::Set(d, 1 / 12.92f)), polynomial(v, kBent));
}

// 1 / sqrt(x) within 2^-22: what the processor guesses, and one step of Newton's.
HWY_INLINE V rootBelow(V x) {
  const D d;
  const V guess = hn::ApproximateReciprocalSqrt(x);
  const V half = hn::Mul(hn::Mul(x, hn::Set(d, 0.5f)), guess);
  return hn::Mul(guess, hn::NegMulAdd(half, guess, hn::Set(d, 1.5f)));
}

// The fourth root goes nearly straight; the rest of the power 1 / 2.4 is a polynomial of it.
HWY_INLINE V encoded(V v) {
  static constexpr float kBent[] = {0.06602852046489716f, -0.3108098804950714f, 0.6465629935264587f,  -0.8453816771507263f,
                                    1.363023281097412f,   0.1401665359735489f,  -0.05958984047174454f};
  const D d;
  const V toe = hn::Set(d, 0.0031308f);
  const V fourth = rootBelow(rootBelow(hn::Max(v, toe)));
  return hn::IfThenElse(hn::Le(v, toe), hn::Mul(v, hn::Set(d, 12.92f)), polynomial(fourth, kBent));
}

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
    // A guess and one step of Newton's is as good as a division here, and takes a quarter of its time.
    const V guess = hn::ApproximateReciprocal(a);
    const V inverse = hn::Mul(guess, hn::NegMulAdd(a, guess, hn::Set(d, 2.0f)));
    // What is opaque comes out the same whatever lies beside it, or behind the last pixel, where anything may.
    const V divided = hn::IfThenElse(opaque, p, hn::Mul(p, inverse));
    const V straight = hn::IfThenElseZero(hn::Gt(a, hn::Set(d, 1e-20f)), hn::Min(one, divided));
    hn::StoreU(hn::IfThenElse(isAlpha, p, hn::Mul(a, hn::Min(one, curve(straight)))), d, rgba + i);
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
