// White noise: an independent random tone for every speck, field or grain.
#pragma once

#include <cstdint>

namespace oa {

/// The tone of speck (x, y) in still `still`: uniform in [0, 1), the same for the same numbers on every machine.
/// 32-bit integer hash; constants of C. Wellons, "Prospecting for Hash Functions" (2018).
constexpr float speckTone(std::uint32_t x, std::uint32_t y, std::uint32_t still) {
  std::uint32_t h = x * 0x9E3779B1u ^ (y * 0x85EBCA77u + still);
  h ^= h >> 16;
  h *= 0x7FEB352Du;
  h ^= h >> 15;
  h *= 0x846CA68Bu;
  h ^= h >> 16;
  return static_cast<float>(h >> 8) * (1.0f / 16777216.0f);
}

/// `n` tones of row `y` for the columns in `x`. Buffers have room for n rounded up to kSpanPadding.
void speckTones(const std::uint32_t* x, std::uint32_t y, std::uint32_t still, int n, float* out);

/// One number for a seed and the number of a still.
std::uint32_t stillSeed(std::uint32_t seed, std::uint32_t still);

}  // namespace oa
