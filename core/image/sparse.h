// Pictures that are mostly nothing.
#pragma once

#include <memory>

#include "image/buffer.h"
#include "image/rows.h"

namespace oa {

/// A premultiplied picture as rows of which only what is something is laid over what is below.
std::unique_ptr<RowMaker> sparseRows(Plane picture);

}  // namespace oa
