// Pixels of a lens that read several levels, or several points of one.
#pragma once

#include "lens/level_table.h"
#include "lens/lens_map.h"

namespace oa {

/// Pixels of a row that are read at a time, and room for as many: cells stick out on both sides.
inline constexpr int kLensRun = 256;
inline constexpr int kLensRoom = kLensRun + 2 * kLensCellWidth + kSpanPadding;

/// Cells side by side.
using CellsOfRow = const LensCell * [kLensRoom / kLensCellWidth];

/// Writes pixels [`skipped`, `n`) of a row of whole cells, which lie where `at` says; `n` is at most kLensRoom - kSpanPadding.
void readMixed(const LevelTable& levels, const CellsOfRow& cells, const LensMap::Slopes& at, int skipped, int n, float* out);

}  // namespace oa
