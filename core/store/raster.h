// A decoded picture as it came: upright, in display sRGB, straight alpha.
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>

namespace oa {

/// `channels` 3 (opaque) or 4, interleaved, of 8 or 16 bits, rows without padding.
struct Raster {
  int width = 0;
  int height = 0;
  int channels = 4;
  int bits = 8;
  std::shared_ptr<const std::uint8_t> data;

  [[nodiscard]] bool opaque() const { return channels == 3; }
  [[nodiscard]] std::size_t rowBytes() const {
    return static_cast<std::size_t>(width) * static_cast<std::size_t>(channels) * static_cast<std::size_t>(bits / 8);
  }
  [[nodiscard]] std::size_t bytes() const { return rowBytes() * static_cast<std::size_t>(height); }
  /// Row `y` as `width` premultiplied floats of four channels.
  void row(int y, float* rgba) const;
  /// Row `y` of the picture made smaller by means over `block` x `block` pixels; both sides are multiples of `block`.
  void rowOfMeans(int y, int block, float* rgba) const;
};

/// Room for a picture's bytes, uninitialised.
std::shared_ptr<std::uint8_t[]> rasterBytes(std::size_t bytes);

/// Limits of what is decoded at all.
inline constexpr int kLongestSide = 65500;
inline constexpr std::int64_t kMostPixels = std::int64_t{1} << 28;

}  // namespace oa
