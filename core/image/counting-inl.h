// Numbers that count up from lane to lane. Included once for each target, as Highway's -inl files are.
#if defined(OA_COUNTING_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_COUNTING_INL
#undef OA_COUNTING_INL
#else
#define OA_COUNTING_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// first, first + 1, ...: what hn::Iota() says, which for a first number that is not constant writes lane by lane to memory and waits
/// until it can read them as one.
template <class D>
HWY_INLINE hn::Vec<D> countingFrom(D d, hn::TFromD<D> first) {
  return hn::Add(hn::Iota(d, hn::TFromD<D>{0}), hn::Set(d, first));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#endif
