// The list of items of a step as JSON.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "params/param_json.h"
#include "steps/step.h"

namespace oa {

/// The items in a step's JSON, or those of a new step where it names none. Step versions that numbered their parameters are
/// understood: `numbered` receives the keys that were. `path` names the step in errors.
Result<std::vector<Item>> itemsFromJson(const StepSpec& step, const Json& json, int version, const std::string& path,
                                        std::set<std::string>& numbered);
Json itemsToJson(const ItemsSpec& spec, const std::vector<Item>& items);

}  // namespace oa
