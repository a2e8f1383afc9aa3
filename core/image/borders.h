// What lies beyond the edge of a picture.
#pragma once

#include "base/numbers.h"

namespace oa {

/// Beyond: there is no edge, the picture goes on. Of a plane that was pulled for it nothing outside is ever wanted but by a
/// rounding error, which is held.
enum class Edge { Clamp, Wrap, Mirror, Transparent, Beyond };

/// Index inside [0, n) that stands for `i`, or -1 for "nothing" (Edge::Transparent).
inline int edgeIndex(Edge edge, std::int64_t i, int n) {
  if (i >= 0 && i < n) return static_cast<int>(i);
  switch (edge) {
    case Edge::Clamp:
    case Edge::Beyond:
      return i < 0 ? 0 : n - 1;
    case Edge::Wrap:
      return static_cast<int>(floorMod(i, n));
    case Edge::Mirror: {
      const auto m = static_cast<int>(floorMod(i, std::int64_t{2} * n));
      return m < n ? m : 2 * n - 1 - m;
    }
    case Edge::Transparent:
      break;
  }
  return -1;
}

}  // namespace oa
