#include "edit/wall.h"

#include <algorithm>
#include <cmath>

#include "scene/extent.h"

namespace oa::edit {
namespace {

void set(std::span<const ParamSpec> specs, std::vector<Param>& params, std::string_view id, Value value) {
  Param& param = params[static_cast<std::size_t>(findParam(specs, id))];
  param.base = param.motion.far = std::move(value);
}

}  // namespace

Result<Ids> addWall(Scene& scene, Id layer, const std::string& name) {
  const Plan plan(scene);
  const int index = plan.indexOf(layer);
  if (index < 0) return fail("there is no such layer");
  const Box box = extentOf(plan, index, {0, scene.frames}).box;
  if (!(box.width() > 0) || !(box.height() > 0)) return fail("the layer shows nothing that could be repeated");
  Layer wall = newLayer(*findStep("repeat"), name);
  RecipeStep& repeat = wall.recipe[0];
  const auto specs = repeat.spec->params;
  // About five side by side.
  const double size = std::round(std::min(0.5 * box.width(), 0.22 * scene.width));
  const double high = size * box.height() / box.width();
  set(specs, repeat.params, "spread", std::string("staggered"));
  set(specs, repeat.params, "layer", static_cast<double>(layer));
  set(specs, repeat.params, "distance", Point{std::round(std::max(8.0, 1.04 * size)), std::round(std::max(8.0, 1.1 * high))});
  set(specs, repeat.params, "spin", -14.0);
  set(specs, repeat.params, "travel", Point{1, 0});
  set(repeat.spec->items->params, repeat.items[0].params, "kind", std::string("layer"));
  set(repeat.spec->items->params, repeat.items[0].params, "size", size);
  set(repeat.spec->items->params, repeat.items[0].params, "opacity", 0.24);
  auto added = addLayer(scene, layer, std::move(wall));
  if (!added) return tl::unexpected(added.error());
  return nudgeLayers(scene, {*added}, -1);
}

}  // namespace oa::edit
