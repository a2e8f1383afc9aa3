// The alpha of pixels as they lie. Included once for each target, as Highway's -inl files are.
#if defined(OA_ALPHA_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_ALPHA_INL
#undef OA_ALPHA_INL
#else
#define OA_ALPHA_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// Each pixel's alpha in all four of its lanes.
template <class D>
HWY_INLINE hn::Vec<D> alphaOf(D d, hn::Vec<D> pixels) {
  const auto high = hn::InterleaveUpper(d, pixels, pixels);
  return hn::InterleaveUpper(d, high, high);
}

/// The lanes of alpha.
template <class D>
HWY_INLINE hn::Mask<D> alphaLanes(D d) {
  alignas(16) static constexpr float kIsAlpha[4] = {0, 0, 0, 1};
  return hn::Gt(hn::LoadDup128(d, kIsAlpha), hn::Zero(d));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
