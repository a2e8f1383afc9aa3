// A picture as FFmpeg decodes it, as one of ours.
#pragma once

#include <optional>

#include "base/av.h"
#include "store/raster.h"

namespace oa {

/// The frame in `width` x `height` pixels (its own, but for pixels that are not square): 8 bits, or 16 where it has more, with alpha where
/// it has any. YCbCr is decoded by the matrix and the range that the frame names; those that name none are BT.709 from 720 rows on
/// and BT.601 below (Rec. ITU-R BT.709-6, BT.601-7). None if it cannot be converted.
std::optional<Raster> rasterOf(const AVFrame& frame, int width, int height);

/// The raster turned clockwise by `quarters` of a turn.
Raster turnedBy(const Raster& raster, int quarters);

}  // namespace oa
