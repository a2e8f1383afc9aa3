// A picture that is painted many times.
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <utility>
#include <vector>

#include "image/buffer.h"

namespace oa {

/// Four channels, and which of its blocks anything is to be seen in: what is empty is passed over.
class StampPicture {
 public:
  static constexpr int kBlockBits = 3;
  static constexpr int kBlock = 1 << kBlockBits;

  explicit StampPicture(Plane plane) : plane_(std::move(plane)), across_((plane_.width() + kBlock - 1) / kBlock) {
    const int down = (plane_.height() + kBlock - 1) / kBlock;
    filled_.resize(static_cast<std::size_t>(across_) * static_cast<std::size_t>(down) + 1);
    for (int y = 0; y < plane_.height(); ++y)
      for (int block = 0; block < across_; ++block) {
        // With the next pixel and row: what lies between two pixels reads both.
        const float* const from = plane_.row(y) + static_cast<std::ptrdiff_t>(block) * kBlock * 4;
        const int n = std::min(kBlock + 1, plane_.width() - block * kBlock) * 4;
        if (std::all_of(from, from + n, [](float v) { return v == 0; })) continue;
        at(block, y / kBlock) = 1;
        if (y > 0 && y % kBlock == 0) at(block, y / kBlock - 1) = 1;
      }
  }
  [[nodiscard]] int width() const { return plane_.width(); }
  [[nodiscard]] int height() const { return plane_.height(); }
  [[nodiscard]] const float* row(int y) const { return plane_.row(y); }
  [[nodiscard]] const Plane& plane() const { return plane_; }
  /// Floats from row to row.
  [[nodiscard]] std::ptrdiff_t stride() const { return plane_.stride(); }
  /// Blocks are counted row by row.
  [[nodiscard]] int blocksAcross() const { return across_; }
  /// One that is never filled.
  [[nodiscard]] int emptyBlock() const { return static_cast<int>(filled_.size()) - 1; }
  /// False if nothing can be seen between any of a block's pixels and those to the right and below.
  [[nodiscard]] bool filled(int block) const { return filled_[static_cast<std::size_t>(block)] != 0; }

 private:
  std::uint8_t& at(int column, int row) {
    return filled_[static_cast<std::size_t>(row) * static_cast<std::size_t>(across_) + static_cast<std::size_t>(column)];
  }
  Plane plane_;
  int across_;
  std::vector<std::uint8_t> filled_;
};

}  // namespace oa
