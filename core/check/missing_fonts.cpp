#include "check/missing_fonts.h"

#include <set>

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

std::vector<std::string> missingFonts(const Scene& scene) {
  std::set<std::string> there;
  for (const std::string& family : fontFamilies()) there.insert(lowered(family));
  std::set<std::string> missing;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    for (const RecipeStep& step : layer.recipe)
      for (std::size_t i = 0; i < step.params.size(); ++i) {
        if (step.spec->params[i].type != ParamType::Font || !isShown(step.spec->params, step.params, i)) continue;
        const std::string& family = std::get<Text>(step.params[i].base).text;
        if (!there.contains(lowered(family))) missing.insert(family);
      }
  });
  return {missing.begin(), missing.end()};
}

}  // namespace oa
