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

Status saveScene(const Scene& scene, const std::string& path) {
  const std::string text = sceneToText(scene);
  // What could not be opened again is not saved: the work is safer where it is.
  if (const auto again = sceneFromText(text); !again)
    return fail("was not saved, because it could not be opened again: " + again.error().sentence(), path);
  return writeFileAtomically(path, text);
}

}  // namespace oa
