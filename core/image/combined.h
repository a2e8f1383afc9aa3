// Rows made from the rows of several pictures of one size, pixel by pixel.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "image/rows.h"

namespace oa {

/// Makes `n` pixels, at most kSpanStep, from (x0, y) on out of those of the parts at the same place, each in its own channels. Buffers
/// have room for `n` rounded up to kSpanPadding.
using CombineSpan = std::function<void(const float* const* parts, int x0, int y, int n, float* out)>;

struct CombinedLook {
  int channels = 4;
  bool opaque = false;
};

std::shared_ptr<const RowMaker> combinedRows(std::vector<std::shared_ptr<const RowMaker>> parts, int width, CombinedLook look,
                                             CombineSpan span);

}  // namespace oa
