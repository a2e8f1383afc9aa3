// Scene files on disk.
#pragma once

#include <string>

#include "scene/scene.h"

namespace oa {

inline constexpr const char* kSceneSuffix = ".overagain";

/// Errors name the file, and the place in it. Media are named by their absolute paths, in files relative to the scene's folder.
Result<Scene> loadScene(const std::string& path);
/// With a name that ends in kPackSuffix it is a pack (scene/pack.h). Atomic: the file is either as it was or wholly new.
Status saveScene(const Scene& scene, const std::string& path);

/// The folder beside a scene file that takes what it holds and is too large for it: its own name and "-media".
std::string mediaFolderName(const std::string& path);

}  // namespace oa
