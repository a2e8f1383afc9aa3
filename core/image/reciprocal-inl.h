// Reciprocals without dividing. Included once for each target, as Highway's -inl files are.
#if defined(OA_RECIPROCAL_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_RECIPROCAL_INL
#undef OA_RECIPROCAL_INL
#else
#define OA_RECIPROCAL_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// 1 / x within 2^-22: what the processor guesses, and one step of Newton's. It takes a quarter of the time of a division, and does not
/// hold up what follows.
template <class D>
HWY_INLINE hn::Vec<D> nearInverse(D d, hn::Vec<D> x) {
  const auto guess = hn::ApproximateReciprocal(x);
  return hn::Mul(guess, hn::NegMulAdd(x, guess, hn::Set(d, 2.0f)));
}

/// 1 / sqrt(x) within 2^-22, likewise.
template <class D>
HWY_INLINE hn::Vec<D> nearInverseRoot(D d, hn::Vec<D> x) {
  const auto guess = hn::ApproximateReciprocalSqrt(x);
  const auto half = hn::Mul(hn::Mul(x, hn::Set(d, 0.5f)), guess);
  return hn::Mul(guess, hn::NegMulAdd(half, guess, hn::Set(d, 1.5f)));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
