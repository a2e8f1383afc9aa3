#include "scene/recolour.h"

#include <algorithm>

#include "scene/tree.h"

namespace oa {
namespace {

bool sameHue(const Colour& a, const Colour& b) { return a.r == b.r && a.g == b.g && a.b == b.b; }

}  // namespace

void eachColour(Scene& scene, const std::function<void(Colour&)>& visit) {
  if (scene.background) visit(*scene.background);
  const auto inStep = [&](RecipeStep& step) {
    forEachShownParamOf(step, [&](const ParamSpec&, Param& param) {
      forEachValueOf(param, [&](Value& value) {
        if (auto* colour = std::get_if<Colour>(&value)) visit(*colour);
      });
    });
  };
  // What a mask shows is read as a number: its colours are nobody's.
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    for (RecipeStep& step : layer.recipe) inStep(step);
  });
}

std::vector<Colour> coloursOf(const Scene& scene) {
  std::vector<Colour> list;
  Scene copy = scene;
  eachColour(copy, [&](const Colour& colour) {
    if (std::none_of(list.begin(), list.end(), [&](const Colour& c) { return sameHue(c, colour); }))
      list.push_back({colour.r, colour.g, colour.b, 1});
  });
  return list;
}

Scene recoloured(const Scene& scene, const Palette& palette) {
  const std::vector<Colour> from = coloursOf(scene);
  const std::vector<Colour> to = matchedColours(from, palette.colours);
  Scene result = scene;
  result.palette = palette;
  eachColour(result, [&](Colour& colour) {
    const auto found = std::find_if(from.begin(), from.end(), [&](const Colour& c) { return sameHue(c, colour); });
    const Colour& match = to[static_cast<std::size_t>(found - from.begin())];
    colour = {match.r, match.g, match.b, colour.a};
  });
  return result;
}

}  // namespace oa
