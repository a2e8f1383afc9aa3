#include "support/scenes.h"

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <filesystem>

#include "params/stop_items.h"
#include "scene/scene_file.h"

namespace oa::test {
namespace {

[[noreturn]] void giveUp(const std::string& why) {
  std::fprintf(stderr, "test support: %s\n", why.c_str());
  std::abort();
}

}  // namespace

std::vector<std::string> demoScenePaths() {
  std::vector<std::string> paths;
  for (const auto& entry : std::filesystem::directory_iterator(OA_SOURCE_DIR "/demo-data/scenes"))
    if (entry.path().extension() == kSceneSuffix) paths.push_back(entry.path().string());
  std::sort(paths.begin(), paths.end());
  return paths;
}

Scene demoScene(const std::string& fileName) {
  auto scene = loadScene(std::string(OA_SOURCE_DIR "/demo-data/scenes/") + fileName);
  if (!scene) giveUp(scene.error().sentence());
  return *scene;
}

Scene oneLayer(const std::string& source, int width, int height, int frames) {
  const StepSpec* spec = findStep(source);
  if (!spec) giveUp("there is no source " + source);
  Scene scene;
  scene.name = "test";
  scene.width = width;
  scene.height = height;
  scene.frames = frames;
  scene.layers.push_back(newLayer(*spec, source));
  return scene;
}

RecipeStep& addStep(Scene& scene, const std::string& step) {
  const StepSpec* spec = findStep(step);
  if (!spec) giveUp("there is no step " + step);
  auto& recipe = scene.layers.back().recipe;
  recipe.push_back(newStep(*spec));
  return recipe.back();
}

Param& param(Scene& scene, std::size_t layer, std::size_t step, const std::string& id) {
  RecipeStep& at = scene.layers.at(layer).recipe.at(step);
  if (const int i = findParam(at.spec->params, id); i >= 0) return at.params[static_cast<std::size_t>(i)];
  const std::size_t digits = id.find_last_not_of("0123456789") + 1;
  if (!at.spec->items || digits == id.size()) giveUp(std::string(at.spec->id) + " has no parameter " + id);
  const int i = findParam(at.spec->items->params, id.substr(0, digits));
  const std::size_t item = std::stoul(id.substr(digits));
  if (i < 0 || item < 1 || item > at.items.size()) giveUp(std::string(at.spec->id) + " has no item with " + id);
  return at.items[item - 1].params[static_cast<std::size_t>(i)];
}

void setCount(Scene& scene, std::size_t layer, std::size_t step, std::size_t count) {
  RecipeStep& at = scene.layers.at(layer).recipe.at(step);
  at.items.resize(std::min(at.items.size(), count));
  while (at.items.size() < count) at.items.push_back(newItem(*at.spec->items, at.items.size()));
}

void setStops(Scene& scene, std::size_t layer, std::size_t step, const Stops& stops) {
  RecipeStep& at = scene.layers.at(layer).recipe.at(step);
  at.items.clear();
  for (const Stop& stop : stops) at.items.push_back(stopItem(stop));
}

void setValue(Scene& scene, std::size_t layer, std::size_t step, const std::string& id, const Value& value) {
  Param& p = param(scene, layer, step, id);
  if (p.base.index() != value.index()) giveUp(id + " is of another type");
  p.base = value;
  p.motion.far = value;
}

Motion swing(const Value& far, int laps) {
  Motion motion;
  motion.kind = MotionKind::Swing;
  motion.laps = laps;
  motion.far = far;
  return motion;
}

Motion turn(int laps) {
  Motion motion;
  motion.kind = MotionKind::Turn;
  motion.laps = laps;
  return motion;
}

}  // namespace oa::test
