#include "image/partly_lit.h"

#include <cstring>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/partly_lit.cpp"
#include <hwy/foreach_target.h>
#include <hwy/cache_control.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/transfer-inl.h"

#ifndef OA_PARTLY_LIT_ONCE
#define OA_PARTLY_LIT_ONCE
namespace oa {
namespace {

// All lanes of each of four pixels, by the bits of those pixels.
alignas(2) constexpr std::uint16_t kLanesOf[16] = {0x0000, 0x000F, 0x00F0, 0x00FF, 0x0F00, 0x0F0F, 0x0FF0, 0x0FFF,
                                                   0xF000, 0xF00F, 0xF0F0, 0xF0FF, 0xFF00, 0xFF0F, 0xFFF0, 0xFFFF};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;
using M = hn::Mask<D>;

// Pixels of a vector.
HWY_INLINE int pixelsAtOnce() { return static_cast<int>(hn::Lanes(D())) / 4; }

HWY_INLINE M lanesOf(unsigned bits) {
  std::uint8_t lanes[8] = {};
  std::memcpy(lanes, &kLanesOf[bits], sizeof(kLanesOf[0]));
  return hn::LoadMaskBits(D(), lanes);
}

// The bits of pixels of which all lanes are one.
HWY_INLINE unsigned pixelsOf(M mask) {
  std::uint8_t lanes[8] = {};
  hn::StoreMaskBits(D(), mask, lanes);
  const unsigned bits = lanes[0] | unsigned{lanes[1]} << 8;
  return (bits & 1) | (bits >> 3 & 2) | (bits >> 6 & 4) | (bits >> 9 & 8);
}

// Where there is something of a pixel, all of its lanes. What has no alpha may have light.
HWY_INLINE M something(V p) {
  const V size = hn::Abs(p);
  const V two = hn::Max(size, hn::Shuffle2301(size));
  return hn::Gt(hn::Max(two, hn::Shuffle1032(two)), hn::Zero(D()));
}

// Four pixels are one number of `lit`, whatever a vector holds.
template <class Bits, class Each>
HWY_INLINE void eachVector(Bits* lit, int n, Each each) {
  const int step = pixelsAtOnce();
  for (int i = 0; i < n; i += 4)
    for (int part = 0; part < 4; part += step) each(i + part, lit[i / 4], static_cast<unsigned>(part), (1U << step) - 1U);
}

// What is lit, and what was covered, of the pixels of a vector.
struct Now {
  unsigned lit;
  unsigned covered;
};

HWY_INLINE Now nowOf(std::uint8_t four, unsigned shift, unsigned all) { return {four >> shift & all, four >> (shift + 4) & all}; }

// What pixels are in light, of which not all are lit.
HWY_INLINE V lightOf(V p, const float* light, Now now, unsigned all) {
  const D d;
  V shown;
  if (!light || now.covered == all)
    shown = decodedPixels(d, p);
  else if (now.covered == 0)
    shown = hn::LoadU(d, light);
  else
    shown = hn::IfThenElse(lanesOf(now.covered), decodedPixels(d, p), hn::LoadU(d, light));
  return now.lit == 0 ? shown : hn::IfThenElse(lanesOf(now.lit), p, shown);
}

// `lightOfSource` makes of pixels of the source what they are in light; with kInLight they are that already.
template <bool kInLight, class LightOfSource>
HWY_INLINE void layPixels(const float* src, float opacity, float* onto, const float* light, std::uint8_t* lit, int n,
                          LightOfSource lightOfSource) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V strength = hn::Set(d, opacity);
  const bool whole = opacity >= 1;
  const V mostly = hn::Set(d, whole && !kInLight ? 1.0f : 2.0f);
  eachVector(lit, n, [&](int pixel, std::uint8_t& four, unsigned shift, unsigned all) HWY_ATTR {
    const V s = hn::LoadU(d, src + pixel * 4);
    float* const at = onto + pixel * 4;
    // The next span of a layer that lies finished in memory.
    hwy::Prefetch(src + pixel * 4 + kSpanStep * 4);
    if (whole && allOpaque(d, s)) {
      hn::StoreU(s, d, at);
      four = static_cast<std::uint8_t>((four & ~(all << shift)) | all << (kInLight ? shift : shift + 4));
      return;
    }
    if (allNothing(d, s)) return;
    const Now now = nowOf(four, shift, all);
    const V b = hn::LoadU(d, at);
    const V over = hn::Mul(lightOfSource(s), strength);
    const V below = now.lit == all ? b : lightOf(b, light ? light + pixel * 4 : nullptr, now, all);
    const V mixed = hn::MulAdd(below, hn::Sub(one, alphaOf(d, over)), over);
    // Most vectors that are mixed are so wholly.
    const V alpha = alphaOf(d, s);
    if (HWY_LIKELY(hn::AllTrue(d, hn::And(hn::Gt(alpha, hn::Zero(d)), hn::Lt(alpha, mostly))))) {
      hn::StoreU(mixed, d, at);
      four = static_cast<std::uint8_t>(four | all << shift);
      return;
    }
    const M there = something(s);
    const M covered = whole && !kInLight ? hn::Eq(alpha, one) : hn::FirstN(d, 0);
    hn::StoreU(hn::IfThenElse(covered, s, hn::IfThenElse(there, mixed, b)), d, at);
    const unsigned under = pixelsOf(covered) & all;
    const unsigned after = (now.lit | (pixelsOf(there) & all)) & ~under;
    four = static_cast<std::uint8_t>((four & ~(all << shift)) | after << shift | under << (shift + 4));
  });
}

void layPartlyLitOn(const float* src, float opacity, const float* tint, float* onto, const float* light, std::uint8_t* lit, int n) {
  const D d;
  if (!tint) return layPixels<false>(src, opacity, onto, light, lit, n, [&](V s) HWY_ATTR { return decodedPixels(d, s); });
  const V shares = hn::LoadDup128(d, tint);
  layPixels<false>(src, opacity, onto, light, lit, n, [&](V s) HWY_ATTR { return hn::Mul(alphaOf(d, s), shares); });
}

void layLightOn(const float* src, float opacity, float* onto, const float* light, std::uint8_t* lit, int n) {
  layPixels<true>(src, opacity, onto, light, lit, n, [](V s) HWY_ATTR { return s; });
}

void lightBelowOn(const float* src, float* onto, const float* light, std::uint8_t* lit, int n) {
  const D d;
  eachVector(lit, n, [&](int pixel, std::uint8_t& four, unsigned shift, unsigned all) HWY_ATTR {
    const Now now = nowOf(four, shift, all);
    if (now.lit == all) return;
    const V s = hn::LoadU(d, src + pixel * 4);
    if (allNothing(d, s)) return;
    const M there = something(s);
    const V below = hn::LoadU(d, onto + pixel * 4);
    const V bright = lightOf(below, light ? light + pixel * 4 : nullptr, now, all);
    const bool everywhere = hn::AllTrue(d, there);
    hn::StoreU(everywhere ? bright : hn::IfThenElse(there, bright, below), d, onto + pixel * 4);
    four = static_cast<std::uint8_t>(four | (everywhere ? all : pixelsOf(there) & all) << shift);
  });
}

void showLitOn(float* pixels, const std::uint8_t* lit, int n) {
  const D d;
  eachVector(lit, n, [&](int pixel, std::uint8_t four, unsigned shift, unsigned all) HWY_ATTR {
    const unsigned now = four >> shift & all;
    if (now == 0) return;
    const V p = hn::LoadU(d, pixels + pixel * 4);
    const V shown = encodedPixels(d, p);
    hn::StoreU(now == all ? shown : hn::IfThenElse(lanesOf(now), shown, p), d, pixels + pixel * 4);
  });
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(layPartlyLitOn);
HWY_EXPORT(layLightOn);
HWY_EXPORT(lightBelowOn);
HWY_EXPORT(showLitOn);

void layPartlyLit(const float* src, float opacity, const float* tint, float* onto, const float* light, std::uint8_t* lit, int n) {
  HWY_DYNAMIC_DISPATCH(layPartlyLitOn)(src, opacity, tint, onto, light, lit, n);
}

void layLight(const float* src, float opacity, float* onto, const float* light, std::uint8_t* lit, int n) {
  HWY_DYNAMIC_DISPATCH(layLightOn)(src, opacity, onto, light, lit, n);
}

void lightBelow(const float* src, float* onto, const float* light, std::uint8_t* lit, int n) {
  HWY_DYNAMIC_DISPATCH(lightBelowOn)(src, onto, light, lit, n);
}

void showLit(float* pixels, const std::uint8_t* lit, int n) { HWY_DYNAMIC_DISPATCH(showLitOn)(pixels, lit, n); }

}  // namespace oa
#endif
