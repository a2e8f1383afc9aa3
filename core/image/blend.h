// The sixteen blend modes of W3C Compositing and Blending Level 1.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace oa {

enum class BlendMode {
  Normal,
  Multiply,
  Screen,
  Overlay,
  Darken,
  Lighten,
  ColorDodge,
  ColorBurn,
  HardLight,
  SoftLight,
  Difference,
  Exclusion,
  Hue,
  Saturation,
  Color,
  Luminosity,
};
inline constexpr int kBlendModes = 16;

/// The names of the standard: "normal", "soft-light", ...
std::string_view blendName(BlendMode mode);
Result<BlendMode> blendFromName(std::string_view name);

/// Source-over with `mode`, of `n` premultiplied RGBA pixels of `src` at `opacity` in [0, 1] onto `dst`.
/// Sections 5.8 (general formula), 9.1 (separable) and 9.2 (non-separable modes) of the standard.
/// Buffers have room for n rounded up to kSpanPadding pixels.
void blendSpan(BlendMode mode, const float* src, float opacity, float* dst, int n);
/// The same onto `below`, which stays, at `dst`.
void blendSpan(BlendMode mode, const float* src, float opacity, const float* below, float* dst, int n);

/// One straight-colour pixel in double precision, the formulas written out: the reference path.
std::array<double, 4> blendReference(BlendMode mode, const std::array<double, 4>& premultipliedSrc, double opacity,
                                     const std::array<double, 4>& premultipliedDst);

/// `share` of each of `n` premultiplied pixels, seen through what `dst` leaves open. Buffers as above.
void layBehind(const float* src, float share, float* dst, int n);

/// Normal at full strength, and not a pixel more than `n`.
void laySpan(const float* src, float* dst, int n);

/// The same of one premultiplied colour, of which each pixel has its share. Shares are read up to n rounded up to kSpanPadding.
void layTint(const float* shares, const float colour[4], float* dst, int n);

}  // namespace oa
