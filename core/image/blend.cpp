#include "image/blend.h"

#include <algorithm>

#include "image/rows.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/blend.cpp"
#include <hwy/foreach_target.h>
#include <hwy/cache_control.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/pixel_planes-inl.h"
#include "image/shares-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

// Modes with a short premultiplied form work on interleaved pixels, one to four in a vector. With
// premultiplied s and d of alphas as and ad, the general formula is s (1 - ad) + d (1 - as) + as ad B(cb, cs).
// Where the short form does not give as + ad - as ad in the alpha lane, `isAlpha` puts it right.

HWY_INLINE V alphaOf(V pixels) { return alphaOf(D(), pixels); }

// Layers that lie finished in memory are laid span by span: the next one of the row is fetched meanwhile.
HWY_INLINE void fetchAhead(const float* src) { hwy::Prefetch(src + static_cast<std::ptrdiff_t>(kSpanStep) * 4); }

template <class Formula>
HWY_INLINE void eachPixel(const float* src, float opacity, const float* below, float* dst, int n, Formula formula) {
  const D d;
  const V strength = hn::Set(d, opacity);
  const auto count = static_cast<std::size_t>(n) * 4;
  for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
    fetchAhead(src + i);
    const V s = hn::Mul(hn::LoadU(d, src + i), strength);
    hn::StoreU(formula(s, hn::LoadU(d, below + i)), d, dst + i);
  }
}

void blendNormal(const float* src, float opacity, const float* below, float* dst, int n) {
  const V one = hn::Set(D(), 1.0f);
  eachPixel(src, opacity, below, dst, n, [&](V s, V b) HWY_ATTR { return hn::MulAdd(b, hn::Sub(one, alphaOf(s)), s); });
}

void layBehindOn(const float* src, float share, float* dst, int n) {
  const V one = hn::Set(D(), 1.0f);
  eachPixel(src, share, dst, dst, n, [&](V s, V b) HWY_ATTR { return hn::MulAdd(s, hn::Sub(one, alphaOf(b)), b); });
}

// Of each pixel first what blendNormal() would read, to the bit.
void layTintOn(const float* shares, const float* colour, float* dst, int n) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V tint = hn::LoadDup128(d, colour);
  const V alpha = hn::Set(d, colour[3]);
  const PixelShares<D> each;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const auto laid = [&](V share, V b) HWY_ATTR { return hn::MulAdd(b, hn::Sub(one, hn::Mul(share, alpha)), hn::Mul(share, tint)); };
  int i = 0;
  for (; i + lanes <= n; i += lanes) {
    const V share = hn::LoadU(d, shares + i);
    float* const at = dst + static_cast<std::ptrdiff_t>(i) * 4;
    for (int k = 0; k < 4; ++k) hn::StoreU(laid(each.of(k, share), hn::LoadU(d, at + k * lanes)), d, at + k * lanes);
  }
  if (i == n) return;
  const V share = hn::LoadU(d, shares + i);
  float* const at = dst + static_cast<std::ptrdiff_t>(i) * 4;
  for (int k = 0; k * lanes < (n - i) * 4; ++k) {
    const auto mask = hn::FirstN(d, static_cast<std::size_t>(std::min(lanes, (n - i) * 4 - k * lanes)));
    hn::BlendedStore(laid(each.of(k, share), hn::MaskedLoad(mask, d, at + k * lanes)), mask, d, at + k * lanes);
  }
}

// Written so that what is opaque below stays so to the last bit.
void blendScreen(const float* src, float opacity, const float* below, float* dst, int n) {
  const V one = hn::Set(D(), 1.0f);
  eachPixel(src, opacity, below, dst, n, [&](V s, V b) HWY_ATTR { return hn::MulAdd(s, hn::Sub(one, b), b); });
}

// True where both of all pixels are opaque. Modes may make short work of those, if what they make is the same to the bit: pixels that
// lie beside them, or behind the last, must not matter.
HWY_INLINE bool bothOpaque(V s, V b) { return HWY_LIKELY(hn::AllTrue(D(), hn::Or(hn::Not(alphaLanes(D())), bothOne(D(), s, b)))); }

void blendMultiply(const float* src, float opacity, const float* below, float* dst, int n) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V strength = hn::Set(d, opacity);
  const V left = hn::Sub(one, strength);
  const auto count = static_cast<std::size_t>(n) * 4;
  for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
    fetchAhead(src + i);
    const V whole = hn::LoadU(d, src + i);
    const V b = hn::LoadU(d, below + i);
    const V s = hn::Mul(whole, strength);
    if (bothOpaque(whole, b)) {
      hn::StoreU(hn::MulAdd(b, left, hn::Mul(s, b)), d, dst + i);
      continue;
    }
    hn::StoreU(hn::MulAdd(b, hn::Sub(one, alphaOf(s)), hn::MulAdd(s, hn::Sub(one, alphaOf(b)), hn::Mul(s, b))), d, dst + i);
  }
}

