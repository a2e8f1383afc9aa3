#include "scene/scene_file.h"

#include "base/files.h"
#include "scene/scene_json.h"

namespace oa {

Result<Scene> loadScene(const std::string& path) {
  const auto bytes = readFile(path, kMaxSceneBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  auto scene = sceneFromText(*bytes);
  if (!scene) return fail(scene.error().sentence(), path);
  return scene;
}

Status saveScene(const Scene& scene, const std::string& path) { return writeFileAtomically(path, sceneToText(scene)); }

}  // namespace oa
