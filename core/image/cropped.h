// A part of a picture.
#pragma once

#include <memory>

#include "image/rows.h"

namespace oa {

/// `width` pixels of every row of `rows` from pixel (x, y) of it.
std::shared_ptr<const RowMaker> cropped(std::shared_ptr<const RowMaker> rows, int x, int y, int width);

}  // namespace oa
