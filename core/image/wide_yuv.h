// YCbCr of ten bits, for formats that have them.
#pragma once

#include <cstddef>
#include <cstdint>

namespace oa {

/// Where rows go; strides are in samples.
struct WideYuv {
  std::uint16_t* y = nullptr;
  std::uint16_t* u = nullptr;
  std::uint16_t* v = nullptr;
  std::uint16_t* alpha = nullptr;  ///< full range; may be null
  std::ptrdiff_t strideY = 0;
  std::ptrdiff_t strideChroma = 0;
  std::ptrdiff_t strideAlpha = 0;
};

/// 16-bit straight RGBA, rows without padding, as 10-bit limited-range BT.709 YCbCr (ITU-R BT.709-6), rounded to nearest. `halved`: with a
/// sample of chroma for 2 x 2 pixels, their mean, and even sides; else one at every pixel.
void wideYuv(const std::uint16_t* rgba, int width, int height, bool halved, const WideYuv& out);

}  // namespace oa
