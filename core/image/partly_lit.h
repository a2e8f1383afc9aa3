// Spans of which only those pixels are in linear light in which layers meet.
#pragma once

#include <array>
#include <cstdint>

#include "image/rows.h"

namespace oa {

/// What is known of pixels from a multiple of kSpanPadding on: a word for each kSpanPadding of them, a bit for each, the first lowest.
struct LitPixels {
  std::uint16_t* lit;      ///< those that are in linear light (image/transfer.h); all others are as they are shown
  std::uint16_t* covered;  ///< those that ever were covered by what is opaque
};

/// The same of a span. What a pixel is depends on the pixels alone that were laid there.
class Lit {
 public:
  [[nodiscard]] LitPixels from(int pixel) { return {lit_.data() + pixel / kSpanPadding, covered_.data() + pixel / kSpanPadding}; }
  void allLit() { lit_.fill(0xFFFF); }
  bool operator==(const Lit&) const = default;

 private:
  static_assert(kSpanPadding == 16);
  std::array<std::uint16_t, kSpanStep / kSpanPadding + 1> lit_{};
  std::array<std::uint16_t, kSpanStep / kSpanPadding + 1> covered_{};
};

/// Lays `n` pixels of `src` at `opacity` over those of `onto`, by their alpha in linear light. Both are premultiplied and as they are
/// shown, but for pixels of `onto` that are lit: those that are mixed become so, those that are covered by an opaque one are shown again,
/// and those over which there is nothing stay what they are. `light`, where it is not null, is what those are in light that are neither
/// lit nor covered, and those of `onto` need not be there yet. `tint`, where it is not null, is in light the opaque colour of which all of
/// `src` are shares. Buffers have room for n rounded up to kSpanPadding pixels.
void layPartlyLit(const float* src, float opacity, const float* tint, float* onto, const float* light, LitPixels lit, int n);

/// The same of shares of one colour whose alphas lie one after the other, a quarter to read. `src` is only read where the colour of
/// `shares` is not known to the bit.
void layShares(const StoredShares& shares, const float* src, float opacity, const float* tint, float* onto, const float* light,
               LitPixels lit, int n);

/// The same where `src` is in linear light: all pixels become lit over which there is something.
void layLight(const float* src, float opacity, float* onto, const float* light, LitPixels lit, int n);

/// Those pixels of `onto` become lit over which there is something in `src`, so that it can be mixed with them. Buffers as above. Returns
/// where to find what they are then: at `light` where all of them are untouched, and only told to be lit; else at `onto`.
[[nodiscard]] const float* lightBelow(const float* src, float* onto, const float* light, LitPixels lit, int n);

/// Of the first `n` pixels, at most kSpanStep, steps of kSpanPadding by their bits, the first lowest: which have any pixels that are
/// neither lit nor covered, and which have no others.
struct UntouchedSteps {
  std::uint32_t any = 0;
  std::uint32_t whole = 0;
};
UntouchedSteps untouched(LitPixels lit, int n);

/// Those pixels of `src` in place of others that are neither lit nor covered. Buffers as above.
void putUntouched(const float* src, float* onto, LitPixels lit, int n);

/// The lit ones of `n` pixels as they are shown. `opaque`: all are, or but for a rounding. Buffers as above.
void showLit(float* pixels, LitPixels lit, int n, bool opaque = false);

}  // namespace oa
