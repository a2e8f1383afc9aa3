#include "scene/scene.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "scene/tree.h"

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

std::span<const ParamSpec> maskSpecs() {
  static const ParamSpec kSpecs[kMaskParams] = {
      {.id = "reads",
       .label = "Reads",
       .help = "What of the mask's picture counts: how opaque it is, or how light.",
       .type = ParamType::Choice,
       .base = std::string("alpha"),
       .rule = LoopRule::Fixed,
       .choices = {"alpha", "lightness"}},
      {.id = "grow",
       .label = "Grow",
       .help = "Widens the mask all around; negative: narrows it.",
       .base = 0.0,
       .min = -256,
       .max = 256,
       .sliderMin = -60,
       .sliderMax = 60,
       .unit = Unit::Pixels},
      {.id = "soften",
       .label = "Soften",
       .help = "Blurs the mask's edge.",
       .base = 0.0,
       .min = 0,
       .max = 1000,
       .sliderMin = 0,
       .sliderMax = 160,
       .unit = Unit::Pixels},
      {.id = "invert",
       .label = "Invert",
       .help = "Shows the layer where the mask is not.",
       .type = ParamType::Toggle,
       .base = false,
       .rule = LoopRule::Fixed},
  };
  return kSpecs;
}

Mask newMask(const StepSpec& source) {
  Mask mask;
  mask.source = newStep(source);
  for (const ParamSpec& spec : maskSpecs()) mask.params.push_back(defaultParam(spec));
  return mask;
}

RecipeStep newStep(const StepSpec& spec) {
  RecipeStep step;
  step.spec = &spec;
  for (const ParamSpec& param : spec.params) step.params.push_back(defaultParam(param));
  for (std::size_t i = 0; spec.items && i < spec.items->first; ++i) step.items.push_back(newItem(*spec.items, i));
  return step;
}

StepContext contextOf(const RecipeStep& step, const Moment& at, const PlaneView& view) {
  return {step.spec->params, step.params, step.spec->items, step.items, at, view};
}

Layer newLayer(const StepSpec& source, std::string name) {
  Layer layer;
  layer.name = std::move(name);
  layer.opacity = defaultParam(opacitySpec());
  layer.place = defaultPlace();
  layer.recipe.push_back(newStep(source));
  return layer;
}

std::int64_t commonLaps(const Layer& layer) {
  std::int64_t common = alwaysThere(layer.presence) ? 0 : 1;
  const auto add = [&](const ParamSpec& spec, const Param& param) { common = std::gcd(common, lapsOf(spec, param)); };
  const auto addStep = [&](const RecipeStep& step) {
    if (!alwaysThere(step.presence)) common = 1;
    forEachShownParamOf(step, add);
  };
  add(opacitySpec(), layer.opacity);
  for (std::size_t i = 0; i < layer.place.size(); ++i) add(placeSpecs()[i], layer.place[i]);
  for (const RecipeStep& step : layer.recipe)
    if (step.on) addStep(step);
  if (layer.mask && layer.mask->on) {
    addStep(layer.mask->source);
    for (std::size_t i = 0; i < layer.mask->params.size(); ++i) add(maskSpecs()[i], layer.mask->params[i]);
  }
  return common;
}

void resizeFrame(Scene& scene, int width, int height, bool scaleLengths) {
  const double factor = std::sqrt(static_cast<double>(width) * height / (static_cast<double>(scene.width) * scene.height));
  scene.width = width;
  scene.height = height;
  if (!scaleLengths) return;
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec& spec, Param& param) {
      if (spec.unit != Unit::Pixels) return;
      const auto scaled = [&](Value& value) {
        if (auto* number = std::get_if<double>(&value))
          *number = std::clamp(spec.isWhole() ? std::round(*number * factor) : *number * factor, spec.min, spec.max);
        if (auto* point = std::get_if<Point>(&value))
          *point = {std::clamp(point->x * factor, spec.min, spec.max), std::clamp(point->y * factor, spec.min, spec.max)};
      };
      forEachValueOf(param, scaled);
    });
  });
}

}  // namespace oa
