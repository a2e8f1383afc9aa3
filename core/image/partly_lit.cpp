#include "image/partly_lit.h"

#include <algorithm>
#include <cstring>

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

// Pixels of a turn by bits, the first lowest.
using Bits = std::uint32_t;
constexpr Bits kAll = (Bits{1} << kOfTurn) - 1;
constexpr Bits kVector = (Bits{1} << kOfVector) - 1;  // of its first vector

// All of those vectors of which all are.
HWY_INLINE Bits wholeVectors(Bits bits) {
  constexpr Bits kFirsts = kAll / kVector;
  for (int by = 1; by < kOfVector; by *= 2) bits &= bits >> by;
  return (bits & kFirsts) * kVector;
}

HWY_INLINE Bits bitsAt(const std::uint16_t* words, int pixel) { return (words[pixel / 16] >> (pixel % 16)) & kAll; }
HWY_INLINE void putBits(Bits bits, std::uint16_t* words, int pixel) {
  const Bits others = words[pixel / 16] & ~(kAll << (pixel % 16));
  words[pixel / 16] = static_cast<std::uint16_t>(others | bits << (pixel % 16));
}
HWY_INLINE void addBits(Bits bits, std::uint16_t* words, int pixel) {
  words[pixel / 16] = static_cast<std::uint16_t>(words[pixel / 16] | bits << (pixel % 16));
}

// All lanes of those of a vector's pixels.
HWY_INLINE M lanesOf(Bits bits) {
  static constexpr std::uint16_t kLanes[16] = {0x0000, 0x000F, 0x00F0, 0x00FF, 0x0F00, 0x0F0F, 0x0FF0, 0x0FFF,
                                               0xF000, 0xF00F, 0xF0F0, 0xF0FF, 0xFF00, 0xFF0F, 0xFFF0, 0xFFFF};
  std::uint8_t lanes[8] = {};
  std::memcpy(lanes, &kLanes[bits & kVector], 2);
  return hn::LoadMaskBits(D(), lanes);
}

HWY_INLINE bool none(M mask) { return hn::AllFalse(D(), mask); }

HWY_INLINE void loaded(const float* pixels, V (&v)[kByTurns]) {
  for (std::size_t k = 0; k < kByTurns; ++k) v[k] = hn::LoadU(D(), pixels + k * hn::Lanes(D()));
}
HWY_INLINE void stored(const V (&v)[kByTurns], float* pixels) {
  for (std::size_t k = 0; k < kByTurns; ++k) hn::StoreU(v[k], D(), pixels + k * hn::Lanes(D()));
}

// What is asked of the pixels of a turn.
class Asked {
 public:
  HWY_INLINE Asked() {
    alignas(64) std::int32_t from[16] = {};
    alignas(64) float counted[16];
    for (int k = 0; k < static_cast<int>(kByTurns); ++k)
      for (int i = 0; i < kOfVector; ++i) from[k * kOfVector + i] = 4 * i + k;
    for (int lane = 0; lane < 16; ++lane) counted[lane] = static_cast<float>(lane % 4);
    const D d;
    order_ = hn::SetTableIndices(d, from);
    for (std::size_t k = 0; k + 1 < kByTurns; ++k) lanes_[k] = hn::Eq(hn::Load(d, counted), hn::Set(d, static_cast<float>(k + 1)));
  }
  // A value for each pixel, which are in all lanes of it, one after the other in the first lanes.
  HWY_INLINE V joined(const V (&v)[kByTurns]) const {
    V made = v[0];
    for (std::size_t k = 1; k < kByTurns; ++k) made = hn::IfThenElse(lanes_[k - 1], v[k], made);
    return hn::TableLookupLanes(made, order_);
  }
  static HWY_INLINE Bits bitsOf(M mask) {
    std::uint8_t bytes[8] = {};
    hn::StoreMaskBits(D(), mask, bytes);
    Bits bits;
    std::memcpy(&bits, bytes, sizeof(bits));
    return bits & kAll;
  }
  static HWY_INLINE Bits some(V values) { return bitsOf(hn::Gt(values, hn::Zero(D()))); }
  static HWY_INLINE Bits whole(V values) { return bitsOf(hn::Eq(values, hn::Set(D(), 1.0f))); }
  // Of which there is something; `some` have alpha. What has none may have light.
  HWY_INLINE Bits something(const V (&p)[kByTurns], const V (&a)[kByTurns], Bits some) const {
    const D d;
    if (some == kAll) return some;
    V stray = hn::Zero(d);
    for (std::size_t k = 0; k < kByTurns; ++k) stray = hn::Or(stray, hn::IfThenZeroElse(hn::Gt(a[k], hn::Zero(d)), p[k]));
    if (HWY_LIKELY(allNothing(d, stray))) return some;
    V most[kByTurns];
    for (std::size_t k = 0; k < kByTurns; ++k) {
      const V size = hn::Abs(p[k]);
      const V two = hn::Max(size, hn::Shuffle2301(size));
      most[k] = hn::Max(two, hn::Shuffle1032(two));
    }
    return Asked::some(joined(most));
  }

