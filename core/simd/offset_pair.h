// Two offsets that lie side by side, brought by one load: where a loop reads from many places, loads are what it waits for.
#pragma once

#include <cstddef>
#include <cstdint>
#include <cstring>

namespace oa {

class OffsetPair {
 public:
  /// Reads two of `offsets`, which are not negative.
  explicit OffsetPair(const std::int32_t* offsets) { std::memcpy(&both_, offsets, sizeof(both_)); }
  [[nodiscard]] std::size_t first() const { return static_cast<std::uint32_t>(both_); }
  [[nodiscard]] std::size_t second() const { return static_cast<std::size_t>(both_ >> 32); }

 private:
  static_assert(sizeof(std::size_t) == 8);
  std::uint64_t both_;
};

}  // namespace oa
