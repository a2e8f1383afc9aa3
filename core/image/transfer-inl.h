// The sRGB curves on vectors. Included once for each target, as Highway's -inl files are.
#if defined(OA_TRANSFER_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_TRANSFER_INL
#undef OA_TRANSFER_INL
#else
#define OA_TRANSFER_INL
#endif

#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/reciprocal-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

// Both curves beyond their straight toe are polynomials that take 1 to 1, the least worst fits (Remez) by what is seen of an error:
// 1.7e-6 of the display's range at most, a fifth of half a step of 16 bits, single precision included. `a` holds coefficients from the
// highest power.
template <class D, std::size_t kCount>
HWY_INLINE hn::Vec<D> polynomial(D d, hn::Vec<D> x, const float (&a)[kCount]) {
  auto sum = hn::Set(d, a[0]);
  for (std::size_t k = 1; k < kCount; ++k) sum = hn::MulAdd(sum, x, hn::Set(d, a[k]));
  return sum;
}

/// What is straight and no more than 1, in light.
template <class D>
HWY_INLINE hn::Vec<D> decoded(D d, hn::Vec<D> v) {
  static constexpr float kBent[] = {-0.13153952360153198f, 0.594523012638092f,    -1.1585129499435425f,
                                    1.3119175434112549f,   -1.0414091348648071f,  0.9097946882247925f,
                                    0.4786334335803986f,   0.035748690366744995f, 0.0008441904792562127f};
  return hn::IfThenElse(hn::Le(v, hn::Set(d, 0.04045f)), hn::Mul(v, hn::Set(d, 1 / 12.92f)), polynomial(d, v, kBent));
}

#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
// The power 1 / 2.4 is that of the power of two, of which those from the toe to 1 fit a vector, times a polynomial of what is left, from 1
// to 2: within 5e-7 of itself.
template <class D>
HWY_INLINE hn::Vec<D> rooted(D d, hn::Vec<D> v) {
  // 1.055 times that of 2^-15 to 1, by the last four bits of how a float counts them.
  alignas(64) static constexpr float kPowers[16] = {
      0.01386165153235197f, 0.018503084778785706f, 0.024698656052350998f, 0.03296874836087227f, 0.04400800168514252f, 0.05874363332986832f,
      0.07841334491968155f, 0.10466925799846649f,  0.13971669971942902f,  0.18649941682815552f, 0.24894684553146362f, 0.3323041796684265f,
      0.44357284903526306f, 0.5920987129211426f,   0.7903569936752319f,   1.0549999475479126f};
  static constexpr float kRest[] = {-0.0026915257330983877f, 0.029459170997142792f, -0.139750137925148f, 0.37977156043052673f,
                                    -0.6761592626571655f,    1.0575003623962402f,   0.3518698811531067f};
  const hn::RebindToUnsigned<D> du;
  const auto bits = hn::BitCast(du, v);
  const auto power = hn::And(hn::ShiftRight<23>(bits), hn::Set(du, 15));
  const auto rest = hn::BitCast(d, hn::OrAnd(hn::Set(du, 0x3F800000u), bits, hn::Set(du, 0x7FFFFFu)));
  // What is taken off leaves 1 of 1.
  const auto powers = hn::TableLookupLanes(hn::Load(d, kPowers), hn::IndicesFromVec(d, power));
  return hn::MulAdd(polynomial(d, rest, kRest), powers, hn::Set(d, 1 - kPowers[15]));
}
#else
// The fourth root goes nearly straight; the rest of the power 1 / 2.4 is a polynomial of it.
template <class D>
HWY_INLINE hn::Vec<D> rooted(D d, hn::Vec<D> v) {
  static constexpr float kBent[] = {0.06602852046489716f, -0.3108098804950714f, 0.6465629935264587f,  -0.8453816771507263f,
                                    1.363023281097412f,   0.1401665359735489f,  -0.05958984047174454f};
  return polynomial(d, nearInverseRoot(d, nearInverseRoot(d, v)), kBent);
}
#endif

/// And back.
template <class D>
HWY_INLINE hn::Vec<D> encoded(D d, hn::Vec<D> v) {
  const auto toe = hn::Set(d, 0.0031308f);
  return hn::IfThenElse(hn::Le(v, toe), hn::Mul(v, hn::Set(d, 12.92f)), rooted(d, hn::Max(v, toe)));
}

/// One of the curves upon the colours of premultiplied pixels as they lie: most are opaque, and those need neither be taken apart nor
/// divided. A pixel comes out the same whatever lies beside it, or behind the last one, where anything may.
template <class D, class Curve>
HWY_INLINE hn::Vec<D> ofColours(D d, hn::Vec<D> p, Curve curve) {
  const auto one = hn::Set(d, 1.0f);
  const auto isAlpha = alphaLanes(d);
  if (HWY_LIKELY(allOpaque(d, p))) return hn::IfThenElse(isAlpha, p, hn::Min(one, curve(d, hn::Min(one, p))));
  if (allNothing(d, p)) return p;
  const auto a = alphaOf(d, p);
  const auto opaque = hn::Eq(a, one);
  const auto divided = hn::IfThenElse(opaque, p, hn::Mul(p, nearInverse(d, a)));
  const auto straight = hn::IfThenElseZero(hn::Gt(a, hn::Set(d, 1e-20f)), hn::Min(one, divided));
  return hn::IfThenElse(isAlpha, p, hn::Mul(a, hn::Min(one, curve(d, straight))));
}

template <class D>
HWY_INLINE hn::Vec<D> decodedPixels(D d, hn::Vec<D> p) {
  return ofColours(d, p, [](D tag, hn::Vec<D> v) HWY_ATTR { return decoded(tag, v); });
}

template <class D>
HWY_INLINE hn::Vec<D> encodedPixels(D d, hn::Vec<D> p) {
  return ofColours(d, p, [](D tag, hn::Vec<D> v) HWY_ATTR { return encoded(tag, v); });
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
