// A picture that was made in one view, shown in another.
#pragma once

#include <memory>

#include "image/plane_view.h"
#include "image/rows.h"

namespace oa {

/// `rows` are those of the view `have`; what comes back are those of `wanted`, read by cubic convolution. Beyond `have` its edge
/// is held.
std::shared_ptr<const RowMaker> resampled(const std::shared_ptr<const RowMaker>& rows, const PlaneView& have, const PlaneView& wanted);

}  // namespace oa