void blendDarken(const float* src, float opacity, const float* below, float* dst, int n) {
  const V one = hn::Set(D(), 1.0f);
  eachPixel(src, opacity, below, dst, n, [&](V s, V b) HWY_ATTR {
    const V as = alphaOf(s);
    const V ab = alphaOf(b);
    const V both = hn::Min(hn::Mul(s, ab), hn::Mul(b, as));
    return hn::MulAdd(b, hn::Sub(one, as), hn::MulAdd(s, hn::Sub(one, ab), both));
  });
}

void blendLighten(const float* src, float opacity, const float* below, float* dst, int n) {
  const V one = hn::Set(D(), 1.0f);
  eachPixel(src, opacity, below, dst, n, [&](V s, V b) HWY_ATTR {
    const V as = alphaOf(s);
    const V ab = alphaOf(b);
    const V both = hn::Max(hn::Mul(s, ab), hn::Mul(b, as));
    return hn::MulAdd(b, hn::Sub(one, as), hn::MulAdd(s, hn::Sub(one, ab), both));
  });
}

alignas(16) constexpr float kIsAlpha[4] = {0, 0, 0, 1};

void blendDifference(const float* src, float opacity, const float* below, float* dst, int n) {
  const V two = hn::Set(D(), 2.0f);
  const V isAlpha = hn::LoadDup128(D(), kIsAlpha);
  eachPixel(src, opacity, below, dst, n, [&](V s, V b) HWY_ATTR {
    const V least = hn::Min(hn::Mul(s, alphaOf(b)), hn::Mul(b, alphaOf(s)));
    const V sum = hn::MulAdd(isAlpha, hn::Mul(s, b), hn::Add(s, b));
    return hn::NegMulAdd(two, least, sum);
  });
}

void blendExclusion(const float* src, float opacity, const float* below, float* dst, int n) {
  const V factor = hn::Sub(hn::LoadDup128(D(), kIsAlpha), hn::Set(D(), 2.0f));
  eachPixel(src, opacity, below, dst, n, [&](V s, V b) HWY_ATTR { return hn::MulAdd(factor, hn::Mul(s, b), hn::Add(s, b)); });
}

// The other modes need straight colours and work on planes of channels.

struct Rgb {
  V r, g, b;
};

HWY_INLINE V divided(V a, V b) { return hn::IfThenElse(hn::Gt(b, hn::Zero(D())), hn::Div(a, b), hn::Zero(D())); }

template <class Formula>
HWY_INLINE void eachPlanar(const float* src, float opacity, const float* below, float* dst, int n, Formula formula) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V strength = hn::Set(d, opacity);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V sr, sg, sb, sa, br, bg, bb, ba;
    partPixels(d, src + i * 4, sr, sg, sb, sa);
    partPixels(d, below + i * 4, br, bg, bb, ba);
    const Rgb cs{divided(sr, sa), divided(sg, sa), divided(sb, sa)};
    const Rgb cb{divided(br, ba), divided(bg, ba), divided(bb, ba)};
    const Rgb mixed = formula(cb, cs);
    const V as = hn::Mul(sa, strength);
    const V both = hn::Mul(as, ba);
    const V onlySource = hn::Mul(strength, hn::Sub(one, ba));
    const V onlyBackdrop = hn::Sub(one, as);
    const auto joined = [&](V s, V b, V m) HWY_ATTR { return hn::MulAdd(s, onlySource, hn::MulAdd(b, onlyBackdrop, hn::Mul(both, m))); };
    joinPixels(d, joined(sr, br, mixed.r), joined(sg, bg, mixed.g), joined(sb, bb, mixed.b), hn::NegMulAdd(as, ba, hn::Add(as, ba)),
               dst + i * 4);
  }
}

// Straight colour of pixels as they lie; what is opaque is that already.
HWY_INLINE V straight(V p, V alpha) {
  const D d;
  if (HWY_LIKELY(hn::AllTrue(d, hn::Eq(alpha, hn::Set(d, 1.0f))))) return p;
  return divided(p, alpha);
}

