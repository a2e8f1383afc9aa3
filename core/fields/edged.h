// Reading a picture beyond the frame: as it goes on, or as if it ended at the frame's edge.
#pragma once

#include <memory>

#include "fields/input.h"
#include "image/borders.h"

namespace oa {

/// The pixels of `view`, which is upright unless `edge` is Beyond. Any other rule cuts the picture at the frame and fills what
/// lies outside by it. They are not stored where they need not be.
std::shared_ptr<const RowMaker> edgedRows(const Input& input, const PlaneView& view, Edge edge);

/// The frame's first pixel and the one past its last, along one axis of an upright view.
struct PixelRange {
  int begin = 0;
  int end = 0;
};
PixelRange frameColumns(const PlaneView& view);
PixelRange frameRows(const PlaneView& view);

}  // namespace oa
