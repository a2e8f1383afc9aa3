#include "scene/scene_file.h"

#include <filesystem>

#include "base/files.h"
#include "base/memory.h"
#include "scene/json_text.h"
#include "scene/media_refs.h"
#include "scene/pack.h"
#include "scene/scene_json.h"

namespace oa {
namespace {

std::string folderOf(const std::string& path) { return std::filesystem::absolute(path).lexically_normal().parent_path().string(); }

// Large files that the scene holds, as those of an opened pack, go into a folder beside it; small ones stay in it.
Status layBeside(Scene& scene, const std::filesystem::path& file) {
  constexpr std::size_t kMostInAll = std::size_t{8} << 20;
  const std::filesystem::path folder = file.parent_path() / mediaFolderName(file.string());
  std::size_t total = 0;
  Status status;
  forEachMedia(scene, [&](MediaRef& ref) {
    if (!status || !ref.data) return;
    total += ref.data->size();
    if (ref.data->size() <= kMostEmbeddedBytes && total <= kMostInAll) return;
    total -= ref.data->size();
    // Named by its content as well: it is written once, and never over another.
    const std::filesystem::path to = folder / (ref.hash.substr(0, 12) + "-" + mediaName(ref));
    std::error_code error;
    std::filesystem::create_directories(folder, error);
    if (error) {
      status = fail("cannot be made: " + error.message(), folder.string());
      return;
    }
    if (!std::filesystem::exists(to, error)) status = writeFileAtomically(to.string(), *ref.data);
    ref.path = to.string();
    ref.data = nullptr;
  });
  return status;
}

}  // namespace

std::string mediaFolderName(const std::string& path) { return std::filesystem::path(path).stem().string() + "-media"; }

Result<Scene> loadScene(const std::string& path) {
  const bool pack = isPack(beginningOfFile(path, 4));
  const auto bytes = withMemory([&] { return readFile(path, pack ? kMostPackBytes : kMaxSceneBytes); });
  if (!bytes) return tl::unexpected(bytes.error());
  auto scene = pack ? withMemory([&] { return sceneFromPack(*bytes); }) : sceneFromText(*bytes);
  if (!scene) return fail(scene.error().sentence(), path);
  makeAbsolute(*scene, folderOf(path));
  completeMedia(*scene);
  return scene;
}

Status saveScene(const Scene& scene, const std::string& path) {
  const std::filesystem::path file = std::filesystem::absolute(path).lexically_normal();
  if (file.extension() == kPackSuffix) {
    const auto pack = withMemory([&] { return packOf(scene); });
    if (!pack) return fail("was not packed: " + pack.error().sentence(), path);
    return writeFileAtomically(path, *pack);
  }
  Scene written = scene;
  if (auto laid = layBeside(written, file); !laid) return laid;
  makeRelative(written, folderOf(path));
  const std::string text = sceneToText(written);
  // What could not be opened again is not saved: the work is safer where it is.
  if (const auto again = sceneFromText(text); !again)
    return fail("was not saved, because it could not be opened again: " + again.error().sentence(), path);
  return writeFileAtomically(path, text);
}

}  // namespace oa
