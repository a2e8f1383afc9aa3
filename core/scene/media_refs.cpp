#include "scene/media_refs.h"

#include <algorithm>
#include <filesystem>

#include "scene/tree.h"
#include "store/media_store.h"

namespace oa {
namespace {

namespace fs = std::filesystem;

template <class AnyScene, class Visit>
void each(AnyScene& scene, const Visit& visit) {
  constexpr bool kConst = std::is_const_v<AnyScene>;
  const auto visitParam = [&](const ParamSpec& spec, std::conditional_t<kConst, const Param, Param>& param) {
    if (spec.type != ParamType::File) return;
    // Files do not move: the far end is only another copy of the value.
    auto& ref = std::get<MediaRef>(param.base);
    if (ref.empty()) return;
    visit(ref);
    if constexpr (!kConst) param.motion.far = param.base;
  };
  forEachLayer(scene.layers, [&](std::conditional_t<kConst, const Layer, Layer>& layer, int) { forEachParam(layer, visitParam); });
  for (std::size_t i = 0; i < scene.sound.params.size(); ++i) visitParam(soundSpecs()[i], scene.sound.params[i]);
}

}  // namespace

void forEachMedia(Scene& scene, const std::function<void(MediaRef&)>& visit) { each(scene, visit); }
void forEachMedia(const Scene& scene, const std::function<void(const MediaRef&)>& visit) { each(scene, visit); }

void makeRelative(Scene& scene, const std::string& folder) {
  if (folder.empty()) return;
  forEachMedia(scene, [&](MediaRef& ref) {
    if (!ref.data && ref.path.front() == '/') ref.path = fs::path(ref.path).lexically_relative(folder).generic_string();
  });
}

void makeAbsolute(Scene& scene, const std::string& folder) {
  forEachMedia(scene, [&](MediaRef& ref) {
    if (!ref.data) ref.path = (fs::path(folder) / ref.path).lexically_normal().string();
  });
}

void completeMedia(Scene& scene) {
  forEachMedia(scene, [](MediaRef& ref) {
    if ((ref.width > 0 || ref.seconds > 0) && !ref.hash.empty()) return;
    const auto taken = MediaStore::shared().takeIn(ref);
    if (!taken) return;
    if (ref.hash.empty()) ref.hash = taken->hash;
    ref.bytes = taken->bytes;
    ref.width = taken->width;
    ref.height = taken->height;
    ref.pictures = taken->pictures;
    ref.seconds = taken->seconds;
  });
}

std::vector<MediaProblem> mediaProblems(const Scene& scene) {
  std::vector<MediaProblem> list;
  std::vector<MediaRef> seen;
  forEachMedia(scene, [&](const MediaRef& ref) {
    if (std::find(seen.begin(), seen.end(), ref) != seen.end()) return;
    seen.push_back(ref);
    MediaStore& store = MediaStore::shared();
    if (auto there = store.look(ref); !there)
      list.push_back({ref, mediaName(ref) + " " + there.error().message, store.takeIn(ref).has_value()});
  });
  return list;
}

int pointElsewhere(Scene& scene, const MediaRef& from, const MediaRef& to) {
  int found = 0;
  const fs::path before = fs::path(from.path).parent_path();
  const fs::path now = fs::path(to.path).parent_path();
  const auto same = [](const MediaRef& a, const MediaRef& b) { return a.path == b.path && a.hash == b.hash; };
  std::vector<std::pair<MediaRef, MediaRef>> moved{{from, to}};
  for (const MediaProblem& problem : mediaProblems(scene)) {
    if (same(problem.ref, from)) continue;
    const fs::path own(problem.ref.path);
    for (const fs::path& guess : {now / own.lexically_relative(before), now / own.filename()}) {
      const auto taken = MediaStore::shared().takeIn(MediaRef{guess.lexically_normal().string()});
      if (!taken || (!problem.ref.hash.empty() && taken->hash != problem.ref.hash)) continue;
      moved.emplace_back(problem.ref, *taken);
      break;
    }
  }
  for (const auto& [old, next] : moved) {
    bool any = false;
    forEachMedia(scene, [&, &old = old, &next = next](MediaRef& ref) {
      if (!same(ref, old)) return;
      const std::string extra = ref.extra;
      ref = next;
      ref.extra = extra;
      any = true;
    });
    found += any;
  }
  return found;
}

}  // namespace oa
