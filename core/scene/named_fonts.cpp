#include "scene/named_fonts.h"

#include "params/step_context.h"
#include "scene/tree.h"
#include "words/typeset.h"

namespace oa {
namespace {

// Families are found whatever their case.
std::string lowered(std::string name) {
  for (char& c : name)
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
  return name;
}

}  // namespace

std::set<std::string> namedFonts(const Scene& scene) {
  std::set<std::string> named;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    for (const RecipeStep& step : layer.recipe)
      for (std::size_t i = 0; i < step.params.size(); ++i)
        if (step.spec->params[i].type == ParamType::Font && isShown(step.spec->params, step.params, i))
          named.insert(std::get<Text>(step.params[i].base).text);
  });
  return named;
}

std::set<std::string> unknownFonts(const Scene& scene) {
  std::set<std::string> there;
  for (const std::string& family : fontFamilies()) there.insert(lowered(family));
  std::set<std::string> unknown = namedFonts(scene);
  std::erase_if(unknown, [&](const std::string& family) { return there.contains(lowered(family)); });
  return unknown;
}

}  // namespace oa
