// A tone curve as a table with straight lines between its entries.
#pragma once

#include <vector>

#include "image/tone_curve.h"

namespace oa {

class ToneTable {
 public:
  static constexpr int kEntries = 1024;

  explicit ToneTable(const Curve& curve);
  /// `n` values in place, each held within 0 to 1 first. Buffers have room for n rounded up to kSpanPadding.
  void apply(float* v, int n) const;
  /// One channel of `n` premultiplied RGBA pixels with this table's curve, straight: channels 0 to 2, or all three.
  void applyTo(float* rgba, int n, int firstChannel, int lastChannel) const;

 private:
  std::vector<float> pairs_;  // each entry, and what the next is more
};

/// v (scale) + offset for `n` values in place.
void scaleSpan(float* v, int n, float scale, float offset);

}  // namespace oa
