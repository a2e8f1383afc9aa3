// How much of each pixel of a row lies within a polygon.
#pragma once

#include <vector>

#include "base/geometry.h"

namespace oa {

/// The shares of pixels [0, width) of row `y` that lie within closed lines, in [0, 1]: exact areas, summed by how far each edge
/// lets what is right of it in. What is gone round twice in one direction is within. (After R. Levien's font-rs, and the accumulation
/// buffers of scan converters since L. Carpenter, "The A-buffer", SIGGRAPH 1984.)
/// `sums` needs room for width + 2 numbers; `edges` are those that touch the row.
struct AreaEdge {
  Point from;
  Point to;
};
void coverRow(const AreaEdge* edges, std::size_t count, int y, int width, float* sums);

}  // namespace oa
