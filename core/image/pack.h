// From float pictures to what files and screens hold, with a fixed dither.
#pragma once

#include <cstddef>
#include <cstdint>

namespace oa {

/// The dither threshold of a pixel, in (0, 1): interleaved gradient noise (J. Jimenez, SIGGRAPH 2014, course
/// "Advances in Real-Time Rendering"), a fixed pattern of 64 x 64 pixels. Values that 8 bits hold exactly are
/// left as they are.
float ditherAt(int x, int y);

/// `n` premultiplied float RGBA pixels that start at (x0, y), x0 a multiple of 4, to 8-bit RGBA.
/// `straight` divides by alpha first, as PNG wants it.
void packRgba8(const float* rgba, int n, int x0, int y, bool straight, std::uint8_t* out);

/// The same to 16-bit RGBA in native byte order, straight, rounded to nearest.
void packRgba16(const float* rgba, int n, std::uint16_t* out);

/// Two rows of `n` (even) pixels to limited-range BT.709 YCbCr 4:2:0 (ITU-R BT.709-6; chroma is the mean
/// of four pixels). `alpha` (two rows, full range, with strides) may be null; if given, colours are
/// divided by alpha.
struct YuvRows {
  std::uint8_t* y[2];
  std::uint8_t* u;
  std::uint8_t* v;
  std::uint8_t* alpha[2];
};
void packYuv420(const float* upper, const float* lower, int n, int x0, int y, const YuvRows& out);

}  // namespace oa