 private:
  decltype(hn::SetTableIndices(D(), static_cast<const std::int32_t*>(nullptr))) order_;
  M lanes_[kByTurns - 1];
};

// Vectors of a span that are worked on later, with those of their pixels that ask for it: where few of a turn do, vectors of several
// turns make one.
class Listed {
 public:
  // Those vectors of a turn that have any `wanted` pixel; `which` are told.
  HWY_INLINE void add(int pixel, Bits wanted, Bits which) {
    for (int k = 0; k < static_cast<int>(kByTurns); ++k) {
      pixels_[count_] = static_cast<std::uint16_t>(pixel + k * kOfVector);
      which_[count_] = static_cast<std::uint8_t>(which >> (k * kOfVector) & kVector);
      count_ += (wanted >> (k * kOfVector) & kVector) != 0 ? 1 : 0;
    }
  }
  // As many at a time as a turn has. The last may be worked on more than once: all is to be read before anything is put.
  template <class Each>
  HWY_INLINE void each(Each work) {
    if (count_ == 0) return;
    for (std::size_t k = 0; k + 1 < kByTurns; ++k) {
      pixels_[count_ + k] = pixels_[count_ - 1];
      which_[count_ + k] = which_[count_ - 1];
    }
    for (std::size_t i = 0; i < count_; i += kByTurns) work(pixels_ + i, which_ + i);
  }

 private:
  static constexpr std::size_t kRoom = (kSpanStep + kSpanPadding) / kOfVector + kByTurns;
  std::uint16_t pixels_[kRoom];
  std::uint8_t which_[kRoom];
  std::size_t count_ = 0;
};

// The pixels that others are laid over, a turn at a time.
struct Under {
  float* onto;
  const float* light;
  LitPixels of;

  [[nodiscard]] HWY_INLINE float* shown(int pixel) const { return onto + static_cast<std::ptrdiff_t>(pixel) * 4; }

  // Where those pixels of a turn lie in light, if all of them do: mostly all are lit, or none has been touched.
  [[nodiscard]] HWY_INLINE const float* ready(int pixel, Bits which) const {
    const Bits lit = bitsAt(of.lit, pixel);
    if (light && ((lit | bitsAt(of.covered, pixel)) & which) == 0) return light + static_cast<std::ptrdiff_t>(pixel) * 4;
    return (which & ~lit) == 0 ? shown(pixel) : nullptr;
  }
  // What a turn is in light.
  HWY_INLINE void bright(int pixel, V (&v)[kByTurns]) const {
    if (const float* const there = ready(pixel, kAll)) return loaded(there, v);
    std::uint16_t pixels[kByTurns];
    std::uint8_t which[kByTurns];
    for (std::size_t k = 0; k < kByTurns; ++k) {
      pixels[k] = static_cast<std::uint16_t>(pixel + static_cast<int>(k) * kOfVector);
      which[k] = kVector;
    }
    bright(pixels, which, v);
  }
  // The same of vectors from anywhere, where only `which` of their pixels matter.
  HWY_INLINE void bright(const std::uint16_t* pixels, const std::uint8_t* which, V (&v)[kByTurns]) const {
    const D d;
    Bits lit[kByTurns];
    Bits touched[kByTurns];
    Bits any = 0;
    for (std::size_t k = 0; k < kByTurns; ++k) {
      lit[k] = bitsAt(of.lit, pixels[k]);
      touched[k] = lit[k] | bitsAt(of.covered, pixels[k]);
      any |= touched[k] & which[k];
    }
    if (light && any == 0) {
      for (std::size_t k = 0; k < kByTurns; ++k) v[k] = hn::LoadU(d, light + static_cast<std::ptrdiff_t>(pixels[k]) * 4);
      return;
    }
    V p[kByTurns];
    Bits unknown = 0;
    for (std::size_t k = 0; k < kByTurns; ++k) {
      p[k] = v[k] = hn::LoadU(d, shown(pixels[k]));
      unknown |= (light ? touched[k] & ~lit[k] : ~lit[k]) & which[k];
    }
    if (unknown != 0) ofColours<Decoded>(d, v);
    for (std::size_t k = 0; k < kByTurns; ++k) {
      v[k] = hn::IfThenElse(lanesOf(lit[k]), p[k], v[k]);
      if (light) v[k] = hn::IfThenElse(lanesOf(touched[k]), v[k], hn::LoadU(d, light + static_cast<std::ptrdiff_t>(pixels[k]) * 4));
    }
  }

