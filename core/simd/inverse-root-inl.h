// One over a root, as quick as can be. Included once for each target, as Highway's -inl files are.
#if defined(OA_INVERSE_ROOT_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_INVERSE_ROOT_INL
#undef OA_INVERSE_ROOT_INL
#else
#define OA_INVERSE_ROOT_INL
#endif

#include "image/reciprocal-inl.h"
#include "simd/num-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

/// 1 / sqrt(a) of a > 0; of vectors within 2^-22.
HWY_INLINE Num inverseRootOf(Num a) { return nearInverseRoot(Num::D(), a.v); }
inline double inverseRootOf(double a) { return 1 / std::sqrt(a); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
