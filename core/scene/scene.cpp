#include "scene/scene.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace oa {

const ParamSpec& opacitySpec() {
  static const ParamSpec spec{.id = "opacity",
                              .label = "Opacity",
                              .help = "How strongly the layer covers what lies below it.",
                              .base = 1.0,
                              .min = 0,
                              .max = 1,
                              .unit = Unit::Share};
  return spec;
}

RecipeStep newStep(const StepSpec& spec) {
  RecipeStep step;
  step.spec = &spec;
  for (const ParamSpec& param : spec.params) step.params.push_back(defaultParam(param));
  return step;
}

Layer newLayer(const StepSpec& source, std::string name) {
  Layer layer;
  layer.name = std::move(name);
  layer.opacity = defaultParam(opacitySpec());
  layer.recipe.push_back(newStep(source));
  return layer;
}

namespace {

void addLaps(std::int64_t& common, const ParamSpec& spec, const Param& param) {
  // A row of stills is as long as the loop.
  if (reallyMoves(spec, param)) common = std::gcd(common, spec.rule == LoopRule::Held ? 1 : std::int64_t{param.motion.laps});
}

}  // namespace

std::int64_t commonLaps(const Layer& layer) {
  std::int64_t common = 0;
  addLaps(common, opacitySpec(), layer.opacity);
  for (const RecipeStep& step : layer.recipe) {
    if (!step.on) continue;
    for (std::size_t i = 0; i < step.params.size(); ++i)
      if (isShown(step.spec->params, step.params, i)) addLaps(common, step.spec->params[i], step.params[i]);
  }
  return common;
}

std::int64_t commonLaps(const Scene& scene) {
  std::int64_t common = 0;
  for (const Layer& layer : scene.layers)
    if (layer.visible) common = std::gcd(common, commonLaps(layer));
  return common;
}

std::int64_t distinctFrames(const Scene& scene) { return distinctFrames(scene.frames, commonLaps(scene)); }

void resizeFrame(Scene& scene, int width, int height, bool scaleLengths) {
  const double factor = std::sqrt(static_cast<double>(width) * height / (static_cast<double>(scene.width) * scene.height));
  scene.width = width;
  scene.height = height;
  if (!scaleLengths) return;
  for (Layer& layer : scene.layers)
    for (RecipeStep& step : layer.recipe)
      for (std::size_t i = 0; i < step.params.size(); ++i) {
        const ParamSpec& spec = step.spec->params[i];
        if (spec.unit != Unit::Pixels) continue;
        const auto scaled = [&](Value& value) {
          if (auto* number = std::get_if<double>(&value)) *number = std::clamp(*number * factor, spec.min, spec.max);
        };
        Motion& motion = step.params[i].motion;
        scaled(step.params[i].base);
        scaled(motion.far);
        for (Keyframe& key : motion.keys) scaled(key.value);
        for (Value& value : motion.list) scaled(value);
      }
}

}  // namespace oa
