// Where the pixels of all levels lie, side by side: so that the lanes of a vector may each read another level.
#pragma once

#include <cstdint>

#include "lens/lens_levels.h"

namespace oa {

/// Places of a level, in pixels of the view, as its pixels; those beyond it are those at its edge. Level `k` stands at `k` -
/// LensLevels::kFinest.
struct LevelTable {
  /// Levels, and room so that vectors hold all of them.
  static constexpr int kRoom = 16;
  static_assert(LensLevels::kLevels <= kRoom);

  explicit LevelTable(const LensLevels& levels);
  [[nodiscard]] static int at(int level) { return level - LensLevels::kFinest; }

  alignas(64) float scale[kRoom] = {};
  alignas(64) float shiftX[kRoom] = {};
  alignas(64) float shiftY[kRoom] = {};
  alignas(64) float lastX[kRoom] = {};  ///< columns of its last pixels
  alignas(64) float lastY[kRoom] = {};
  alignas(64) std::int32_t stride[kRoom] = {};  ///< floats from row to row
  const float* first[kRoom] = {};
  std::int32_t channels;
};

}  // namespace oa
