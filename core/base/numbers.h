// Small integer and float helpers that several rooms share.
#pragma once

#include <cmath>
#include <cstdint>
#include <numbers>
#include <string>

namespace oa {

/// Remainder with the sign of the divisor: floorMod(-1, 5) == 4. `n` must be positive.
constexpr std::int64_t floorMod(std::int64_t a, std::int64_t n) {
  const std::int64_t r = a % n;
  return r < 0 ? r + n : r;
}

inline constexpr double kDegree = std::numbers::pi / 180;  ///< in radians

/// Fractional part in [0, 1), also for negative numbers and for those that round up to 1.
inline double fract(double v) {
  const double f = v - std::floor(v);
  return f < 1.0 ? f : 0.0;
}

inline double mix(double a, double b, double t) { return a + (b - a) * t; }

/// Shortest decimal text for the user and for messages: 3, 0.25, -12.5. Locale independent.
std::string numberText(double v, int maxDecimals = 6);

/// A number read from the whole of `text`, locale independent; false if anything is left over
/// or the number is not finite.
bool parseNumber(const std::string& text, double& out);

}  // namespace oa
