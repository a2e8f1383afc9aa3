// Many small ones of a layer behind it.
#pragma once

#include <string>

#include "edit/layers.h"

namespace oa::edit {

/// A repeat of the layer right below it: small, turned, in staggered rows that travel; it follows whatever the layer becomes. Refused
/// where the layer shows nothing.
Result<Ids> addWall(Scene& scene, Id layer, const std::string& name);

}  // namespace oa::edit
