// Scene files on disk.
#pragma once

#include <string>

#include "scene/scene.h"

namespace oa {

inline constexpr const char* kSceneSuffix = ".overagain";

/// Errors name the file, and the place in it. Media are named by their absolute paths, in files relative to the scene's folder.
Result<Scene> loadScene(const std::string& path);
/// Atomic: the file is either as it was or wholly new.
Status saveScene(const Scene& scene, const std::string& path);

}  // namespace oa
