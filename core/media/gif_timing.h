// Which frames a GIF shows, and for how many hundredths of a second each.
#pragma once

#include <cstdint>

#include "base/rational.h"

namespace oa {

/// Whether `frames` at `rate` last a whole number of hundredths of a second.
[[nodiscard]] bool wholeHundredths(std::int64_t frames, const Rational& rate);

/// Delays of at least two hundredths, below which many players slow down: frames of quicker loops are thinned evenly. Delays
/// add up to the run's length, rounded once, and differ by one at most, across the joint too.
class GifTiming {
 public:
  GifTiming(std::int64_t frames, const Rational& rate);
  [[nodiscard]] std::int64_t pictures() const { return pictures_; }
  /// The frame that picture `i` shows.
  [[nodiscard]] std::int64_t frame(std::int64_t i) const { return i * frames_ / pictures_; }
  [[nodiscard]] int hundredths(std::int64_t i) const;

 private:
  std::int64_t frames_;
  std::int64_t pictures_;
  std::int64_t total_;  // hundredths
};

}  // namespace oa
