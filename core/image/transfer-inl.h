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
// 1.7e-6 of the display's range at most, a fifth of half a step of 16 bits, single precision included; nothing up to 1 comes out above 1.
// They are made of a few vectors at once, and what is asked of pixels is asked once of all of them.
template <class D, std::size_t kCount>
using Vectors = hn::Vec<D> (&)[kCount];

/// How many serve best where a loop goes over many: four pixels at least.
inline constexpr std::size_t kByTurns = HWY_MAX_BYTES >= 64 || HWY_MAX_BYTES < 32 ? 4 : 2;

// `a` holds coefficients from the highest power.
template <class D, std::size_t kCount, std::size_t kTerms>
HWY_INLINE void polynomials(D d, Vectors<D, kCount> x, const float (&a)[kTerms], Vectors<D, kCount> sums) {
  for (std::size_t k = 0; k < kCount; ++k) sums[k] = hn::Set(d, a[0]);
  for (std::size_t term = 1; term < kTerms; ++term) {
    const auto next = hn::Set(d, a[term]);
    for (std::size_t k = 0; k < kCount; ++k) sums[k] = hn::MulAdd(sums[k], x[k], next);
  }
}

/// What is straight and no more than 1, in light.
struct Decoded {
  template <class D, std::size_t kCount>
  static HWY_INLINE void of(D d, Vectors<D, kCount> v) {
    static constexpr float kBent[] = {-0.13153952360153198f, 0.594523012638092f,    -1.1585129499435425f,
                                      1.3119175434112549f,   -1.0414091348648071f,  0.9097946882247925f,
                                      0.4786334335803986f,   0.035748690366744995f, 0.0008441904792562127f};
    hn::Vec<D> bent[kCount];
    polynomials(d, v, kBent, bent);
    for (std::size_t k = 0; k < kCount; ++k)
      v[k] = hn::IfThenElse(hn::Le(v[k], hn::Set(d, 0.04045f)), hn::Mul(v[k], hn::Set(d, 1 / 12.92f)), bent[k]);
  }
};

/// And back.
struct Encoded {
  template <class D, std::size_t kCount>
  static HWY_INLINE void of(D d, Vectors<D, kCount> v) {
    const auto toe = hn::Set(d, 0.0031308f);
    hn::Vec<D> root[kCount];
    for (std::size_t k = 0; k < kCount; ++k) root[k] = v[k];
    rooted(d, root);
    for (std::size_t k = 0; k < kCount; ++k) v[k] = hn::IfThenElse(hn::Le(v[k], toe), hn::Mul(v[k], hn::Set(d, 12.92f)), root[k]);
  }

 private:
#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
  // The power 1 / 2.4 is that of the power of two, of which those from the toe to 1 fit a vector, times a polynomial of what is left, from
  // 1 to 2: within 5e-7 of itself.
  template <class D, std::size_t kCount>
  static HWY_INLINE void rooted(D d, Vectors<D, kCount> v) {
    // 1.055 times that of 2^-15 to 1, by the last four bits of how a float counts them.
    alignas(64) static constexpr float kPowers[16] = {
        0.01386165153235197f, 0.018503084778785706f, 0.024698656052350998f, 0.03296874836087227f,
        0.04400800168514252f, 0.05874363332986832f,  0.07841334491968155f,  0.10466925799846649f,
        0.13971669971942902f, 0.18649941682815552f,  0.24894684553146362f,  0.3323041796684265f,
        0.44357284903526306f, 0.5920987129211426f,   0.7903569936752319f,   1.0549999475479126f};
    static constexpr float kRest[] = {-0.0026915257330983877f, 0.029459170997142792f, -0.139750137925148f, 0.37977156043052673f,
                                      -0.6761592626571655f,    1.0575003623962402f,   0.3518698811531067f};
    const hn::RebindToUnsigned<D> du;
    hn::Vec<D> powers[kCount];
    hn::Vec<D> rest[kCount];
    for (std::size_t k = 0; k < kCount; ++k) {
      const auto bits = hn::BitCast(du, v[k]);
      const auto power = hn::And(hn::ShiftRight<23>(bits), hn::Set(du, 15));
      powers[k] = hn::TableLookupLanes(hn::Load(d, kPowers), hn::IndicesFromVec(d, power));
      rest[k] = hn::BitCast(d, hn::OrAnd(hn::Set(du, 0x3F800000u), bits, hn::Set(du, 0x7FFFFFu)));
    }
    polynomials(d, rest, kRest, v);
    // What is taken off leaves 1 of 1.
    for (std::size_t k = 0; k < kCount; ++k) v[k] = hn::MulAdd(v[k], powers[k], hn::Set(d, 1 - kPowers[15]));
  }
#else
  // The fourth root goes nearly straight; the rest of the power 1 / 2.4 is a polynomial of it.
  template <class D, std::size_t kCount>
  static HWY_INLINE void rooted(D d, Vectors<D, kCount> v) {
    static constexpr float kBent[] = {0.06602852046489716f, -0.3108098804950714f, 0.6465629935264587f,  -0.8453816771507263f,
                                      1.363023281097412f,   0.1401665359735489f,  -0.05958984047174454f};
    hn::Vec<D> fourth[kCount];
    for (std::size_t k = 0; k < kCount; ++k) fourth[k] = nearInverseRoot(d, nearInverseRoot(d, v[k]));
    polynomials(d, fourth, kBent, v);
  }
#endif
};

