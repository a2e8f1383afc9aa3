// JSON as text: read within bounds, written so that it is pleasant to compare.
#pragma once

#include <string>
#include <string_view>

#include "params/param_json.h"

namespace oa {

inline constexpr std::size_t kMaxSceneBytes = std::size_t{16} << 20;
inline constexpr int kMaxJsonDepth = 64;
/// Members of one object or list. Keys are looked up one after the other, so this also bounds the time. No list of a scene is longer.
inline constexpr int kMaxJsonMembers = 4096;

/// Parses bounded JSON: size, depth and syntax are checked before anything is built from it.
Result<Json> parseJson(std::string_view text);
/// Indented, short lists and objects on one line.
std::string jsonText(const Json& json);

}  // namespace oa
