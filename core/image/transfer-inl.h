// The sRGB curves on vectors. Included once for each target, as Highway's -inl files are.
#if defined(OA_TRANSFER_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_TRANSFER_INL
#undef OA_TRANSFER_INL
#else
#define OA_TRANSFER_INL
#endif

#include <hwy/highway.h>

#include "image/reciprocal-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

// Both curves beyond their straight toe are polynomials that take 1 to 1, the least worst fits (Remez) by what is seen of an error:
// 1.7e-6 of the display's range, a fifth of half a step of 16 bits, single precision included. `a` holds coefficients from the highest
// power.
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

/// And back. The fourth root goes nearly straight; the rest of the power 1 / 2.4 is a polynomial of it.
template <class D>
HWY_INLINE hn::Vec<D> encoded(D d, hn::Vec<D> v) {
  static constexpr float kBent[] = {0.06602852046489716f, -0.3108098804950714f, 0.6465629935264587f,  -0.8453816771507263f,
                                    1.363023281097412f,   0.1401665359735489f,  -0.05958984047174454f};
  const auto toe = hn::Set(d, 0.0031308f);
  const auto fourth = nearInverseRoot(d, nearInverseRoot(d, hn::Max(v, toe)));
  return hn::IfThenElse(hn::Le(v, toe), hn::Mul(v, hn::Set(d, 12.92f)), polynomial(d, fourth, kBent));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
