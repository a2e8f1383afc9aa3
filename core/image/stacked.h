// Pictures on top of each other, and fields in colours.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "base/geometry.h"
#include "image/rows.h"

namespace oa {

/// Pictures of one size laid over each other, the lowest first, by their alpha.
std::unique_ptr<RowMaker> stackedRows(std::vector<std::shared_ptr<const RowMaker>> pictures, int width);

/// The alpha of a picture as a field.
std::shared_ptr<const RowMaker> alphaRows(std::shared_ptr<const RowMaker> picture, int width);

/// A field as a picture in one colour: as much of it as the field says, times `strength`, 1 at most.
std::shared_ptr<const RowMaker> tintedRows(std::shared_ptr<const RowMaker> field, const Colour& colour, double strength, int width);

/// Another picture, or a field as grey, where the alpha of `shape` is.
std::shared_ptr<const RowMaker> paintedRows(std::shared_ptr<const RowMaker> shape, std::shared_ptr<const RowMaker> paint, int width);

}  // namespace oa
