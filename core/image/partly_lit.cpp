#include "image/partly_lit.h"

#include <algorithm>
#include <cstring>
#include <type_traits>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/partly_lit.cpp"
#include <hwy/foreach_target.h>
#include <hwy/cache_control.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/shares-inl.h"
#include "image/transfer-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;
using M = hn::Mask<D>;

// Pixels of a vector, and of as many as are worked on by turns.
constexpr int kOfVector = static_cast<int>(hn::MaxLanes(D())) / 4;
constexpr int kOfTurn = kOfVector * static_cast<int>(kByTurns);

HWY_INLINE M lanesAt(const std::uint8_t* bits, int pixel) {
  std::uint8_t lanes[8] = {};
  std::memcpy(lanes, bits + pixel / 2, std::max(1, kOfVector / 2));
  if (kOfVector == 1 && pixel % 2 != 0) lanes[0] = static_cast<std::uint8_t>(lanes[0] >> 4);
  return hn::LoadMaskBits(D(), lanes);
}

HWY_INLINE void putLanes(M mask, std::uint8_t* bits, int pixel) {
  std::uint8_t lanes[8] = {};
  hn::StoreMaskBits(D(), mask, lanes);
  if (kOfVector == 1)
    lanes[0] = static_cast<std::uint8_t>(pixel % 2 != 0 ? (bits[pixel / 2] & 0x0F) | lanes[0] << 4 : (bits[pixel / 2] & 0xF0) | lanes[0]);
  std::memcpy(bits + pixel / 2, lanes, std::max(1, kOfVector / 2));
}

// The bits of a turn's lanes.
using Bits = std::conditional_t<kOfTurn == 16, std::uint64_t, std::uint16_t>;
constexpr Bits kAll = static_cast<Bits>(~Bits{0});

HWY_INLINE Bits bitsAt(const std::uint8_t* bits, int pixel) {
  Bits all;
  std::memcpy(&all, bits + pixel / 2, sizeof(all));
  return all;
}
HWY_INLINE void putBits(Bits all, std::uint8_t* bits, int pixel) { std::memcpy(bits + pixel / 2, &all, sizeof(all)); }

HWY_INLINE bool all(M mask) { return hn::AllTrue(D(), mask); }
HWY_INLINE bool none(M mask) { return hn::AllFalse(D(), mask); }

// All lanes of pixels of which there is something, by their alpha. What has none may have light.
HWY_INLINE M something(V p, V alpha) {
  const D d;
  const M there = hn::Gt(alpha, hn::Zero(d));
  if (HWY_LIKELY(none(hn::AndNot(there, hn::Ne(p, hn::Zero(d)))))) return there;
  const V size = hn::Abs(p);
  const V two = hn::Max(size, hn::Shuffle2301(size));
  return hn::Gt(hn::Max(two, hn::Shuffle1032(two)), hn::Zero(d));
}

HWY_INLINE void loaded(const float* pixels, V (&v)[kByTurns]) {
  for (std::size_t k = 0; k < kByTurns; ++k) v[k] = hn::LoadU(D(), pixels + k * hn::Lanes(D()));
}
HWY_INLINE void stored(const V (&v)[kByTurns], float* pixels) {
  for (std::size_t k = 0; k < kByTurns; ++k) hn::StoreU(v[k], D(), pixels + k * hn::Lanes(D()));
}

// All bits that any of them has.
HWY_INLINE V either(const V (&v)[kByTurns]) {
  V any = v[0];
  for (std::size_t k = 1; k < kByTurns; ++k) any = hn::Or(any, v[k]);
  return any;
}

// The pixels that others are laid over, a turn at a time.
struct Under {
  float* onto;
  const float* light;
  LitPixels of;

  [[nodiscard]] HWY_INLINE float* shown(int pixel) const { return onto + static_cast<std::ptrdiff_t>(pixel) * 4; }
  [[nodiscard]] HWY_INLINE M lit(int pixel, int k) const { return lanesAt(of.lit, pixel + k * kOfVector); }
  [[nodiscard]] HWY_INLINE M covered(int pixel, int k) const { return lanesAt(of.covered, pixel + k * kOfVector); }

