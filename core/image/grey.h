// From fields to pictures, and back.
#pragma once

namespace oa {

/// `n` values, clamped to [0, 1], to opaque grey RGBA. Buffers have room for n rounded up to kSpanPadding.
void greyToRgba(const float* field, int n, float* rgba);
/// `n` pixels of one premultiplied colour.
void fillRgba(const float colour[4], int n, float* rgba);

/// A premultiplied colour by the share of each of `n` pixels that it covers: `strength` times the field, clamped to [0, 1]. No more is
/// written.
void tintCover(const float* field, int n, float strength, const float colour[4], float* rgba);
/// The alpha of `n` pixels. Buffers as above.
void takeAlpha(const float* rgba, int n, float* field);

}  // namespace oa
