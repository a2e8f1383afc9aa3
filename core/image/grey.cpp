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

void tintCoverOn(const float* field, int n, float strength, const float* colour, float* rgba) {
  const hn::FixedTag<float, 4> d;
  const auto whole = hn::LoadU(d, colour);
  for (int i = 0; i < n; ++i) {
    const auto share = hn::Max(hn::Zero(d), hn::Min(hn::Set(d, 1.0f), hn::Set(d, field[i] * strength)));
    hn::StoreU(hn::Mul(whole, share), d, rgba + i * 4);
  }
}

void takeAlphaOn(const float* rgba, int n, float* field) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    hn::Vec<D> r, g, b, a;
    hn::LoadInterleaved4(d, rgba + i * 4, r, g, b, a);
    hn::StoreU(a, d, field + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(greyToRgbaOn);
HWY_EXPORT(fillRgbaOn);
HWY_EXPORT(tintCoverOn);
HWY_EXPORT(takeAlphaOn);

void greyToRgba(const float* field, int n, float* rgba) { HWY_DYNAMIC_DISPATCH(greyToRgbaOn)(field, n, rgba); }
void fillRgba(const float colour[4], int n, float* rgba) {
  alignas(16) const float c[4] = {colour[0], colour[1], colour[2], colour[3]};
  HWY_DYNAMIC_DISPATCH(fillRgbaOn)(c, n, rgba);
}
void tintCover(const float* field, int n, float strength, const float colour[4], float* rgba) {
  HWY_DYNAMIC_DISPATCH(tintCoverOn)(field, n, strength, colour, rgba);
}
void takeAlpha(const float* rgba, int n, float* field) { HWY_DYNAMIC_DISPATCH(takeAlphaOn)(rgba, n, field); }

}  // namespace oa
#endif