  // What they are in light. Mostly all are lit, or none has been touched.
  HWY_INLINE void bright(int pixel, V (&v)[kByTurns]) const {
    const D d;
    const float* const known = light ? light + static_cast<std::ptrdiff_t>(pixel) * 4 : nullptr;
    const Bits litOnes = bitsAt(of.lit, pixel);
    if (known && (litOnes | bitsAt(of.covered, pixel)) == 0) return loaded(known, v);
    loaded(shown(pixel), v);
    if (litOnes == kAll) return;
    V p[kByTurns];
    loaded(shown(pixel), p);
    ofColours<Decoded>(d, v);
    for (int k = 0; k < static_cast<int>(kByTurns); ++k) {
      if (known) v[k] = hn::IfThenElse(covered(pixel, k), v[k], hn::LoadU(d, known + k * kOfVector * 4));
      v[k] = hn::IfThenElse(lit(pixel, k), p[k], v[k]);
    }
  }

  // Those of a turn are lit from now on, or covered.
  HWY_INLINE void becomeLit(int pixel) const { putBits(kAll, of.lit, pixel); }
  HWY_INLINE void becomeCovered(int pixel) const {
    putBits(0, of.lit, pixel);
    putBits(kAll, of.covered, pixel);
  }
};

// What lies over others, and its light; with kInLight it is that already. With kWhole its opacity is 1.
template <bool kInLight, bool kWhole, class Bright>
class Over {
 public:
  Over(float opacity, Bright bright) : opacity_(opacity), bright_(bright) {}

  // `alphas`, where it is not null, holds those of `src`, which makes what they are in light: only what may cover is read itself.
  template <bool kAlphas>
  void lay(const float* src, const float* alphas, const Under& under, int n) const {
    const D d;
    const V one = hn::Set(d, 1.0f);
    const V strength = hn::Set(d, opacity_);
    const PixelShares<D> each;
    for (int i = 0; i < n; i += kOfTurn) {
      const float* const from = src + static_cast<std::ptrdiff_t>(i) * 4;
      V s[kByTurns];
      V a[kByTurns];
      // The next span of a layer that lies finished in memory is fetched.
      if (kAlphas) {
        hwy::Prefetch(alphas + i + kSpanStep);
        const V of = hn::LoadU(d, alphas + i);
        for (int k = 0; k < static_cast<int>(kByTurns); ++k) a[k] = each.of(k, of);
      } else {
        for (int k = 0; k < kOfTurn; k += 4) hwy::Prefetch(from + static_cast<std::ptrdiff_t>(k + kSpanStep) * 4);
        loaded(from, s);
        for (std::size_t k = 0; k < kByTurns; ++k) a[k] = alphaOf(d, s[k]);
      }
      if (!mixedWholly(a)) {
        layParts<kAlphas>(from, s, a, under, i);
        continue;
      }
      bright_(s, a);
      V below[kByTurns];
      under.bright(i, below);
      for (std::size_t k = 0; k < kByTurns; ++k) {
        // The alpha is read again, as a product of its own it would be rounded otherwise beside a sum.
        if (!kWhole) a[k] = alphaOf(d, s[k] = hn::Mul(s[k], strength));
        s[k] = hn::MulAdd(below[k], hn::Sub(one, a[k]), s[k]);
      }
      stored(s, under.shown(i));
      under.becomeLit(i);
    }
  }

 private:
  static constexpr bool kCovers = kWhole && !kInLight;  // what is opaque is laid as it is shown

  static HWY_INLINE bool mixedWholly(const V (&a)[kByTurns]) {
    const D d;
    const V one = hn::Set(d, 1.0f);
    V least = hn::Set(d, 1.0f);
    for (std::size_t k = 0; k < kByTurns; ++k) least = hn::Min(least, kCovers ? hn::Mul(a[k], hn::Sub(one, a[k])) : a[k]);
    return hn::AllTrue(d, hn::Gt(least, hn::Zero(d)));
  }

