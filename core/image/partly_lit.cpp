#include "image/partly_lit.h"

#include <algorithm>
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

// Pixels of a vector, and of as many as are worked on by turns.
constexpr int kOfVector = static_cast<int>(hn::MaxLanes(D())) / 4;
constexpr int kOfTurn = kOfVector * static_cast<int>(kByTurns);
constexpr unsigned kAll = (1U << kOfVector) - 1U;  // the bits of a vector's pixels

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

// The bits of pixels of which there is something. What has no alpha may have light.
HWY_INLINE unsigned something(V p) {
  std::uint8_t lanes[8] = {};
  hn::StoreMaskBits(D(), hn::Ne(p, hn::Zero(D())), lanes);
  unsigned bits = lanes[0] | unsigned{lanes[1]} << 8;
  bits |= bits >> 1;
  bits |= bits >> 2;
  return (bits & 1) | (bits >> 3 & 2) | (bits >> 6 & 4) | (bits >> 9 & 8);
}

// What is known of the pixels of a vector. Four of them are one number of `lit`, whatever a vector holds.
class State {
 public:
  State(std::uint8_t* lit, int pixel) : four_(lit + pixel / 4), shift_(static_cast<unsigned>(pixel) & 3U) {}
  [[nodiscard]] HWY_INLINE unsigned lit() const { return *four_ >> shift_ & kAll; }
  [[nodiscard]] HWY_INLINE unsigned covered() const { return *four_ >> (shift_ + 4) & kAll; }
  HWY_INLINE void light(unsigned pixels) { put(*four_ | pixels << shift_); }
  HWY_INLINE void cover(unsigned pixels) { put((*four_ & ~(pixels << shift_)) | pixels << (shift_ + 4)); }

 private:
  HWY_INLINE void put(unsigned four) { *four_ = static_cast<std::uint8_t>(four); }
  std::uint8_t* four_;
  unsigned shift_;
};

// The pixels that others are laid over.
struct Under {
  float* onto;
  const float* light;
  std::uint8_t* lit;

  [[nodiscard]] HWY_INLINE State state(int pixel) const { return {lit, pixel}; }
  [[nodiscard]] HWY_INLINE float* shown(int pixel) const { return onto + static_cast<std::ptrdiff_t>(pixel) * 4; }
  [[nodiscard]] HWY_INLINE V known(int pixel) const { return hn::LoadU(D(), light + static_cast<std::ptrdiff_t>(pixel) * 4); }

  // What a vector of them is in light.
  [[nodiscard]] HWY_INLINE V bright(int pixel) const {
    const unsigned bright = state(pixel).lit();
    const unsigned covered = state(pixel).covered();
    if (light && (bright | covered) == 0) return known(pixel);
    const V p = hn::LoadU(D(), shown(pixel));
    if (bright == kAll) return p;
    V made = ofPixels<Decoded>(D(), p);
    if (light && covered != kAll) made = hn::IfThenElse(lanesOf(covered), made, known(pixel));
    return bright == 0 ? made : hn::IfThenElse(lanesOf(bright), p, made);
  }

  // And of a turn: mostly they are all lit, or none has been touched.
  HWY_INLINE void bright(int pixel, V (&v)[kByTurns]) const {
    unsigned any = 0;
    unsigned all = kAllLit;
    for (int k = 0; k < kOfTurn; k += 4) {
      any |= lit[(pixel + k) / 4];
      all &= lit[(pixel + k) / 4];
    }
    for (int k = 0; k < static_cast<int>(kByTurns); ++k) {
      const int at = pixel + k * kOfVector;
      v[k] = all == kAllLit ? hn::LoadU(D(), shown(at)) : light && any == 0 ? known(at) : bright(at);
    }
  }

  HWY_INLINE void allLit(int pixel) const {
    for (int k = 0; k < kOfTurn; k += 4) lit[(pixel + k) / 4] |= kAllLit;
  }
  HWY_INLINE void allCovered(int pixel) const {
    for (int k = 0; k < kOfTurn; k += 4) lit[(pixel + k) / 4] = kAllCovered;
  }
};

HWY_INLINE void loaded(const float* pixels, V (&v)[kByTurns]) {
  for (std::size_t k = 0; k < kByTurns; ++k) v[k] = hn::LoadU(D(), pixels + k * hn::Lanes(D()));
}

// What lies over others, and its light; with kInLight it is that already. With kWhole its opacity is 1.
template <bool kInLight, bool kWhole, class Bright>
class Over {
 public:
  Over(float opacity, Bright bright) : opacity_(opacity), bright_(bright) {}