  HWY_INLINE void becomeLit(int pixel, Bits which) const { addBits(which, of.lit, pixel); }
  HWY_INLINE void becomeCovered(int pixel, Bits which) const {
    putBits(bitsAt(of.lit, pixel) & ~which, of.lit, pixel);
    addBits(which, of.covered, pixel);
  }
};

// What is laid over them.
struct Source {
  const float* pixels;
  const float* alphas = nullptr;  // where it is not null, those of the pixels: they say what these are in light
  std::ptrdiff_t step = 4;        // of those with alphas, from pixel to pixel; 0 where all that are opaque are those of a turn

  template <bool kAlphas>
  [[nodiscard]] HWY_INLINE const float* at(int pixel) const {
    return pixels + pixel * (kAlphas ? step : 4);
  }
};

// What lies over others, and its light; with kInLight it is that already. With kWhole its opacity is 1.
template <bool kInLight, bool kWhole, class Bright>
class Over {
 public:
  Over(float opacity, Bright bright) : opacity_(opacity), bright_(bright) {}

  template <bool kAlphas>
  void lay(const Source& src, const Under& under, int n) const {
    const D d;
    const PixelShares<D> each;
    const Asked asked;
    Listed parts;
    for (int i = 0; i < n; i += kOfTurn) {
      const float* const from = src.at<kAlphas>(i);
      V s[kByTurns];
      V a[kByTurns];
      V ofAll;
      // The next span of a layer that lies finished in memory is fetched.
      if (kAlphas) {
        hwy::Prefetch(src.alphas + i + kSpanStep);
        ofAll = hn::LoadU(d, src.alphas + i);
        for (int k = 0; k < static_cast<int>(kByTurns); ++k) a[k] = each.of(k, ofAll);
      } else {
        for (int k = 0; k < kOfTurn; k += 4) hwy::Prefetch(from + static_cast<std::ptrdiff_t>(k + kSpanStep) * 4);
        loaded(from, s);
        for (std::size_t k = 0; k < kByTurns; ++k) a[k] = alphaOf(d, s[k]);
        ofAll = asked.joined(a);
      }
      // Mostly all of them cover, or there is nothing.
      const Bits covering = kWhole ? Asked::whole(ofAll) : 0;
      if (kCovers && covering == kAll) {
        if (kAlphas) loaded(from, s);
        stored(s, under.shown(i));
        under.becomeCovered(i, kAll);
        continue;
      }
      // What is in one colour has no light where it has no alpha.
      const Bits some = Asked::some(ofAll);
      const Bits there = kAlphas ? some : asked.something(s, a, some);
      if (there == 0) continue;
      const Bits lit = kCovers ? there & ~covering : there;
      if (lit == kAll) {
        V below[kByTurns];
        under.bright(i, below);
        mix(s, a, below);
        stored(s, under.shown(i));
        under.becomeLit(i, kAll);
        continue;
      }
      const Bits whole = wholeVectors(covering);
      cover<kAlphas>(from, s, whole, under.shown(i));
      if (!kCovers && whole != 0) under.becomeLit(i, whole);
      if (kCovers && covering != 0) under.becomeCovered(i, covering);
      const Bits wanted = there & ~whole;
      if (wanted == 0) continue;
      const float* const ready = Bright::kIsDear ? nullptr : under.ready(i, lit);
      if (!ready) {
        parts.add(i, wanted, lit);
        continue;
      }
      V below[kByTurns];
      loaded(ready, below);
      layTurn<kAlphas>(from, s, a, below, wanted, under.shown(i));
      under.becomeLit(i, lit);
    }
    parts.each([&](const std::uint16_t* pixels, const std::uint8_t* which) HWY_ATTR { layParts<kAlphas>(src, pixels, which, under); });
  }

