// Scenes as JSON text: the *.overagain format. docs/format.md describes it.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "params/param_json.h"
#include "scene/scene.h"

namespace oa {

inline constexpr int kFormatVersion = 2;
inline constexpr std::size_t kMaxSceneBytes = std::size_t{16} << 20;
inline constexpr int kMaxJsonDepth = 64;
/// Members of one object or list. Keys are looked up one after the other, so this also bounds the time. No list of a scene is longer.
inline constexpr int kMaxJsonMembers = 4096;

/// Parses bounded JSON: size, depth and syntax are checked before anything is built from it.
Result<Json> parseJson(std::string_view text);

/// Every error names the place: "layers[2].noise.detail: 40 is above 12". Unknown keys are kept and written back.
Result<Scene> sceneFromJson(const Json& json);
Result<Scene> sceneFromText(std::string_view text);
/// `complete`: with what files leave out because it is as usual (visible layers, steps that are on, unused parts).
Json sceneToJson(const Scene& scene, bool complete = false);
/// One layer with what is in it, and one step; `path` names them in errors.
Json layerToJson(const Layer& layer, bool complete = false);
Json stepToJson(const RecipeStep& step, bool complete = false);
Result<Layer> layerFromJson(const Json& json, const std::string& path);
Result<RecipeStep> stepFromJson(const Json& json, const std::string& path);
/// Indented, short lists and objects on one line. What is longer than kMaxSceneBytes could not be read again: saveScene() refuses it.
std::string sceneToText(const Scene& scene);

/// Places of all keys that this version does not know, and keeps: "layers[0].noise.cell.motion.wobble".
std::vector<std::string> unknownKeys(const Scene& scene);

/// Changes one value of a scene by path, as `--set` does: "layers[0].noise.cell=90",
/// "layers[1].opacity.motion.laps=2", "frames=120". The value is JSON, or a bare word. What has no effect is an error.
Result<Scene> withValueSet(const Scene& scene, std::string_view assignment);

}  // namespace oa
