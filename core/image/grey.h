// Fields shown as they are.
#pragma once

namespace oa {

/// `n` values, clamped to [0, 1], to opaque grey RGBA. Buffers have room for n rounded up to kSpanPadding.
void greyToRgba(const float* field, int n, float* rgba);
/// `n` pixels of one premultiplied colour.
void fillRgba(const float colour[4], int n, float* rgba);

}  // namespace oa
