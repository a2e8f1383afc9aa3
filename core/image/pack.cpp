#include "image/pack.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/pack.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"

#ifndef OA_PACK_ONCE
#define OA_PACK_ONCE
namespace oa {
namespace {

constexpr int kTile = 64;
constexpr int kRun = kTile + 16;  // repeated at the end, so that a vector may start anywhere

struct Dither {
  alignas(64) float pixel[kTile][kRun];
};

const Dither& dither() {
  static const std::unique_ptr<const Dither> table = [] {
    auto made = std::make_unique<Dither>();
    const auto part = [](double v) { return v - std::floor(v); };
    for (int y = 0; y < kTile; ++y)
      for (int x = 0; x < kRun; ++x) {
        const double noise = part(52.9829189 * part(0.06711056 * (x % kTile) + 0.00583715 * y));
        // Kept off 0 and 1, so that rounding errors cannot move an exact value.
        made->pixel[y][x] = static_cast<float>(1.0 / 256 + noise * (1 - 1.0 / 128));
      }
    return made;
  }();
  return *table;
}

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;
using DI = hn::RebindToSigned<D>;

// Premultiplied to straight colour, alpha kept.
HWY_INLINE V straightened(V p) {
  const D d;
  const V a = alphaOf(d, p);
  // Most is opaque, and dividing takes longer than all else here. What is above white is cut off when it is made bytes.
  if (HWY_LIKELY(hn::AllTrue(d, hn::Eq(a, hn::Set(d, 1.0f))))) return p;
  const V colour = hn::IfThenElseZero(hn::Gt(a, hn::Zero(d)), hn::Min(hn::Div(p, a), hn::Set(d, 1.0f)));
  return hn::IfThenElse(alphaLanes(d), p, colour);
}

template <bool kStraight>
HWY_INLINE void rgba8(const float* rgba, int n, int x0, int y, std::uint8_t* out) {
  const D d;
  const DI di;
  const hn::Rebind<std::uint8_t, D> d8;
  const V scale = hn::Set(d, 255.0f);
  const float* threshold = dither().pixel[y % kTile];
  const auto lanes = static_cast<int>(hn::Lanes(d));
  // Each pixel's threshold, once for each of its channels.
  alignas(64) std::int32_t pixelOfLane[16];
  for (int i = 0; i < 16; ++i) pixelOfLane[i] = i / 4;
  const auto repeat = hn::IndicesFromVec(d, hn::Load(di, pixelOfLane));
  for (int i = 0; i < n * 4; i += lanes) {
    V p = hn::LoadU(d, rgba + i);
    if (kStraight) p = straightened(p);
    const V t = hn::TableLookupLanes(hn::LoadU(d, threshold + static_cast<unsigned>(x0 + i / 4) % kTile), repeat);
    const auto whole = hn::ConvertTo(di, hn::MulAdd(p, scale, t));
    hn::StoreU(hn::DemoteTo(d8, whole), d8, out + i);
  }
}

// Floats to floor(v + t) in 8 bits, saturated.
HWY_INLINE void store8(V v, std::uint8_t* out) {
  const hn::Rebind<std::uint8_t, D> d8;
  hn::StoreU(hn::DemoteTo(d8, hn::ConvertTo(DI(), v)), d8, out);
}

void packRgba8On(const float* rgba, int n, int x0, int y, bool straight, std::uint8_t* out) {
  // Whole vectors only write where there is room; the rest goes through a small buffer.
  const int whole = n / 4 * 4;
  straight ? rgba8<true>(rgba, whole, x0, y, out) : rgba8<false>(rgba, whole, x0, y, out);
  if (whole == n) return;
  float rest[16] = {};
  std::uint8_t bytes[16];
  std::copy(rgba + whole * 4, rgba + n * 4, rest);
  straight ? rgba8<true>(rest, 4, x0 + whole, y, bytes) : rgba8<false>(rest, 4, x0 + whole, y, bytes);
  std::copy(bytes, bytes + (n - whole) * 4, out + whole * 4);
}

void packRgba16On(const float* rgba, int n, std::uint16_t* out) {
  const hn::FixedTag<float, 4> d;
  const hn::Rebind<std::int32_t, decltype(d)> di;
  const hn::Rebind<std::uint16_t, decltype(d)> d16;
  for (int i = 0; i < n; ++i) {
    const auto p = hn::LoadU(d, rgba + i * 4);
    const float a = rgba[i * 4 + 3];
    const float inverse = a > 0 ? 1 / a : 0;
    alignas(16) const float factors[4] = {inverse, inverse, inverse, 1};
    const auto colour = hn::Min(hn::Max(hn::Mul(p, hn::Load(d, factors)), hn::Zero(d)), hn::Set(d, 1.0f));
    const auto whole = hn::ConvertTo(di, hn::MulAdd(colour, hn::Set(d, 65535.0f), hn::Set(d, 0.5f)));
    hn::StoreU(hn::DemoteTo(d16, whole), d16, out + i * 4);
  }
}

// One vector of pixels of a row, the first at column `x`: its luma, its alpha where asked for, and what its colours differ from its luma
// by, added to what is there.
template <bool kAlpha>
HWY_INLINE void lumaAndMore(const float* rgba, const float* threshold, V& u, V& v, std::uint8_t* luma8, std::uint8_t* alpha8) {
  const D d;
  V red, green, blue, a;
  hn::LoadInterleaved4(d, rgba, red, green, blue, a);
  if constexpr (kAlpha) {
    const V inverse = hn::IfThenElseZero(hn::Gt(a, hn::Zero(d)), hn::Div(hn::Set(d, 1.0f), a));
    red = hn::Mul(red, inverse);
    green = hn::Mul(green, inverse);
    blue = hn::Mul(blue, inverse);
    store8(hn::MulAdd(a, hn::Set(d, 255.0f), hn::Set(d, 0.5f)), alpha8);
  }
  const V luma = hn::MulAdd(hn::Set(d, 0.2126f), red, hn::MulAdd(hn::Set(d, 0.7152f), green, hn::Mul(hn::Set(d, 0.0722f), blue)));
  u = hn::Add(u, hn::Sub(blue, luma));
  v = hn::Add(v, hn::Sub(red, luma));
  store8(hn::MulAdd(luma, hn::Set(d, 219.0f), hn::Add(hn::LoadU(d, threshold), hn::Set(d, 16.0f))), luma8);
}

// Neighbours of two vectors added, and made bytes.
HWY_INLINE void storeChroma(V first, V second, float scale, V threshold, std::uint8_t* out) {
  const D d;
  const V k = hn::Set(d, scale);
  first = hn::Mul(first, k);
  second = hn::Mul(second, k);
  const V pairs = hn::Add(hn::ConcatEven(d, second, first), hn::ConcatOdd(d, second, first));
  store8(hn::Add(hn::Add(pairs, hn::Set(d, 128.0f)), threshold), out);
}

template <bool kAlpha>
HWY_INLINE void yuv420(const float* upper, const float* lower, int n, int x0, int y, const YuvRows& out) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const Dither& table = dither();
  const float* const rows[2] = {upper, lower};
  const float* const thresholds[2] = {table.pixel[y % kTile], table.pixel[(y + 1) % kTile]};
  const float* const ofChroma = table.pixel[(y / 2) % kTile];
  // Two vectors of pixels are one of chroma. The last ones go through small buffers: there is no room behind them.
  const int step = 2 * lanes;
  alignas(16) std::uint8_t rest[6][32];
  for (int x = 0; x < n; x += step) {
    const int here = std::min(step, n - x);
    const bool whole = here == step;
    V u[2] = {hn::Zero(d), hn::Zero(d)};
    V v[2] = {hn::Zero(d), hn::Zero(d)};
    for (int r = 0; r < 2; ++r) {
      std::uint8_t* const luma8 = whole ? out.y[r] + x : rest[r];
      std::uint8_t* const alpha8 = !kAlpha ? nullptr : whole ? out.alpha[r] + x : rest[2 + r];
      for (int h = 0; h < 2 && h * lanes < here; ++h) {
        const int at = x + h * lanes;
        lumaAndMore<kAlpha>(rows[r] + static_cast<std::ptrdiff_t>(at) * 4, thresholds[r] + static_cast<unsigned>(x0 + at) % kTile, u[h],
                            v[h], luma8 + h * lanes, kAlpha ? alpha8 + h * lanes : nullptr);
      }
    }
    // (B - Y) / 1.8556 and (R - Y) / 1.5748 span -0.5..0.5; the mean of four pixels, times 224.
    const V threshold = hn::LoadU(d, ofChroma + static_cast<unsigned>((x0 + x) / 2) % kTile);
    storeChroma(u[0], u[1], 224.0f / (4 * 1.8556f), threshold, whole ? out.u + x / 2 : rest[4]);
    storeChroma(v[0], v[1], 224.0f / (4 * 1.5748f), threshold, whole ? out.v + x / 2 : rest[5]);
    if (whole) continue;
    for (int r = 0; r < 2; ++r) {
      std::copy_n(rest[r], here, out.y[r] + x);
      if (kAlpha) std::copy_n(rest[2 + r], here, out.alpha[r] + x);
    }
    std::copy_n(rest[4], here / 2, out.u + x / 2);
    std::copy_n(rest[5], here / 2, out.v + x / 2);
  }
}

void packYuv420On(const float* upper, const float* lower, int n, int x0, int y, const YuvRows& out) {
  out.alpha[0] ? yuv420<true>(upper, lower, n, x0, y, out) : yuv420<false>(upper, lower, n, x0, y, out);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(packRgba8On);
HWY_EXPORT(packRgba16On);
HWY_EXPORT(packYuv420On);

float ditherAt(int x, int y) { return dither().pixel[y % kTile][x % kTile]; }

void packRgba8(const float* rgba, int n, int x0, int y, bool straight, std::uint8_t* out) {
  HWY_DYNAMIC_DISPATCH(packRgba8On)(rgba, n, x0, y, straight, out);
}

void packRgba16(const float* rgba, int n, std::uint16_t* out) { HWY_DYNAMIC_DISPATCH(packRgba16On)(rgba, n, out); }

void packYuv420(const float* upper, const float* lower, int n, int x0, int y, const YuvRows& out) {
  HWY_DYNAMIC_DISPATCH(packYuv420On)(upper, lower, n, x0, y, out);
}

}  // namespace oa
#endif
