// What the pixels of a cell read, one by one: for cells whose corners do not speak for what lies between them.
#pragma once

#include "lens/lens_levels.h"

namespace oa {

/// A rectangle, in pixels of the view; empty at first.
struct LensRegion {
  double left = 1e30, top = 1e30, right = -1e30, bottom = -1e30;
  void add(const LensRegion& o) {
    left = o.left < left ? o.left : left;
    top = o.top < top ? o.top : top;
    right = o.right > right ? o.right : right;
    bottom = o.bottom > bottom ? o.bottom : bottom;
  }
  [[nodiscard]] bool empty() const { return left > right; }
};

/// Pixels: nobody looks further.
inline constexpr double kFarthestRead = 1e7;

/// Cells that are looked at together, at most.
inline constexpr int kCellsAtOnce = 16;

/// Finds the levels that pixels of `count` cells side by side, the first with its corner at (x0, y0), read with as many points as each
/// cell has, those of its rows in which anything is seen, and adds what they read of each level to `regions`, of which there is one for
/// each from LensLevels::kFinest on.
void everyPixel(const LensMap& map, int x0, int y0, LensCell* cells, int count, LensRegion* regions);

}  // namespace oa
