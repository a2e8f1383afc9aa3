// Pictures that are mostly nothing.
#pragma once

#include <memory>

#include "image/buffer.h"
#include "image/rows.h"

namespace oa {

/// A premultiplied picture as rows of which only what is something is laid over what is below. Of a picture in one colour, as it is said to
/// be or seen to, also the alpha of each pixel is kept, a quarter of its bytes.
std::unique_ptr<RowMaker> sparseRows(Plane picture, bool inOneColour = false);

}  // namespace oa
