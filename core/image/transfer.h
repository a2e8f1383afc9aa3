// sRGB transfer functions over whole spans.
#pragma once

namespace oa {

/// `n` premultiplied display-encoded RGBA pixels to premultiplied linear light, in place (IEC 61966-2-1).
/// Fields (1 channel) are numbers, not light, and never come here.
void decodeSpan(float* rgba, int n);
/// And back; decodeSpan then encodeSpan is the identity within 4e-6.
void encodeSpan(float* rgba, int n);

}  // namespace oa