  // Those of which there may be nothing, and that may cover. With kAlphas they are still to be read from `src`, where they do.
  template <bool kAlphas>
  HWY_INLINE void layParts(const float* src, const V (&s)[kByTurns], V (&a)[kByTurns], const Under& under, int pixel) const {
    const D d;
    const V one = hn::Set(d, 1.0f);
    float* const shown = under.shown(pixel);
    if (allNothing(d, either(kAlphas ? a : s))) return;
    V over[kByTurns];
    for (std::size_t k = 0; k < kByTurns && !kAlphas; ++k) over[k] = s[k];
    if (kWhole && allOne(d, a)) {
      if (kAlphas) loaded(src, over);
      stored(over, shown);
      return kCovers ? under.becomeCovered(pixel) : under.becomeLit(pixel);
    }
    bright_(over, a);
    V below[kByTurns];
    under.bright(pixel, below);
    for (int k = 0; k < static_cast<int>(kByTurns); ++k) {
      // What is in one colour has no light where it has no alpha.
      const M there = kAlphas ? hn::Gt(a[k], hn::Zero(d)) : something(s[k], a[k]);
      M lit = hn::Or(under.lit(pixel, k), there);
      V share = a[k];
      if (!kWhole) share = alphaOf(d, over[k] = hn::Mul(over[k], hn::Set(d, opacity_)));
      V mixed = hn::MulAdd(below[k], hn::Sub(one, share), over[k]);
      mixed = hn::IfThenElse(there, mixed, hn::LoadU(d, shown + k * kOfVector * 4));
      const M covering = hn::Eq(a[k], one);
      if (kCovers && !none(covering)) {
        mixed = hn::IfThenElse(covering, kAlphas ? hn::LoadU(d, src + k * kOfVector * 4) : s[k], mixed);
        lit = hn::AndNot(covering, lit);
        putLanes(hn::Or(under.covered(pixel, k), covering), under.of.covered, pixel + k * kOfVector);
      }
      putLanes(lit, under.of.lit, pixel + k * kOfVector);
      hn::StoreU(mixed, d, shown + k * kOfVector * 4);
    }
  }

  float opacity_;
  Bright bright_;  // of vectors, with the alpha of each
};

template <bool kInLight, bool kAlphas = false, class Bright>
HWY_INLINE void lay(const float* src, const float* alphas, float opacity, const Under& under, int n, Bright bright) {
  if (opacity >= 1)
    Over<kInLight, true, Bright>(opacity, bright).template lay<kAlphas>(src, alphas, under, n);
  else
    Over<kInLight, false, Bright>(opacity, bright).template lay<kAlphas>(src, alphas, under, n);
}

struct Straightened {
  template <std::size_t kCount>
  HWY_INLINE void operator()(V (&s)[kCount], V (&a)[kCount]) const {
    ofColours<Decoded>(D(), s, a);
  }
};

struct Shared {
  const float* tint;
  template <std::size_t kCount>
  HWY_INLINE void operator()(V (&s)[kCount], V (&a)[kCount]) const {
    const V whole = hn::LoadDup128(D(), tint);
    for (std::size_t k = 0; k < kCount; ++k) s[k] = hn::Mul(a[k], whole);
  }
};

struct AsItIs {
  template <std::size_t kCount>
  HWY_INLINE void operator()(V (&)[kCount], V (&)[kCount]) const {}
};

void layPartlyLitOn(const float* src, float opacity, const float* tint, float* onto, const float* light, LitPixels lit, int n) {
  const Under under{onto, light, lit};
  tint ? lay<false>(src, nullptr, opacity, under, n, Shared{tint}) : lay<false>(src, nullptr, opacity, under, n, Straightened());
}

void laySharesOn(const float* src, const float* alphas, float opacity, const float* tint, float* onto, const float* light, LitPixels lit,
                 int n) {
  lay<false, true>(src, alphas, opacity, {onto, light, lit}, n, Shared{tint});
}

void layLightOn(const float* src, float opacity, float* onto, const float* light, LitPixels lit, int n) {
  lay<true>(src, nullptr, opacity, {onto, light, lit}, n, AsItIs());
}

void lightBelowOn(const float* src, float* onto, const float* light, LitPixels lit, int n) {
  const D d;
  const Under under{onto, light, lit};
  for (int i = 0; i < n; i += kOfTurn) {
    if (bitsAt(lit.lit, i) == kAll) continue;
    V s[kByTurns];
    loaded(src + static_cast<std::ptrdiff_t>(i) * 4, s);
    if (allNothing(d, either(s))) continue;
    V least = alphaOf(d, s[0]);
    for (std::size_t k = 1; k < kByTurns; ++k) least = hn::Min(least, alphaOf(d, s[k]));
    V below[kByTurns];
    under.bright(i, below);
    if (all(hn::Gt(least, hn::Zero(d)))) {
      stored(below, under.shown(i));
      under.becomeLit(i);
      continue;
    }
    for (int k = 0; k < static_cast<int>(kByTurns); ++k) {
      const M there = something(s[k], alphaOf(d, s[k]));
      float* const at = under.shown(i + k * kOfVector);
      hn::StoreU(hn::IfThenElse(there, below[k], hn::LoadU(d, at)), d, at);
      putLanes(hn::Or(under.lit(i, k), there), lit.lit, i + k * kOfVector);
    }
  }
}

