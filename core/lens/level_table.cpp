#include "lens/level_table.h"

namespace oa {

LevelTable::LevelTable(const LensLevels& levels) : channels(levels.channels()) {
  for (int k = 0; k < LensLevels::kLevels; ++k) {
    const LensLevel& level = levels.level(k + LensLevels::kFinest);
    const PlanePixels& pixels = level.plane.pixels();
    scale[k] = level.scale;
    shiftX[k] = level.shiftX;
    shiftY[k] = level.shiftY;
    lastX[k] = static_cast<float>(pixels.width - 1);
    lastY[k] = static_cast<float>(pixels.height - 1);
    stride[k] = static_cast<std::int32_t>(pixels.stride);
    first[k] = pixels.first;
  }
}

}  // namespace oa
