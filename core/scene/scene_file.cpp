#include "scene/scene_file.h"

#include <filesystem>

#include "base/files.h"
#include "scene/media_refs.h"
#include "scene/scene_json.h"

namespace oa {
namespace {

std::string folderOf(const std::string& path) { return std::filesystem::absolute(path).lexically_normal().parent_path().string(); }

}  // namespace

Result<Scene> loadScene(const std::string& path) {
  const auto bytes = readFile(path, kMaxSceneBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  auto scene = sceneFromText(*bytes);
  if (!scene) return fail(scene.error().sentence(), path);
  makeAbsolute(*scene, folderOf(path));
  completeMedia(*scene);
  return scene;
}

Status saveScene(const Scene& scene, const std::string& path) {
  Scene written = scene;
  makeRelative(written, folderOf(path));
  const std::string text = sceneToText(written);
  // What could not be opened again is not saved: the work is safer where it is.
  if (const auto again = sceneFromText(text); !again)
    return fail("was not saved, because it could not be opened again: " + again.error().sentence(), path);
  return writeFileAtomically(path, text);
}

}  // namespace oa
