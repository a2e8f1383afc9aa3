// Scenes as JSON text: the *.overagain format. docs/format.md describes it.
#pragma once

#include <string>
#include <string_view>

#include "scene/scene.h"

namespace oa {

inline constexpr int kFormatVersion = 1;
inline constexpr std::size_t kMaxSceneBytes = std::size_t{4} << 20;
inline constexpr int kMaxJsonDepth = 32;
/// Members of one object or list. Keys are looked up one after the other, so this also bounds the time.
inline constexpr int kMaxJsonMembers = 1024;

/// Parses bounded JSON: size, depth and syntax are checked before anything is built from it.
Result<Json> parseJson(std::string_view text);

/// Every error names the place: "layers[2].noise.detail: 40 is above 12". Unknown keys are kept and written back.
Result<Scene> sceneFromJson(const Json& json);
Result<Scene> sceneFromText(std::string_view text);
Json sceneToJson(const Scene& scene);
std::string sceneToText(const Scene& scene);

/// Changes one value of a scene by path, as `--set` does: "layers[0].noise.cell=90",
/// "layers[1].opacity.motion.laps=2", "frames=120". The value is JSON, or a bare word.
Result<Scene> withValueSet(const Scene& scene, std::string_view assignment);

}  // namespace oa
