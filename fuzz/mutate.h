// Broken scene files made from whole ones.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

namespace oa::fuzz {

/// Numbers without a state outside: the same seed gives the same files.
class Dice {
 public:
  explicit Dice(std::uint64_t seed) : seed_(seed) {}
  /// Uniform in [0, n); n must be positive.
  std::size_t roll(std::size_t n);

 private:
  std::uint64_t seed_;
  std::uint64_t count_ = 0;
};

/// One to four mutations of one of `originals`: bytes flipped, cut, doubled or spliced; values replaced by
/// extreme ones; members dropped, doubled, swapped or nested deep.
std::string mutated(const std::vector<std::string>& originals, Dice& dice);

}  // namespace oa::fuzz
