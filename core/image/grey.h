// From fields to pictures, and back.
#pragma once

namespace oa {

/// `n` values, clamped to [0, 1], to opaque grey RGBA. Buffers have room for n rounded up to kSpanPadding.
void greyToRgba(const float* field, int n, float* rgba);
/// The same in linear light (image/transfer.h).
void greyToLight(const float* field, int n, float* rgba);
/// `n` pixels of one premultiplied colour.
void fillRgba(const float colour[4], int n, float* rgba);

/// A premultiplied colour by the share of each of `n` pixels that it covers: `strength` times the field, clamped to [0, 1]. No more is
/// written.
void tintCover(const float* field, int n, float strength, const float colour[4], float* rgba);
/// The shares that this is of a colour, in the field's stead. Buffers have room for n rounded up to kSpanPadding.
void coverShares(float* field, int n, float strength);
/// Of each of `n` premultiplied pixels as much as its share. No more is written.
void coverPixels(const float* shares, int n, float* rgba);
/// `n` pixels that are opaque but for a rounding become so to the bit. No more is written.
void makeOpaque(float* rgba, int n);
/// The alpha of `n` pixels. Buffers have room for n rounded up to kSpanPadding, here and below.
void takeAlpha(const float* rgba, int n, float* field);
/// How light `n` premultiplied pixels are, with the weights of kLuma.
void takeLightness(const float* rgba, int n, float* field);
/// `n` values clamped to [0, 1].
void holdField(float* field, int n);

}  // namespace oa
