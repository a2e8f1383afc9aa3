// What may be kept: the same to the bit whether it was kept or not.
#pragma once

#include <functional>
#include <memory>

#include "image/rows.h"

namespace oa {

/// `rows`, `width` pixels wide, as they can be kept. With `light`, those that know what they are in linear light are kept as that: they
/// are shown by encoding it, and their light is never decoded. Of all others, and without `light`, nobody is told their light, since none
/// would know it of what was kept.
std::shared_ptr<const RowMaker> keepable(std::shared_ptr<const RowMaker> rows, int width, bool light);

/// What `keep` makes of such rows, or of their light, to be used as they are; it is `width` pixels wide.
using Keep = std::function<std::shared_ptr<const RowMaker>(const std::shared_ptr<const RowMaker>&)>;
std::shared_ptr<const RowMaker> keptAs(const std::shared_ptr<const RowMaker>& rows, int width, const Keep& keep);

}  // namespace oa