 private:
  static constexpr bool kCovers = kWhole && !kInLight;  // what is opaque is laid as it is shown

  // What is laid over `below`, in its place.
  HWY_INLINE void mix(V (&s)[kByTurns], V (&a)[kByTurns], const V (&below)[kByTurns]) const {
    const D d;
    bright_(s, a);
    for (std::size_t k = 0; k < kByTurns; ++k) {
      // The alpha is read again, as a product of its own it would be rounded otherwise beside a sum.
      if (!kWhole) a[k] = alphaOf(d, s[k] = hn::Mul(s[k], hn::Set(d, opacity_)));
      s[k] = hn::MulAdd(below[k], hn::Sub(hn::Set(d, 1.0f), a[k]), s[k]);
    }
  }

  // Those vectors. With kAlphas their pixels are still to be read from `src`.
  template <bool kAlphas>
  static HWY_INLINE void cover(const float* src, const V (&s)[kByTurns], Bits vectors, float* onto) {
    // What is at hand is put without asking of each, as edges are too many to be foreseen; what has to be fetched is not.
    for (std::size_t k = 0; k < kByTurns; ++k) {
      const std::size_t at = k * kOfVector * 4;
      const Bits those = vectors >> (k * kOfVector) & kVector;
      if (!kAlphas)
        hn::BlendedStore(s[k], lanesOf(those), D(), onto + at);
      else if (those != 0)
        hn::StoreU(hn::LoadU(D(), src + at), D(), onto + at);
    }
  }

  // `mixed`, but for those that cover: they stay as they are. With kAlphas only these are read from `src`.
  template <bool kAlphas>
  static HWY_INLINE V covered(const float* src, V s, V mixed, M covering) {
    if (!kCovers || (kAlphas && none(covering))) return mixed;
    return hn::IfThenElse(covering, kAlphas ? hn::LoadU(D(), src) : s, mixed);
  }

  template <bool kAlphas>
  HWY_INLINE void layTurn(const float* src, const V (&s)[kByTurns], V (&a)[kByTurns], const V (&below)[kByTurns], Bits which,
                          float* onto) const {
    const D d;
    V made[kByTurns];
    M covering[kByTurns];
    for (std::size_t k = 0; k < kByTurns; ++k) {
      made[k] = kAlphas ? a[k] : s[k];
      covering[k] = hn::Eq(a[k], hn::Set(d, 1.0f));
    }
    mix(made, a, below);
    for (std::size_t k = 0; k < kByTurns; ++k) {
      const std::size_t at = k * kOfVector * 4;
      hn::BlendedStore(covered<kAlphas>(src + at, s[k], made[k], covering[k]), lanesOf(which >> (k * kOfVector)), d, onto + at);
    }
  }

  template <bool kAlphas>
  HWY_INLINE void layParts(const Source& src, const std::uint16_t* pixels, const std::uint8_t* which, const Under& under) const {
    const D d;
    const PixelShares<D> each;
    V s[kByTurns];
    V made[kByTurns];
    V a[kByTurns];
    V below[kByTurns];
    M covering[kByTurns];
    for (std::size_t k = 0; k < kByTurns; ++k) {
      if (kAlphas) {
        s[k] = a[k] = each.of((pixels[k] % 4) / kOfVector, hn::LoadDup128(d, src.alphas + pixels[k] / 4 * 4));
      } else {
        s[k] = hn::LoadU(d, src.at<kAlphas>(pixels[k]));
        a[k] = alphaOf(d, s[k]);
      }
      made[k] = s[k];
      covering[k] = hn::Eq(a[k], hn::Set(d, 1.0f));
    }
    under.bright(pixels, which, below);
    mix(made, a, below);
    for (std::size_t k = 0; k < kByTurns; ++k) {
      const V laid = covered<kAlphas>(src.at<kAlphas>(pixels[k]), s[k], made[k], covering[k]);
      M where = lanesOf(which[k]);
      if (kCovers) where = hn::Or(where, covering[k]);
      hn::BlendedStore(laid, where, d, under.shown(pixels[k]));
      addBits(which[k], under.of.lit, pixels[k]);
    }
  }

  float opacity_;
  Bright bright_;  // of vectors, with the alpha of each
};

template <bool kInLight, bool kAlphas = false, class Bright>
HWY_INLINE void lay(const Source& src, float opacity, const Under& under, int n, Bright bright) {
  if (opacity >= 1)
    Over<kInLight, true, Bright>(opacity, bright).template lay<kAlphas>(src, under, n);
  else
    Over<kInLight, false, Bright>(opacity, bright).template lay<kAlphas>(src, under, n);
}

