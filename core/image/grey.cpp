#include "image/grey.h"

#include <cstddef>

#include "image/colour.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/grey.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/shares-inl.h"
#include "image/transfer-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

template <class Curve>
HWY_INLINE void eachGrey(const float* field, int n, float* rgba, Curve curve) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const auto one = hn::Set(d, 1.0f);
  const auto isAlpha = alphaLanes(d);
  const PixelShares<D> each;
  for (int i = 0; i < n; i += lanes) {
    const auto v = curve(hn::Max(hn::Zero(d), hn::Min(one, hn::LoadU(d, field + i))));
    float* const to = rgba + static_cast<std::ptrdiff_t>(i) * 4;
    for (int k = 0; k < 4; ++k) hn::StoreU(hn::IfThenElse(isAlpha, one, each.of(k, v)), d, to + k * lanes);
  }
}

void greyToRgbaOn(const float* field, int n, float* rgba) {
  eachGrey(field, n, rgba, [](auto v) HWY_ATTR { return v; });
}

void greyToLightOn(const float* field, int n, float* rgba) {
  eachGrey(field, n, rgba, [](auto v) HWY_ATTR { return curved<Decoded>(D(), v); });
}

void fillRgbaOn(const float* colour, int n, float* rgba) {
  const D d;
  const auto v = hn::LoadDup128(d, colour);
  for (int i = 0; i < n * 4; i += static_cast<int>(hn::Lanes(d))) hn::StoreU(v, d, rgba + i);
}

// Whole vectors of pixels, then what is left of them one by one: no more is written.
void tintCoverOn(const float* field, int n, float strength, const float* colour, float* rgba) {
  const D d;
  const hn::FixedTag<float, 4> d4;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const PixelShares<D> each;
  const auto whole = hn::LoadDup128(d, colour);
  const auto held = [](auto tag, auto share) HWY_ATTR { return hn::Max(hn::Zero(tag), hn::Min(hn::Set(tag, 1.0f), share)); };
  int i = 0;
  for (; i + lanes <= n; i += lanes) {
    const auto shares = held(d, hn::Mul(hn::LoadU(d, field + i), hn::Set(d, strength)));
    float* const to = rgba + static_cast<std::ptrdiff_t>(i) * 4;
    for (int k = 0; k < 4; ++k) hn::StoreU(hn::Mul(whole, each.of(k, shares)), d, to + k * lanes);
  }
  const auto one = hn::LoadU(d4, colour);
  for (; i < n; ++i) hn::StoreU(hn::Mul(one, held(d4, hn::Set(d4, field[i] * strength))), d4, rgba + static_cast<std::ptrdiff_t>(i) * 4);
}

void coverSharesOn(float* field, int n, float strength) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const auto share = hn::Mul(hn::LoadU(d, field + i), hn::Set(d, strength));
    hn::StoreU(hn::Max(hn::Zero(d), hn::Min(hn::Set(d, 1.0f), share)), d, field + i);
  }
}

void coverPixelsOn(const float* shares, int n, float* rgba) {
  const D d;
  const hn::FixedTag<float, 4> d4;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const PixelShares<D> each;
  int i = 0;
  for (; i + lanes <= n; i += lanes) {
    const auto share = hn::LoadU(d, shares + i);
    float* const at = rgba + static_cast<std::ptrdiff_t>(i) * 4;
    for (int k = 0; k < 4; ++k) hn::StoreU(hn::Mul(hn::LoadU(d, at + k * lanes), each.of(k, share)), d, at + k * lanes);
  }
  for (; i < n; ++i) {
    float* const at = rgba + static_cast<std::ptrdiff_t>(i) * 4;
    hn::StoreU(hn::Mul(hn::LoadU(d4, at), hn::Set(d4, shares[i])), d4, at);
  }
}

void makeOpaqueOn(float* rgba, int n) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const auto isAlpha = alphaLanes(d);
  const auto one = hn::Set(d, 1.0f);
  int i = 0;
  for (; i + lanes <= n * 4; i += lanes) hn::StoreU(hn::IfThenElse(isAlpha, one, hn::LoadU(d, rgba + i)), d, rgba + i);
  for (; i < n * 4; i += 4) rgba[i + 3] = 1;
}

void takeAlphaOn(const float* rgba, int n, float* field) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    hn::Vec<D> r, g, b, a;
    hn::LoadInterleaved4(d, rgba + i * 4, r, g, b, a);
    hn::StoreU(a, d, field + i);
  }
}

void takeLightnessOn(const float* rgba, int n, float* field) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    hn::Vec<D> r, g, b, a;
    hn::LoadInterleaved4(d, rgba + i * 4, r, g, b, a);
    const auto sum = hn::MulAdd(b, hn::Set(d, kLuma[2]), hn::MulAdd(g, hn::Set(d, kLuma[1]), hn::Mul(r, hn::Set(d, kLuma[0]))));
    hn::StoreU(sum, d, field + i);
  }
}

void heldOn(float* field, int n) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::StoreU(hn::Max(hn::Zero(d), hn::Min(hn::Set(d, 1.0f), hn::LoadU(d, field + i))), d, field + i);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(greyToRgbaOn);
HWY_EXPORT(greyToLightOn);
HWY_EXPORT(fillRgbaOn);
HWY_EXPORT(tintCoverOn);
HWY_EXPORT(coverSharesOn);
HWY_EXPORT(coverPixelsOn);
HWY_EXPORT(makeOpaqueOn);
HWY_EXPORT(takeAlphaOn);
HWY_EXPORT(takeLightnessOn);
HWY_EXPORT(heldOn);

void greyToRgba(const float* field, int n, float* rgba) { HWY_DYNAMIC_DISPATCH(greyToRgbaOn)(field, n, rgba); }
void greyToLight(const float* field, int n, float* rgba) { HWY_DYNAMIC_DISPATCH(greyToLightOn)(field, n, rgba); }
void fillRgba(const float colour[4], int n, float* rgba) {
  alignas(16) const float c[4] = {colour[0], colour[1], colour[2], colour[3]};
  HWY_DYNAMIC_DISPATCH(fillRgbaOn)(c, n, rgba);
}
void tintCover(const float* field, int n, float strength, const float colour[4], float* rgba) {
  HWY_DYNAMIC_DISPATCH(tintCoverOn)(field, n, strength, colour, rgba);
}
void coverShares(float* field, int n, float strength) { HWY_DYNAMIC_DISPATCH(coverSharesOn)(field, n, strength); }
void coverPixels(const float* shares, int n, float* rgba) { HWY_DYNAMIC_DISPATCH(coverPixelsOn)(shares, n, rgba); }
void takeLightness(const float* rgba, int n, float* field) { HWY_DYNAMIC_DISPATCH(takeLightnessOn)(rgba, n, field); }
void holdField(float* field, int n) { HWY_DYNAMIC_DISPATCH(heldOn)(field, n); }
void makeOpaque(float* rgba, int n) { HWY_DYNAMIC_DISPATCH(makeOpaqueOn)(rgba, n); }
void takeAlpha(const float* rgba, int n, float* field) { HWY_DYNAMIC_DISPATCH(takeAlphaOn)(rgba, n, field); }

}  // namespace oa
#endif