// Modes that treat each channel alike stay on pixels as they lie.
template <class Formula>
HWY_INLINE void eachChannel(const float* src, float opacity, const float* below, float* dst, int n, Formula formula) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V strength = hn::Set(d, opacity);
  const V left = hn::Sub(one, strength);
  const auto isAlpha = alphaLanes(d);
  const auto count = static_cast<std::size_t>(n) * 4;
  for (std::size_t i = 0; i < count; i += hn::Lanes(d)) {
    fetchAhead(src + i);
    const V s = hn::LoadU(d, src + i);
    const V b = hn::LoadU(d, below + i);
    if (bothOpaque(s, b)) {
      const V mixed = hn::IfThenElse(isAlpha, one, formula(b, s));
      hn::StoreU(hn::MulAdd(b, left, hn::Mul(strength, mixed)), d, dst + i);
      continue;
    }
    const V sa = alphaOf(s);
    const V ba = alphaOf(b);
    // Of alpha the formula leaves what both have.
    const V mixed = hn::IfThenElse(isAlpha, one, formula(straight(b, ba), straight(s, sa)));
    const V as = hn::Mul(sa, strength);
    const V onlySource = hn::Mul(strength, hn::Sub(one, ba));
    hn::StoreU(hn::MulAdd(s, onlySource, hn::MulAdd(b, hn::Sub(one, as), hn::Mul(hn::Mul(as, ba), mixed))), d, dst + i);
  }
}

HWY_INLINE V hardLight(V cb, V cs) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V twice = hn::Add(cs, cs);
  const V more = hn::Sub(twice, one);
  return hn::IfThenElse(hn::Le(cs, hn::Set(d, 0.5f)), hn::Mul(cb, twice), hn::NegMulAdd(cb, more, hn::Add(cb, more)));
}

HWY_INLINE V softLight(V cb, V cs) {
  const D d;
  const V k = hn::MulSub(hn::Set(d, 2.0f), cs, hn::Set(d, 1.0f));
  const V dark = hn::NegMulAdd(cb, cb, cb);
  const V poly = hn::Mul(hn::MulAdd(hn::MulSub(hn::Set(d, 16.0f), cb, hn::Set(d, 12.0f)), cb, hn::Set(d, 4.0f)), cb);
  // A guess and one step of Newton's is as good as a root here, and does not hold up what follows.
  const V guess = hn::ApproximateReciprocalSqrt(cb);
  const V near = hn::Mul(cb, guess);
  const V root = hn::MulAdd(hn::NegMulAdd(near, near, cb), hn::Mul(guess, hn::Set(d, 0.5f)), near);
  const V bent = hn::IfThenElse(hn::Le(cb, hn::Set(d, 0.25f)), poly, root);
  return hn::MulAdd(k, hn::IfThenElse(hn::Le(k, hn::Zero(d)), dark, hn::Sub(bent, cb)), cb);
}

HWY_INLINE V colourDodge(V cb, V cs) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V quotient = hn::Min(one, hn::Div(cb, hn::Max(hn::Sub(one, cs), hn::Set(d, 1e-20f))));
  return hn::IfThenZeroElse(hn::Le(cb, hn::Zero(d)), quotient);
}

HWY_INLINE V colourBurn(V cb, V cs) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V quotient = hn::Min(one, hn::Div(hn::Sub(one, cb), hn::Max(cs, hn::Set(d, 1e-20f))));
  return hn::IfThenElse(hn::Ge(cb, one), one, hn::Sub(one, quotient));
}

HWY_INLINE V lum(const Rgb& c) {
  const D d;
  return hn::MulAdd(hn::Set(d, 0.3f), c.r, hn::MulAdd(hn::Set(d, 0.59f), c.g, hn::Mul(hn::Set(d, 0.11f), c.b)));
}
HWY_INLINE V least(const Rgb& c) { return hn::Min(c.r, hn::Min(c.g, c.b)); }
HWY_INLINE V most(const Rgb& c) { return hn::Max(c.r, hn::Max(c.g, c.b)); }

HWY_INLINE Rgb setLum(const Rgb& c, V l) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V shift = hn::Sub(l, lum(c));
  Rgb out{hn::Add(c.r, shift), hn::Add(c.g, shift), hn::Add(c.b, shift)};
  const V n = least(out);
  const V x = most(out);
  // A grey a rounding error below black or above white has no distance from its own lightness.
  const V tiny = hn::Set(d, 1e-6f);
  const V below = hn::IfThenElse(hn::Lt(n, hn::Zero(d)), hn::Div(l, hn::Max(tiny, hn::Sub(l, n))), one);
  const V above = hn::IfThenElse(hn::Gt(x, one), hn::Div(hn::Sub(one, l), hn::Max(tiny, hn::Sub(x, l))), one);
  const V k = hn::Mul(below, above);
  out = {hn::MulAdd(hn::Sub(out.r, l), k, l), hn::MulAdd(hn::Sub(out.g, l), k, l), hn::MulAdd(hn::Sub(out.b, l), k, l)};
  return out;
}