struct Straightened {
  static constexpr bool kIsDear = true;
  template <std::size_t kCount>
  HWY_INLINE void operator()(V (&s)[kCount], V (&a)[kCount]) const {
    ofColours<Decoded>(D(), s, a);
  }
};

struct Shared {
  static constexpr bool kIsDear = false;
  const float* tint;
  template <std::size_t kCount>
  HWY_INLINE void operator()(V (&s)[kCount], V (&a)[kCount]) const {
    const V whole = hn::LoadDup128(D(), tint);
    for (std::size_t k = 0; k < kCount; ++k) s[k] = hn::Mul(a[k], whole);
  }
};

struct AsItIs {
  static constexpr bool kIsDear = false;
  template <std::size_t kCount>
  HWY_INLINE void operator()(V (&)[kCount], V (&)[kCount]) const {}
};

void layPartlyLitOn(const float* src, float opacity, const float* tint, float* onto, const float* light, LitPixels lit, int n) {
  const Under under{onto, light, lit};
  tint ? lay<false>(Source{src}, opacity, under, n, Shared{tint}) : lay<false>(Source{src}, opacity, under, n, Straightened());
}

void laySharesOn(const StoredShares& shares, const float* src, float opacity, const float* tint, float* onto, const float* light,
                 LitPixels lit, int n) {
  const Under under{onto, light, lit};
  if (!shares.colour) return lay<false, true>(Source{src, shares.alphas}, opacity, under, n, Shared{tint});
  const D d;
  alignas(64) float turn[kOfTurn * 4];
  for (std::size_t k = 0; k < kByTurns; ++k) hn::Store(hn::LoadDup128(d, shares.colour), d, turn + k * hn::Lanes(d));
  lay<false, true>(Source{turn, shares.alphas, 0}, opacity, under, n, Shared{tint});
}

void layLightOn(const float* src, float opacity, float* onto, const float* light, LitPixels lit, int n) {
  lay<true>(Source{src}, opacity, Under{onto, light, lit}, n, AsItIs());
}

const float* lightBelowOn(const float* src, float* onto, const float* light, LitPixels lit, int n) {
  const D d;
  const Under under{onto, light, lit};
  const Asked asked;
  const auto reached = [&](int i) HWY_ATTR {
    V s[kByTurns];
    V a[kByTurns];
    loaded(src + static_cast<std::ptrdiff_t>(i) * 4, s);
    for (std::size_t k = 0; k < kByTurns; ++k) a[k] = alphaOf(d, s[k]);
    return asked.something(s, a, Asked::some(asked.joined(a)));
  };
  const M others = colourLanes(d);
  const auto isReady = [&](int i) HWY_ATTR {
    V s[kByTurns];
    loaded(src + static_cast<std::ptrdiff_t>(i) * 4, s);
    V least = s[0];
    for (std::size_t k = 1; k < kByTurns; ++k) least = hn::Min(least, s[k]);
    return (bitsAt(lit.lit, i) | bitsAt(lit.covered, i)) == 0 && hn::AllTrue(d, hn::Or(others, hn::Gt(least, hn::Zero(d))));
  };
  int ready = 0;
  while (light && ready < n && isReady(ready)) ready += kOfTurn;
  for (int i = 0; i < ready; i += kOfTurn) under.becomeLit(i, kAll);
  if (ready >= n) return light;
  std::copy_n(light, static_cast<std::ptrdiff_t>(ready) * 4, onto);
  Listed parts;
  for (int i = ready; i < n; i += kOfTurn) {
    const Bits unlit = kAll & ~bitsAt(lit.lit, i);
    if (unlit == 0) continue;
    const Bits there = reached(i) & unlit;
    if (there == 0) continue;
    V below[kByTurns];
    if (there == kAll) {
      under.bright(i, below);
      stored(below, under.shown(i));
    } else if (const float* const at = under.ready(i, there)) {
      loaded(at, below);
      for (std::size_t k = 0; k < kByTurns; ++k)
        hn::BlendedStore(below[k], lanesOf(there >> (k * kOfVector)), d, under.shown(i) + k * kOfVector * 4);
    } else {
      parts.add(i, there, there);
      continue;
    }
    under.becomeLit(i, there);
  }
  parts.each([&](const std::uint16_t* pixels, const std::uint8_t* which) HWY_ATTR {
    V below[kByTurns];
    under.bright(pixels, which, below);
    for (std::size_t k = 0; k < kByTurns; ++k) {
      hn::BlendedStore(below[k], lanesOf(which[k]), d, under.shown(pixels[k]));
      addBits(which[k], lit.lit, pixels[k]);
    }
  });
  return onto;
}

