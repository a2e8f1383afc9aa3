// sRGB transfer functions over whole spans.
#pragma once

namespace oa {

/// `n` premultiplied display-encoded RGBA pixels to premultiplied linear light, in place (IEC 61966-2-1).
/// Fields (1 channel) are numbers, not light, and never come here.
void decodeSpan(float* rgba, int n);
/// The same from one place to another, which may be the same. Buffers have room for n rounded up to kSpanPadding, as above and below.
void decodeSpan(const float* from, float* to, int n);
/// The same of pixels that are all shares of one opaque colour, which `light` is in light.
void decodeTint(const float* from, const float light[4], float* to, int n);
/// And back; decodeSpan then encodeSpan is the identity within 4e-6.
void encodeSpan(float* rgba, int n);

/// Both of pixels that are known to be opaque, or but for a rounding.
void decodeOpaque(const float* from, float* to, int n);
void encodeOpaque(float* rgba, int n);

}  // namespace oa
