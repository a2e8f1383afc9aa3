// Spans of which only those pixels are in linear light in which layers meet.
#pragma once

#include <array>
#include <cstdint>

#include "image/rows.h"

namespace oa {

/// Which pixels of a span are in linear light (image/transfer.h), four in each number, the first in its lowest bit; all others are as they
/// are shown. In the higher four bits: which were covered by what is opaque, and are shown as that. What a pixel is depends on the pixels
/// alone that were laid there.
using Lit = std::array<std::uint8_t, (kSpanStep + kSpanPadding) / 4>;
inline constexpr std::uint8_t kAllLit = 0x0F;
inline constexpr std::uint8_t kAllCovered = 0xF0;

/// Lays `n` pixels of `src` at `opacity` over those of `onto`, by their alpha in linear light. Both are premultiplied and as they are
/// shown, but for pixels of `onto` that are lit: those that are mixed become so, those that are covered by an opaque one are shown again,
/// and those over which there is nothing stay what they are. `lit` begins with the first pixel. `light`, where it is not null, is what
/// those are in light that are neither lit nor covered. `tint`, where it is not null, is in light the opaque colour of which all of `src`
/// are shares. Buffers have room for n rounded up to kSpanPadding pixels.
void layPartlyLit(const float* src, float opacity, const float* tint, float* onto, const float* light, std::uint8_t* lit, int n);

/// The same where `src` is in linear light: all pixels become lit over which there is something.
void layLight(const float* src, float opacity, float* onto, const float* light, std::uint8_t* lit, int n);

/// Those pixels of `onto` become lit over which there is something in `src`, so that it can be mixed with them. Buffers as above.
void lightBelow(const float* src, float* onto, const float* light, std::uint8_t* lit, int n);

/// From the first to the last, four by four, that may be neither lit nor covered of the first `n` pixels.
RowPart untouched(const std::uint8_t* lit, int n);

/// Those pixels of `src` in place of others that are neither lit nor covered. Buffers as above.
void putUntouched(const float* src, const std::uint8_t* lit, float* onto, int n);

/// The lit ones of `n` pixels as they are shown. Buffers as above.
void showLit(float* pixels, const std::uint8_t* lit, int n);

}  // namespace oa
