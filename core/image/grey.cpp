#include "image/grey.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/grey.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

void greyToRgbaOn(const float* field, int n, float* rgba) {
  const D d;
  const auto one = hn::Set(d, 1.0f);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const auto v = hn::Max(hn::Zero(d), hn::Min(one, hn::LoadU(d, field + i)));
    hn::StoreInterleaved4(v, v, v, one, d, rgba + i * 4);
  }
}

void fillRgbaOn(const float* colour, int n, float* rgba) {
  const D d;
  const auto v = hn::LoadDup128(d, colour);
  for (int i = 0; i < n * 4; i += static_cast<int>(hn::Lanes(d))) hn::StoreU(v, d, rgba + i);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(greyToRgbaOn);
HWY_EXPORT(fillRgbaOn);

void greyToRgba(const float* field, int n, float* rgba) { HWY_DYNAMIC_DISPATCH(greyToRgbaOn)(field, n, rgba); }
void fillRgba(const float colour[4], int n, float* rgba) {
  alignas(16) const float c[4] = {colour[0], colour[1], colour[2], colour[3]};
  HWY_DYNAMIC_DISPATCH(fillRgbaOn)(c, n, rgba);
}

}  // namespace oa
#endif