HWY_INLINE Rgb setSat(const Rgb& c, V s) {
  const V n = least(c);
  const V k = divided(s, hn::Sub(most(c), n));
  return {hn::Mul(hn::Sub(c.r, n), k), hn::Mul(hn::Sub(c.g, n), k), hn::Mul(hn::Sub(c.b, n), k)};
}

HWY_INLINE V sat(const Rgb& c) { return hn::Sub(most(c), least(c)); }

void blendSpanOn(BlendMode mode, const float* src, float opacity, const float* below, float* dst, int n) {
  switch (mode) {
    case BlendMode::Normal:
      return blendNormal(src, opacity, below, dst, n);
    case BlendMode::Multiply:
      return blendMultiply(src, opacity, below, dst, n);
    case BlendMode::Screen:
      return blendScreen(src, opacity, below, dst, n);
    case BlendMode::Darken:
      return blendDarken(src, opacity, below, dst, n);
    case BlendMode::Lighten:
      return blendLighten(src, opacity, below, dst, n);
    case BlendMode::Difference:
      return blendDifference(src, opacity, below, dst, n);
    case BlendMode::Exclusion:
      return blendExclusion(src, opacity, below, dst, n);
    case BlendMode::Overlay:
      return eachChannel(src, opacity, below, dst, n, [](V cb, V cs) HWY_ATTR { return hardLight(cs, cb); });
    case BlendMode::HardLight:
      return eachChannel(src, opacity, below, dst, n, [](V cb, V cs) HWY_ATTR { return hardLight(cb, cs); });
    case BlendMode::SoftLight:
      return eachChannel(src, opacity, below, dst, n, [](V cb, V cs) HWY_ATTR { return softLight(cb, cs); });
    case BlendMode::ColorDodge:
      return eachChannel(src, opacity, below, dst, n, [](V cb, V cs) HWY_ATTR { return colourDodge(cb, cs); });
    case BlendMode::ColorBurn:
      return eachChannel(src, opacity, below, dst, n, [](V cb, V cs) HWY_ATTR { return colourBurn(cb, cs); });
    case BlendMode::Hue:
      return eachPlanar(src, opacity, below, dst, n,
                        [](const Rgb& cb, const Rgb& cs) HWY_ATTR { return setLum(setSat(cs, sat(cb)), lum(cb)); });
    case BlendMode::Saturation:
      return eachPlanar(src, opacity, below, dst, n,
                        [](const Rgb& cb, const Rgb& cs) HWY_ATTR { return setLum(setSat(cb, sat(cs)), lum(cb)); });
    case BlendMode::Color:
      return eachPlanar(src, opacity, below, dst, n, [](const Rgb& cb, const Rgb& cs) HWY_ATTR { return setLum(cs, lum(cb)); });
    case BlendMode::Luminosity:
      return eachPlanar(src, opacity, below, dst, n, [](const Rgb& cb, const Rgb& cs) HWY_ATTR { return setLum(cb, lum(cs)); });
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(blendSpanOn);
HWY_EXPORT(layBehindOn);
HWY_EXPORT(layTintOn);

void blendSpan(BlendMode mode, const float* src, float opacity, float* dst, int n) { blendSpan(mode, src, opacity, dst, dst, n); }

void blendSpan(BlendMode mode, const float* src, float opacity, const float* below, float* dst, int n) {
  HWY_DYNAMIC_DISPATCH(blendSpanOn)(mode, src, opacity, below, dst, n);
}

void layBehind(const float* src, float share, float* dst, int n) { HWY_DYNAMIC_DISPATCH(layBehindOn)(src, share, dst, n); }

void layTint(const float* shares, const float colour[4], float* dst, int n) {
  alignas(16) const float c[4] = {colour[0], colour[1], colour[2], colour[3]};
  HWY_DYNAMIC_DISPATCH(layTintOn)(shares, c, dst, n);
}

// Whole steps where they lie. What is left of one aside.
void laySpan(const float* src, float* dst, int n) {
  const int whole = n / kSpanPadding * kSpanPadding;
  if (whole > 0) blendSpan(BlendMode::Normal, src, 1, dst, whole);
  if (whole == n) return;
  alignas(128) float source[kSpanPadding * 4] = {};
  alignas(128) float target[kSpanPadding * 4] = {};
  const auto rest = static_cast<std::size_t>(n - whole) * 4;
  std::copy_n(src + static_cast<std::ptrdiff_t>(whole) * 4, rest, source);
  std::copy_n(dst + static_cast<std::ptrdiff_t>(whole) * 4, rest, target);
  blendSpan(BlendMode::Normal, source, 1, target, n - whole);
  std::copy_n(target, rest, dst + static_cast<std::ptrdiff_t>(whole) * 4);
}

}  // namespace oa
#endif
