// YCbCr as clips hold it, to R'G'B': by zimg, which puts chroma where the clip says it lies.
#pragma once

#include <optional>

#include "base/av.h"
#include "store/raster.h"

namespace oa {

/// A planar frame of YCbCr or grey, with or without alpha, in `width` x `height` pixels, as rasterOf() has it. None for other frames.
std::optional<Raster> rasterOfYuv(const AVFrame& frame, int width, int height);

}  // namespace oa
