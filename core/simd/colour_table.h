// Tones to colours: a baked run of stops, read by one 16-byte load per pixel.
#pragma once

#include <array>
#include <memory>
#include <mutex>
#include <vector>

#include "image/colour.h"

namespace oa {

class ColourTable {
 public:
  /// `entries` premultiplied RGBA colours for t = 0..1.
  explicit ColourTable(std::vector<std::array<float, 4>> entries);

  /// The table of `count` entries baked from stops. Tables made lately are remembered, since OKLab costs more
  /// than many frames' worth of looking up, and stops rarely change between frames.
  static std::shared_ptr<const ColourTable> baked(const Stops& stops, ColourMixing mixing, int count);

  /// `n` premultiplied RGBA pixels for t[0..n), each t clamped to [0, 1], nearest entry. `t` and `out`
  /// have room for n rounded up to kSpanPadding.
  void map(const float* t, int n, float* out) const;
  /// One entry repeated.
  void fill(float t, int n, float* out) const;
  [[nodiscard]] bool opaque() const { return opaque_; }
  /// Its colours in linear light; made once.
  [[nodiscard]] std::shared_ptr<const ColourTable> linear() const;
  [[nodiscard]] const std::vector<std::array<float, 4>>& entries() const { return entries_; }

 private:
  std::vector<std::array<float, 4>> entries_;
  bool opaque_ = true;
  mutable std::once_flag decoded_;
  mutable std::shared_ptr<const ColourTable> linear_;
};

}  // namespace oa