  void lay(const float* src, const Under& under, int n) const {
    const D d;
    const V one = hn::Set(d, 1.0f);
    const V strength = hn::Set(d, opacity_);
    for (int i = 0; i < n; i += kOfTurn) {
      const float* const from = src + static_cast<std::ptrdiff_t>(i) * 4;
      // The next span of a layer that lies finished in memory.
      for (int k = 0; k < kOfTurn; k += 4) hwy::Prefetch(from + static_cast<std::ptrdiff_t>(k + kSpanStep) * 4);
      V s[kByTurns];
      V a[kByTurns];
      loaded(from, s);
      for (std::size_t k = 0; k < kByTurns; ++k) a[k] = alphaOf(d, s[k]);
      if (!mixedWholly(a)) {
        if (kWhole && opaqueWholly(a)) {
          for (std::size_t k = 0; k < kByTurns; ++k) hn::StoreU(s[k], d, under.shown(i) + k * hn::Lanes(d));
          kCovers ? under.allCovered(i) : under.allLit(i);
          continue;
        }
        for (int k = 0; k < static_cast<int>(kByTurns); ++k) layOne(s[k], under, i + k * kOfVector);
        continue;
      }
      bright_(s, a);
      V below[kByTurns];
      under.bright(i, below);
      for (std::size_t k = 0; k < kByTurns; ++k) {
        // The alpha is read again, as a product of its own it would be rounded otherwise beside a sum.
        if (!kWhole) a[k] = alphaOf(d, s[k] = hn::Mul(s[k], strength));
        hn::StoreU(hn::MulAdd(below[k], hn::Sub(one, a[k]), s[k]), d, under.shown(i) + k * hn::Lanes(d));
      }
      under.allLit(i);
    }
  }

 private:
  static constexpr bool kCovers = kWhole && !kInLight;  // what is opaque is laid as it is shown

  static HWY_INLINE bool opaqueWholly(const V (&a)[kByTurns]) {
    V least = a[0];
    for (std::size_t k = 1; k < kByTurns; ++k) least = hn::Min(least, a[k]);
    return hn::AllTrue(D(), hn::Eq(least, hn::Set(D(), 1.0f)));
  }

  static HWY_INLINE bool mixedWholly(const V (&a)[kByTurns]) {
    const D d;
    const V one = hn::Set(d, 1.0f);
    V least = hn::Set(d, 1.0f);
    for (std::size_t k = 0; k < kByTurns; ++k) least = hn::Min(least, kCovers ? hn::Mul(a[k], hn::Sub(one, a[k])) : a[k]);
    return hn::AllTrue(d, hn::Gt(least, hn::Zero(d)));
  }

  // A vector of which there may be nothing, and that may cover.
  HWY_INLINE void layOne(V s, const Under& under, int pixel) const {
    const D d;
    const V one = hn::Set(d, 1.0f);
    State state = under.state(pixel);
    const M covering = hn::Eq(alphaOf(d, s), one);
    if (kWhole && hn::AllTrue(d, covering)) {
      hn::StoreU(s, d, under.shown(pixel));
      return kCovers ? state.cover(kAll) : state.light(kAll);
    }
    if (allNothing(d, s)) return;
    V over[1] = {s};
    V alpha[1] = {alphaOf(d, s)};
    bright_(over, alpha);
    if (!kWhole) over[0] = hn::Mul(over[0], hn::Set(d, opacity_));
    V mixed = hn::MulAdd(under.bright(pixel), hn::Sub(one, alphaOf(d, over[0])), over[0]);
    const unsigned there = something(s);
    if (there != kAll) mixed = hn::IfThenElse(lanesOf(there), mixed, hn::LoadU(d, under.shown(pixel)));
    state.light(there);
    if (kCovers) {
      mixed = hn::IfThenElse(covering, s, mixed);
      state.cover(pixelsOf(covering) & kAll);
    }
    hn::StoreU(mixed, d, under.shown(pixel));
  }

  float opacity_;
  Bright bright_;  // of vectors, with the alpha of each
};

