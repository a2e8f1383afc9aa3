#include "edit/passages.h"

#include <algorithm>

namespace oa::edit {
namespace {

Error missing() { return {"there is no such layer", ""}; }

double& delayOf(Passage& passage) { return std::get<double>(passage.params.front().base); }

}  // namespace

Result<Ids> setPassage(Scene& scene, const Ids& layers, bool leaving, const std::optional<Passing>& passing) {
  Scene changed = scene;
  for (const Id id : layers) {
    Layer* layer = findLayer(changed, id);
    if (!layer) return tl::unexpected(missing());
    auto& way = layer->passes.way(leaving);
    const double delay = way ? delayOf(*way) : 0;
    const std::string extra = way ? way->extra : std::string();
    way = passing ? std::optional(passageOf(*passing)) : std::nullopt;
    if (!way) continue;
    way->extra = extra;
    if (delay > 0) delayOf(*way) = delay;
  }
  scene = std::move(changed);
  return layers;
}

Result<Ids> setStepPassage(Scene& scene, Id layer, int step, bool leaving, bool on) {
  Layer* own = findLayer(scene, layer);
  if (!own) return tl::unexpected(missing());
  if (step < 1 || step >= static_cast<int>(own->recipe.size())) return fail("only steps behind the source arrive and leave by themselves");
  auto& way = own->recipe[static_cast<std::size_t>(step)].passes.way(leaving);
  way = on ? std::optional(newPassage(stepPassageSpecs())) : std::nullopt;
  return Ids{layer};
}

Result<Ids> orderPassages(Scene& scene, const Ids& layers, bool leaving, double apart, bool fromAbove) {
  if (layers.size() < 2) return fail("select several layers to put them in order");
  if (!(apart >= 0)) return fail("layers cannot come before those that they follow");
  Ids order;
  for (const Id id : allIds(scene))
    if (std::find(layers.begin(), layers.end(), id) != layers.end()) order.push_back(id);
  if (fromAbove) std::reverse(order.begin(), order.end());
  const ParamSpec& spec = passageSpecs().front();
  if (apart * static_cast<double>(order.size() - 1) > spec.max)
    return fail("that is later than " + std::to_string(static_cast<int>(spec.max)) + " s for the last of them");
  for (std::size_t i = 0; i < order.size(); ++i) {
    auto& way = findLayer(scene, order[i])->passes.way(leaving);
    if (!way) way = newPassage(passageSpecs());
    delayOf(*way) = apart * static_cast<double>(i);
  }
  return layers;
}

bool fits(const ReadyPassage& ready, const Layer& layer) { return !ready.pieces || layer.recipe.front().spec->pieces; }

}  // namespace oa::edit
