// A picture seen through a lens.
#pragma once

#include <memory>

#include "fields/input.h"
#include "lens/lens_map.h"

namespace oa {

/// The pixels of `view` as `map` says. The input goes on beyond the view: it is asked for where the map leads.
std::shared_ptr<const RowMaker> lensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view);

}  // namespace oa
