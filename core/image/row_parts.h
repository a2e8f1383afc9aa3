// Parts of a row.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>

namespace oa {

/// Pixels [from, to) of a row.
struct RowPart {
  int from;
  int to;
};

/// Some parts of a row, from left to right; where there is no room for more, the last one reaches over what lies between.
class RowParts {
 public:
  RowParts() = default;
  RowParts(int from, int to) { add(from, to); }
  /// Begins no further left than what is there.
  void add(int from, int to) {
    if (from >= to) return;
    if (count_ > 0 && (count_ == kMost || from <= all_[count_ - 1].to))
      all_[count_ - 1].to = std::max(all_[count_ - 1].to, to);
    else
      all_[count_++] = {from, to};
  }
  [[nodiscard]] bool empty() const { return count_ == 0; }
  [[nodiscard]] const RowPart* begin() const { return all_.data(); }
  [[nodiscard]] const RowPart* end() const { return all_.data() + count_; }

  /// The same `by` further on, of which only [from, to) is there.
  [[nodiscard]] RowParts moved(int by, int from, int to) const {
    RowParts made;
    for (const RowPart& s : *this) made.add(std::max(s.from + by, from), std::min(s.to + by, to));
    return made;
  }
  /// Each as far as whole steps of `step` from `start` reach, but not beyond `end`.
  [[nodiscard]] RowParts widened(int start, int step, int end) const {
    RowParts made;
    for (const RowPart& s : *this)
      made.add(start + (s.from - start) / step * step, std::min(end, start + (s.to - start + step - 1) / step * step));
    return made;
  }

 private:
  static constexpr std::size_t kMost = 8;
  std::array<RowPart, kMost> all_{};
  std::size_t count_ = 0;
};

}  // namespace oa