void putUntouchedOn(const float* src, float* onto, LitPixels lit, int n) {
  const D d;
  for (int i = 0; i < n; i += kOfTurn) {
    const Bits touched = bitsAt(lit.lit, i) | bitsAt(lit.covered, i);
    if (touched == kAll) continue;
    for (int k = 0; k < kOfTurn; k += kOfVector) {
      float* const at = onto + static_cast<std::ptrdiff_t>(i + k) * 4;
      V p = hn::LoadU(d, src + static_cast<std::ptrdiff_t>(i + k) * 4);
      if (touched != 0) p = hn::IfThenElse(hn::Or(lanesAt(lit.lit, i + k), lanesAt(lit.covered, i + k)), hn::LoadU(d, at), p);
      hn::StoreU(p, d, at);
    }
  }
}

template <bool kOpaque>
HWY_INLINE void showEach(float* pixels, LitPixels lit, int n) {
  const D d;
  for (int i = 0; i < n; i += kOfTurn) {
    const Bits which = bitsAt(lit.lit, i);
    if (which == 0) continue;
    float* const at = pixels + static_cast<std::ptrdiff_t>(i) * 4;
    V before[kByTurns];
    V p[kByTurns];
    loaded(at, before);
    loaded(at, p);
    if (kOpaque)
      ofOpaque<Encoded>(d, p);
    else
      ofColours<Encoded>(d, p);
    for (int k = 0; k < static_cast<int>(kByTurns); ++k) {
      if (which != kAll) p[k] = hn::IfThenElse(lanesAt(lit.lit, i + k * kOfVector), p[k], before[k]);
    }
    stored(p, at);
  }
}

void showLitOn(float* pixels, LitPixels lit, int n, bool opaque) {
  opaque ? showEach<true>(pixels, lit, n) : showEach<false>(pixels, lit, n);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(layPartlyLitOn);
HWY_EXPORT(laySharesOn);
HWY_EXPORT(layLightOn);
HWY_EXPORT(lightBelowOn);
HWY_EXPORT(putUntouchedOn);
HWY_EXPORT(showLitOn);

void layPartlyLit(const float* src, float opacity, const float* tint, float* onto, const float* light, LitPixels lit, int n) {
  HWY_DYNAMIC_DISPATCH(layPartlyLitOn)(src, opacity, tint, onto, light, lit, n);
}

void layShares(const float* src, const float* alphas, float opacity, const float* tint, float* onto, const float* light, LitPixels lit,
               int n) {
  HWY_DYNAMIC_DISPATCH(laySharesOn)(src, alphas, opacity, tint, onto, light, lit, n);
}

void layLight(const float* src, float opacity, float* onto, const float* light, LitPixels lit, int n) {
  HWY_DYNAMIC_DISPATCH(layLightOn)(src, opacity, onto, light, lit, n);
}

void lightBelow(const float* src, float* onto, const float* light, LitPixels lit, int n) {
  HWY_DYNAMIC_DISPATCH(lightBelowOn)(src, onto, light, lit, n);
}

RowParts untouched(LitPixels lit, int n) {
  // What is written at once is looked at at once.
  static_assert(kSpanPadding == 2 * sizeof(std::uint64_t));
  RowParts made;
  for (int from = 0; from < n; from += kSpanPadding) {
    std::uint64_t either[2];
    std::memcpy(&either[0], lit.lit + from / 2, 8);
    std::memcpy(&either[1], lit.covered + from / 2, 8);
    if ((either[0] | either[1]) != ~std::uint64_t{0}) made.add(from, std::min(n, from + kSpanPadding));
  }
  return made;
}

void putUntouched(const float* src, float* onto, LitPixels lit, int n) { HWY_DYNAMIC_DISPATCH(putUntouchedOn)(src, onto, lit, n); }

void showLit(float* pixels, LitPixels lit, int n, bool opaque) { HWY_DYNAMIC_DISPATCH(showLitOn)(pixels, lit, n, opaque); }

}  // namespace oa
#endif
