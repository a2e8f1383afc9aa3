// Layers of a scene as JSON, with all that is in them.
#pragma once

#include <string>
#include <vector>

#include "params/param_json.h"
#include "scene/scene.h"

namespace oa {

/// Adds the layers of a list, groups with theirs; there are bounds on how many and how deep. `path` names the list in errors.
Status layersFromJson(const Json& json, const std::string& path, std::vector<Layer>& layers);
/// `complete`: with what files leave out because it is as usual.
Json layerToJson(const Layer& layer, bool complete = false);

}  // namespace oa