/// One of the curves upon a single vector.
template <class Curve, class D>
HWY_INLINE hn::Vec<D> curved(D d, hn::Vec<D> v) {
  hn::Vec<D> one[1] = {v};
  Curve::of(d, one);
  return one[0];
}

/// Colours of premultiplied pixels as they would be if those were opaque, 1 at most; of opaque ones bit by bit as they are. Of next to no
/// alpha nothing is left, so any number will do there.
template <class D>
HWY_INLINE hn::Vec<D> straight(D d, hn::Vec<D> p, hn::Vec<D> a) {
  const auto one = hn::Set(d, 1.0f);
  const auto some = hn::Max(a, hn::Set(d, 1e-20f));
#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
  // What the processor guesses is good for 14 bits: after one step, what is wrong with p / 1 is too little to be seen.
  const auto guess = hn::ApproximateReciprocal(some);
  const auto near = hn::Mul(p, guess);
  return hn::Min(one, hn::MulAdd(hn::NegMulAdd(some, near, p), guess, near));
#else
  return hn::Min(one, hn::IfThenElse(hn::Eq(a, one), p, hn::Mul(p, nearInverse(d, some))));
#endif
}

/// One of the curves upon the colours of premultiplied pixels as they lie, with the alpha of each.
template <class Curve, class D, std::size_t kCount>
HWY_INLINE void ofColours(D d, Vectors<D, kCount> p, Vectors<D, kCount> a) {
  hn::Vec<D> v[kCount];
  for (std::size_t k = 0; k < kCount; ++k) v[k] = straight(d, p[k], a[k]);
  Curve::of(d, v);
  for (std::size_t k = 0; k < kCount; ++k) p[k] = hn::IfThenElse(colourLanes(d), hn::Mul(a[k], v[k]), p[k]);
}

/// The same of pixels that are opaque, or but for a rounding.
template <class Curve, class D, std::size_t kCount>
HWY_INLINE void ofOpaque(D d, Vectors<D, kCount> p) {
  hn::Vec<D> v[kCount];
  for (std::size_t k = 0; k < kCount; ++k) v[k] = hn::Min(hn::Set(d, 1.0f), p[k]);
  Curve::of(d, v);
  for (std::size_t k = 0; k < kCount; ++k) p[k] = hn::IfThenElse(colourLanes(d), v[k], p[k]);
}

/// The same where most are opaque, and need neither be taken apart nor divided. A pixel comes out the same whatever lies beside it, or
/// behind the last one, where anything may.
template <class Curve, class D, std::size_t kCount>
HWY_INLINE void ofColours(D d, Vectors<D, kCount> p) {
  hn::Vec<D> a[kCount];
  for (std::size_t k = 0; k < kCount; ++k) a[k] = alphaOf(d, p[k]);
  if (HWY_LIKELY(allOne(d, a))) return ofOpaque<Curve>(d, p);
  auto any = p[0];
  for (std::size_t k = 1; k < kCount; ++k) any = hn::Or(any, p[k]);
  if (!allNothing(d, any)) ofColours<Curve>(d, p, a);
}

/// One of the curves upon the pixels of a single vector.
template <class Curve, class D>
HWY_INLINE hn::Vec<D> ofPixels(D d, hn::Vec<D> p) {
  hn::Vec<D> one[1] = {p};
  ofColours<Curve>(d, one);
  return one[0];
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
