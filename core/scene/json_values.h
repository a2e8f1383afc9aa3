// Plain values of scene files, checked. `path` names the place in errors.
#pragma once

#include <string>

#include "params/param_json.h"

namespace oa {

/// "layers[2].recipe[0]" for the parts of a place.
std::string indexed(const std::string& path, const char* key, std::size_t i);
Result<int> wholeNumber(const Json& json, int low, int high, const std::string& path);
/// At most kMaxNameBytes.
Result<std::string> nameText(const Json& json, const std::string& path);
Result<bool> flag(const Json& json, const std::string& path);

}  // namespace oa
