// What may be kept, as it is seen whether it was kept or not.
#pragma once

#include <memory>

#include "image/rows.h"

namespace oa {

/// The same rows, of which nobody is told what they are in light: of those that were kept nobody knows, and no bit may tell the two apart.
std::shared_ptr<const RowMaker> asShown(std::shared_ptr<const RowMaker> rows);

}  // namespace oa
