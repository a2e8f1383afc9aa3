// A part of a picture.
#pragma once

#include <memory>

#include "image/rows.h"

namespace oa {

/// `width` pixels of every row of `rows`, which are `have` pixels wide, from pixel (x, y) of it.
std::shared_ptr<const RowMaker> cropped(std::shared_ptr<const RowMaker> rows, int x, int y, int width, int have);

/// Rows `width` pixels wide, those of `rows` in `box` and transparent elsewhere; `rows` are a picture as large as the box.
std::shared_ptr<const RowMaker> patched(std::shared_ptr<const RowMaker> rows, const PixelBox& box, int width);

}  // namespace oa