void putUntouchedOn(const float* src, float* onto, LitPixels lit, int n) {
  const D d;
  for (int i = 0; i < n; i += kOfTurn) {
    const Bits free = kAll & ~(bitsAt(lit.lit, i) | bitsAt(lit.covered, i));
    if (free == 0) continue;
    for (int k = 0; k < kOfTurn; k += kOfVector) {
      float* const at = onto + static_cast<std::ptrdiff_t>(i + k) * 4;
      const V p = hn::LoadU(d, src + static_cast<std::ptrdiff_t>(i + k) * 4);
      if (free == kAll)
        hn::StoreU(p, d, at);
      else
        hn::BlendedStore(p, lanesOf(free >> k), d, at);
    }
  }
}

template <bool kOpaque>
HWY_INLINE void showEach(float* pixels, LitPixels lit, int n) {
  const auto at = [&](int pixel) { return pixels + static_cast<std::ptrdiff_t>(pixel) * 4; };
  const auto show = [](V(&p)[kByTurns]) HWY_ATTR {
    if (kOpaque)
      ofOpaque<Encoded>(D(), p);
    else
      ofColours<Encoded>(D(), p);
  };
  Listed parts;
  for (int i = 0; i < n; i += kOfTurn) {
    const Bits which = bitsAt(lit.lit, i);
    if (which == 0) continue;
    if (which == kAll) {
      V p[kByTurns];
      loaded(at(i), p);
      show(p);
      stored(p, at(i));
      continue;
    }
    parts.add(i, which, which);
  }
  parts.each([&](const std::uint16_t* listed, const std::uint8_t* which) HWY_ATTR {
    V p[kByTurns];
    for (std::size_t k = 0; k < kByTurns; ++k) p[k] = hn::LoadU(D(), at(listed[k]));
    show(p);
    for (std::size_t k = 0; k < kByTurns; ++k) hn::BlendedStore(p[k], lanesOf(which[k]), D(), at(listed[k]));
  });
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

void layShares(const StoredShares& shares, const float* src, float opacity, const float* tint, float* onto, const float* light,
               LitPixels lit, int n) {
  HWY_DYNAMIC_DISPATCH(laySharesOn)(shares, src, opacity, tint, onto, light, lit, n);
}

void layLight(const float* src, float opacity, float* onto, const float* light, LitPixels lit, int n) {
  HWY_DYNAMIC_DISPATCH(layLightOn)(src, opacity, onto, light, lit, n);
}

const float* lightBelow(const float* src, float* onto, const float* light, LitPixels lit, int n) {
  return HWY_DYNAMIC_DISPATCH(lightBelowOn)(src, onto, light, lit, n);
}

UntouchedSteps untouched(LitPixels lit, int n) {
  UntouchedSteps made;
  const int steps = (n + kSpanPadding - 1) / kSpanPadding;
  const std::uint32_t all = (std::uint32_t{1} << steps) - 1;
  // Four steps at a time: mostly none of them is touched, or all.
  static_assert(kSpanStep / kSpanPadding % 4 == 0);
  for (int step = 0; step < steps; step += 4) {
    std::uint64_t a;
    std::uint64_t b;
    std::memcpy(&a, lit.lit + step, sizeof(a));
    std::memcpy(&b, lit.covered + step, sizeof(b));
    const std::uint64_t touched = a | b;
    if (touched == ~std::uint64_t{0}) continue;
    for (int k = 0; k < 4; ++k) {
      const auto word = static_cast<std::uint16_t>(touched >> (16 * k));
      made.any |= static_cast<std::uint32_t>(word != 0xFFFF) << (step + k);
      made.whole |= static_cast<std::uint32_t>(word == 0) << (step + k);
    }
  }
  made.any &= all;
  made.whole &= all;
  return made;
}

void putUntouched(const float* src, float* onto, LitPixels lit, int n) { HWY_DYNAMIC_DISPATCH(putUntouchedOn)(src, onto, lit, n); }

void showLit(float* pixels, LitPixels lit, int n, bool opaque) { HWY_DYNAMIC_DISPATCH(showLitOn)(pixels, lit, n, opaque); }

}  // namespace oa
#endif
