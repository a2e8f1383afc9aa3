// Scenes as JSON text: the *.overagain format. docs/format.md describes it.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "scene/json_text.h"
#include "scene/scene.h"

namespace oa {

inline constexpr int kFormatVersion = 2;

/// Every error names the place: "layers[2].noise.detail: 40 is above 12". Unknown keys are kept and written back.
Result<Scene> sceneFromJson(const Json& json);
Result<Scene> sceneFromText(std::string_view text);
/// `complete`: with what files leave out because it is as usual (visible layers, steps that are on, unused parts).
Json sceneToJson(const Scene& scene, bool complete = false);
/// Indented, short lists and objects on one line. What is longer than kMaxSceneBytes could not be read again: saveScene() refuses it.
std::string sceneToText(const Scene& scene);

/// Places of all keys that this version does not know, and keeps: "layers[0].noise.cell.motion.wobble".
std::vector<std::string> unknownKeys(const Scene& scene);

/// Changes one value of a scene by path, as `--set` does: "layers[0].noise.cell=90",
/// "layers[1].opacity.motion.laps=2", "frames=120". The value is JSON, or a bare word. What has no effect is an error.
Result<Scene> withValueSet(const Scene& scene, std::string_view assignment);

}  // namespace oa
