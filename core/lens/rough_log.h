// The binary logarithm within a thousandth: levels are told apart no finer.
#pragma once

#include <bit>
#include <cstdint>

namespace oa {

/// Between 1 and 2, log2(1 + t) is t + t (1 - t) (first + second t): least greatest error, none at both ends.
inline constexpr float kLogFirst = 0.421875f;
inline constexpr float kLogSecond = -0.15656128f;

/// Of a normal number above 0.
inline float roughLog2(float v) {
  const auto bits = std::bit_cast<std::int32_t>(v);
  const float rest = std::bit_cast<float>((bits & 0x7fffff) | 0x3f800000) - 1;
  return static_cast<float>((bits >> 23) - 127) + rest + rest * (1 - rest) * (kLogFirst + kLogSecond * rest);
}

}  // namespace oa
