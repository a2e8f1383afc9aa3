// Seeded randomness without state: the same (seed, index) always gives the same number.
#pragma once

#include <cstdint>

namespace oa {

/// SplitMix64 finaliser (Steele, Lea & Flood 2014): a well mixed 64-bit hash.
constexpr std::uint64_t mix64(std::uint64_t z) {
  z += 0x9E3779B97F4A7C15ull;
  z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ull;
  z = (z ^ (z >> 27)) * 0x94D049BB133111EBull;
  return z ^ (z >> 31);
}

/// Uniform in [0, 1) from a seed and an index.
constexpr double randomUnit(std::uint64_t seed, std::uint64_t index) {
  return static_cast<double>(mix64(mix64(seed) ^ index) >> 11) * (1.0 / 9007199254740992.0);
}

}  // namespace oa