template <bool kInLight, class Bright>
HWY_INLINE void lay(const float* src, float opacity, const Under& under, int n, Bright bright) {
  if (opacity >= 1)
    Over<kInLight, true, Bright>(opacity, bright).lay(src, under, n);
  else
    Over<kInLight, false, Bright>(opacity, bright).lay(src, under, n);
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

void layPartlyLitOn(const float* src, float opacity, const float* tint, float* onto, const float* light, std::uint8_t* lit, int n) {
  const Under under{onto, light, lit};
  tint ? lay<false>(src, opacity, under, n, Shared{tint}) : lay<false>(src, opacity, under, n, Straightened());
}

void layLightOn(const float* src, float opacity, float* onto, const float* light, std::uint8_t* lit, int n) {
  lay<true>(src, opacity, {onto, light, lit}, n, AsItIs());
}

// A vector of what is to be mixed with others.
HWY_INLINE void lightOne(V s, const Under& under, int pixel) {
  const D d;
  State state = under.state(pixel);
  const unsigned there = something(s);
  if (there == 0 || state.lit() == kAll) return;
  const V below = under.bright(pixel);
  hn::StoreU(there == kAll ? below : hn::IfThenElse(lanesOf(there), below, hn::LoadU(d, under.shown(pixel))), d, under.shown(pixel));
  state.light(there);
}

void lightBelowOn(const float* src, float* onto, const float* light, std::uint8_t* lit, int n) {
  const D d;
  const Under under{onto, light, lit};
  for (int i = 0; i < n; i += kOfTurn) {
    V s[kByTurns];
    loaded(src + static_cast<std::ptrdiff_t>(i) * 4, s);
    V least = alphaOf(d, s[0]);
    for (std::size_t k = 1; k < kByTurns; ++k) least = hn::Min(least, alphaOf(d, s[k]));
    if (!hn::AllTrue(d, hn::Gt(least, hn::Zero(d)))) {
      for (int k = 0; k < static_cast<int>(kByTurns); ++k) lightOne(s[static_cast<std::size_t>(k)], under, i + k * kOfVector);
      continue;
    }
    under.bright(i, s);
    for (std::size_t k = 0; k < kByTurns; ++k) hn::StoreU(s[k], d, under.shown(i) + k * hn::Lanes(d));
    under.allLit(i);
  }
}

void putUntouchedOn(const float* src, const std::uint8_t* lit, float* onto, int n) {
  const D d;
  for (int i = 0; i < n; i += kOfVector) {
    const unsigned four = lit[i / 4] >> (static_cast<unsigned>(i) & 3U);
    const unsigned touched = (four | four >> 4) & kAll;
    if (touched == kAll) continue;
    const V s = hn::LoadU(d, src + static_cast<std::ptrdiff_t>(i) * 4);
    float* const at = onto + static_cast<std::ptrdiff_t>(i) * 4;
    hn::StoreU(touched == 0 ? s : hn::IfThenElse(lanesOf(touched), hn::LoadU(d, at), s), d, at);
  }
}

void showLitOn(float* pixels, const std::uint8_t* lit, int n) {
  const D d;
  for (int i = 0; i < n; i += kOfTurn) {
    float* const at = pixels + static_cast<std::ptrdiff_t>(i) * 4;
    unsigned any = 0;
    for (int k = 0; k < kOfTurn; k += 4) any |= lit[(i + k) / 4] & unsigned{kAllLit};
    if (any == 0) continue;
    V before[kByTurns];
    V p[kByTurns];
    loaded(at, before);
    loaded(at, p);
    ofColours<Encoded>(d, p);
    for (std::size_t k = 0; k < kByTurns; ++k) {
      const int pixel = i + static_cast<int>(k) * kOfVector;
      const unsigned now = lit[pixel / 4] >> (static_cast<unsigned>(pixel) & 3U) & kAll;
      hn::StoreU(now == kAll ? p[k] : hn::IfThenElse(lanesOf(now), p[k], before[k]), d, at + k * hn::Lanes(d));
    }
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(layPartlyLitOn);
HWY_EXPORT(layLightOn);
HWY_EXPORT(lightBelowOn);
HWY_EXPORT(putUntouchedOn);
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

RowPart untouched(const std::uint8_t* lit, int n) {
  const auto touched = [&](int i) { return ((lit[i] | lit[i] >> 4) & kAllLit) == kAllLit; };
  int from = 0;
  int to = (n + 3) / 4;
  while (from < to && touched(from)) ++from;
  while (from < to && touched(to - 1)) --to;
  return {from * 4, std::min(n, to * 4)};
}

void putUntouched(const float* src, const std::uint8_t* lit, float* onto, int n) {
  HWY_DYNAMIC_DISPATCH(putUntouchedOn)(src, lit, onto, n);
}

void showLit(float* pixels, const std::uint8_t* lit, int n) { HWY_DYNAMIC_DISPATCH(showLitOn)(pixels, lit, n); }

}  // namespace oa
#endif
