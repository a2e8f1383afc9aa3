// Layers of a scene as JSON, with all that is in them.
#pragma once

#include <functional>
#include <span>
#include <string>
#include <vector>

#include "params/param_json.h"
#include "scene/scene.h"

namespace oa {

/// Adds the layers of a list, groups with theirs; there are bounds on how many and how deep. `path` names the list in errors.
Status layersFromJson(const Json& json, const std::string& path, std::vector<Layer>& layers);
/// Parameters of a table, each under its id. What else there is comes back as text.
Result<std::string> tableFromJson(std::span<const ParamSpec> specs, const Json& json, std::vector<Param>& params, const std::string& path,
                                  const std::function<bool(const std::string&)>& alsoKnown = {});
/// Those that are not as usual; `complete`: all.
void addTable(Json& json, std::span<const ParamSpec> specs, const std::vector<Param>& params, bool complete);

/// `complete`: with what files leave out because it is as usual.
Json layerToJson(const Layer& layer, bool complete = false);

}  // namespace oa
