// Four neighbours mixed to one, of fields and of pictures. Included once for each target, as Highway's -inl files are.
#if defined(OA_BILINEAR_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_BILINEAR_INL
#undef OA_BILINEAR_INL
#else
#define OA_BILINEAR_INL
#endif

#include <hwy/highway.h>

#include <cstdint>

#include "image/borders.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D4 = hn::FixedTag<float, 4>;
using D2 = hn::FixedTag<float, 2>;

// Where pixel (x, y) lies, by the edge rule of a plane of this size; `at` tells it for one inside.
template <class At>
HWY_INLINE const float* pixelBy(int width, int height, Edge edge, std::int64_t x, std::int64_t y, const At& at) {
  alignas(16) static constexpr float kNothing[4] = {0, 0, 0, 0};
  const int px = edgeIndex(edge, x, width);
  const int py = edgeIndex(edge, y, height);
  return px < 0 || py < 0 ? kNothing : at(px, py);
}

// Four places of a field whose pixels all lie inside: pairs of neighbours are mixed downwards first, then left and right are parted.
HWY_INLINE void fourOfField(const float* first, const float* below, const std::int32_t* offset, const float* tx, const float* downwards,
                            float* out) {
  const D4 d;
  const D2 d2;
  const auto pairs = [&](const float* from, int k)
                         HWY_ATTR { return hn::Combine(d, hn::LoadU(d2, from + offset[k + 1]), hn::LoadU(d2, from + offset[k])); };
  const auto ty = hn::Load(d, downwards);
  const auto mixed = [&](int k, auto share) HWY_ATTR {
    const auto upper = pairs(first, k);
    return hn::MulAdd(hn::Sub(pairs(below, k), upper), share, upper);
  };
  const auto one = mixed(0, hn::InterleaveLower(d, ty, ty));
  const auto two = mixed(2, hn::InterleaveUpper(d, ty, ty));
  const auto left = hn::ConcatEven(d, two, one);
  const auto right = hn::ConcatOdd(d, two, one);
  hn::StoreU(hn::MulAdd(hn::Sub(right, left), hn::Load(d, tx), left), d, out);
}

// What lies between four pixels of a picture: `a` and `b` beside it above, `c` and `e` below.
HWY_INLINE hn::Vec<D4> betweenColours(const float* a, const float* b, const float* c, const float* e, float tx, float ty) {
  const D4 d;
  const auto left = hn::LoadU(d, a);
  const auto under = hn::LoadU(d, c);
  const auto upper = hn::MulAdd(hn::Sub(hn::LoadU(d, b), left), hn::Set(d, tx), left);
  const auto lower = hn::MulAdd(hn::Sub(hn::LoadU(d, e), under), hn::Set(d, tx), under);
  return hn::MulAdd(hn::Sub(lower, upper), hn::Set(d, ty), upper);
}

HWY_INLINE void bilinearColour(const float* a, const float* b, const float* c, const float* e, float tx, float ty, float* out) {
  hn::StoreU(betweenColours(a, b, c, e, tx, ty), D4(), out);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#endif
