#include "edit/layers.h"

#include <algorithm>

#include "scene/plan.h"

namespace oa::edit {
namespace {

tl::unexpected<Error> none(Id layer) { return fail("there is no layer " + std::to_string(layer)); }

Status there(const Scene& scene, const Ids& layers) {
  if (layers.empty()) return fail("no layer is selected");
  for (const Id id : layers)
    if (!findLayer(scene, id)) return none(id);
  return {};
}

// Takes what was changed if it can be, else leaves the scene as it was.
Result<Ids> accepted(Scene& scene, Scene changed, Ids ids) {
  if (auto ok = checkTree(changed); !ok) return tl::unexpected(ok.error());
  scene = std::move(changed);
  return ids;
}

Layer taken(Scene& scene, Id id) {
  LayerPlace place;
  placeOf(scene, id, place);
  std::vector<Layer>& list = *layersOf(scene, place.group);
  Layer layer = std::move(list[static_cast<std::size_t>(place.at)]);
  list.erase(list.begin() + place.at);
  return layer;
}

}  // namespace

Status checkTree(const Scene& scene) {
  if (layerCount(scene) > kMaxLayers) return fail("a scene holds at most " + std::to_string(kMaxLayers) + " layers");
  if (groupDepth(scene.layers) > kMaxGroupDepth) return fail("groups can be nested " + std::to_string(kMaxGroupDepth) + " deep");
  return Plan(scene).status();
}

Ids outermost(const Scene& scene, const Ids& layers) {
  Ids list;
  for (const Id id : allIds(scene)) {
    if (std::find(layers.begin(), layers.end(), id) == layers.end()) continue;
    if (std::any_of(list.begin(), list.end(), [&](Id outer) { return isWithin(scene, id, outer); })) continue;
    list.push_back(id);
  }
  return list;
}

Result<Ids> insertLayers(Scene& scene, LayerPlace place, std::vector<Layer> layers) {
  Scene changed = scene;
  std::vector<Layer>* list = layersOf(changed, place.group);
  if (!list) return none(place.group);
  renumber(layers, largestId(scene) + 1);
  Ids ids;
  for (const Layer& layer : layers) ids.push_back(layer.id);
  const int at = std::clamp(place.at, 0, static_cast<int>(list->size()));
  list->insert(list->begin() + at, std::make_move_iterator(layers.begin()), std::make_move_iterator(layers.end()));
  return accepted(scene, std::move(changed), std::move(ids));
}

Result<Id> addLayer(Scene& scene, Id above, Layer layer) {
  LayerPlace place{0, static_cast<int>(scene.layers.size()) - 1};
  if (above != 0 && !placeOf(scene, above, place)) return none(above);
  std::vector<Layer> one;
  one.push_back(std::move(layer));
  auto ids = insertLayers(scene, {place.group, place.at + 1}, std::move(one));
  if (!ids) return tl::unexpected(ids.error());
  return ids->front();
}

Result<Ids> duplicateLayers(Scene& scene, const Ids& layers, const std::string& suffix) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Ids chosen = outermost(scene, layers);
  std::vector<Layer> copies;
  for (const Id id : chosen) {
    copies.push_back(*findLayer(scene, id));
    if (copies.back().name.size() + suffix.size() <= kMaxNameBytes) copies.back().name += suffix;
  }
  renumber(copies, largestId(scene) + 1);
  Scene changed = scene;
  Ids ids;
  for (std::size_t i = 0; i < chosen.size(); ++i) {
    LayerPlace place;
    placeOf(changed, chosen[i], place);
    ids.push_back(copies[i].id);
    std::vector<Layer>& list = *layersOf(changed, place.group);
    list.insert(list.begin() + place.at + 1, std::move(copies[i]));
  }
  return accepted(scene, std::move(changed), std::move(ids));
}

Result<Ids> removeLayers(Scene& scene, const Ids& layers) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Ids chosen = outermost(scene, layers);
  LayerPlace place;
  placeOf(scene, chosen.front(), place);
  for (const Id id : chosen) taken(scene, id);
  // The one that lies there now, or the one below, or the group.
  const std::vector<Layer>& list = *layersOf(scene, place.group);
  if (list.empty()) return place.group == 0 ? Ids{} : Ids{place.group};
  return Ids{list[std::min(static_cast<std::size_t>(place.at), list.size() - 1)].id};
}

Result<Ids> moveLayers(Scene& scene, const Ids& layers, LayerPlace to) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  if (!layersOf(scene, to.group)) return none(to.group);
  const Ids chosen = outermost(scene, layers);
  for (const Id id : chosen)
    if (to.group != 0 && isWithin(scene, to.group, id)) return fail("a group cannot be put into itself");
  Scene changed = scene;
  int at = std::clamp(to.at, 0, static_cast<int>(layersOf(scene, to.group)->size()));
  for (const Id id : chosen) {
    LayerPlace from;
    placeOf(scene, id, from);
    at -= from.group == to.group && from.at < to.at;
  }
  std::vector<Layer> moved;
  for (const Id id : chosen) moved.push_back(taken(changed, id));
  std::vector<Layer>& list = *layersOf(changed, to.group);
  list.insert(list.begin() + std::clamp(at, 0, static_cast<int>(list.size())), std::make_move_iterator(moved.begin()),
              std::make_move_iterator(moved.end()));
  return accepted(scene, std::move(changed), chosen);
}

Result<Ids> nudgeLayers(Scene& scene, const Ids& layers, int by) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Ids chosen = outermost(scene, layers);
  LayerPlace place;
  placeOf(scene, by > 0 ? chosen.back() : chosen.front(), place);
  const int count = static_cast<int>(layersOf(scene, place.group)->size());
  const int next = by > 0 ? place.at + 2 : place.at - 1;
  if (next <= count && next >= 0) return moveLayers(scene, chosen, {place.group, next});
  if (place.group == 0) return chosen;
  LayerPlace group;
  placeOf(scene, place.group, group);
  return moveLayers(scene, chosen, {group.group, by > 0 ? group.at + 1 : group.at});
}

Result<Ids> groupLayers(Scene& scene, const Ids& layers, const std::string& name) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Ids chosen = outermost(scene, layers);
  const auto steps = allSteps();
  const auto spec = std::find_if(steps.begin(), steps.end(), [](const StepSpec* s) { return s->reads == SourceReads::Layers; });
  Scene changed = scene;
  LayerPlace place;
  placeOf(changed, chosen.back(), place);
  Layer group = newLayer(**spec, name);
  group.id = largestId(scene) + 1;
  group.recipe[0].id = group.id + 1;
  const Id id = group.id;
  std::vector<Layer>& list = *layersOf(changed, place.group);
  list.insert(list.begin() + place.at + 1, std::move(group));
  for (const Id inside : chosen) {
    Layer moved = taken(changed, inside);
    findLayer(changed, id)->layers.push_back(std::move(moved));
  }
  return accepted(scene, std::move(changed), {id});
}

Result<Ids> ungroupLayer(Scene& scene, Id group) {
  const Layer* layer = findLayer(scene, group);
  if (!layer) return none(group);
  if (!layer->isGroup()) return fail("\"" + layer->name + "\" is no group");
  const auto kept = [&](const std::string& what) {
    return fail("\"" + layer->name + "\" has " + what + ", which its layers would lose; reset it first, or keep the group");
  };
  if (!isDefaultPlace(layer->place)) return kept("a place of its own");
  if (layer->mask) return kept("a mask");
  if (layer->recipe.size() > 1) return kept("steps");
  if (layer->blend != BlendMode::Normal) return kept("a blend mode");
  if (layer->opacity != defaultParam(opacitySpec())) return kept("an opacity");
  if (!layer->presence.empty()) return kept("a presence");
  if (layer->passes.any()) return kept("a way to arrive or leave");
  if (layer->hold != 1) return kept("a step rate");
  const RecipeStep& source = layer->recipe.front();
  for (std::size_t i = 0; i < source.params.size(); ++i)
    if (source.params[i] != defaultParam(source.spec->params[i]))
      return kept("its own \"" + std::string(source.spec->params[i].label) + "\"");
  Scene changed = scene;
  LayerPlace place;
  placeOf(changed, group, place);
  Layer open = taken(changed, group);
  Ids ids;
  for (Layer& inside : open.layers) {
    ids.push_back(inside.id);
    inside.visible = inside.visible && open.visible;
  }
  std::vector<Layer>& list = *layersOf(changed, place.group);
  list.insert(list.begin() + place.at, std::make_move_iterator(open.layers.begin()), std::make_move_iterator(open.layers.end()));
  return accepted(scene, std::move(changed), std::move(ids));
}

Result<Ids> addLinkedCopy(Scene& scene, Id layer, const std::string& name) {
  const Layer* shown = findLayer(scene, layer);
  if (!shown) return none(layer);
  const auto steps = allSteps();
  const auto spec = std::find_if(steps.begin(), steps.end(), [](const StepSpec* s) { return s->reads == SourceReads::Layer; });
  Layer copy = newLayer(**spec, name);
  copy.place = shown->place;
  copy.blend = shown->blend;
  copy.opacity = shown->opacity;
  for (std::size_t i = 0; i < copy.recipe[0].params.size(); ++i)
    if ((*spec)->params[i].type == ParamType::Layer)
      copy.recipe[0].params[i].base = copy.recipe[0].params[i].motion.far = static_cast<double>(layer);
  auto id = addLayer(scene, layer, std::move(copy));
  if (!id) return tl::unexpected(id.error());
  return Ids{*id};
}

Result<Ids> renameLayer(Scene& scene, Id layer, const std::string& name) {
  Layer* found = findLayer(scene, layer);
  if (!found) return none(layer);
  if (name.empty()) return fail("a layer needs a name");
  if (name.size() > kMaxNameBytes) return fail("a name has at most " + std::to_string(kMaxNameBytes) + " bytes");
  found->name = name;
  return Ids{layer};
}

Result<Ids> setLayersVisible(Scene& scene, const Ids& layers, bool visible) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  for (const Id id : layers) findLayer(scene, id)->visible = visible;
  return layers;
}

Result<Ids> setLayersLocked(Scene& scene, const Ids& layers, bool locked) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  for (const Id id : layers) findLayer(scene, id)->locked = locked;
  return layers;
}

Result<Ids> setLayerFolded(Scene& scene, Id group, bool folded) {
  Layer* found = findLayer(scene, group);
  if (!found) return none(group);
  found->folded = folded;
  return Ids{group};
}

namespace {

// Calls `visit` for every layer beside the chosen ones and beside the groups that they are in.
template <class AnyScene, class Visit>
void beside(AnyScene& scene, const Ids& layers, const Visit& visit) {
  const auto holds = [&](const Layer& layer) {
    return std::any_of(layers.begin(), layers.end(), [&](Id id) { return isWithin(scene, id, layer.id); });
  };
  const auto chosen = [&](const Layer& layer) { return std::find(layers.begin(), layers.end(), layer.id) != layers.end(); };
  const auto walk = [&](auto& self, auto& list) -> void {
    for (auto& layer : list) {
      visit(layer, holds(layer));
      if (holds(layer) && !chosen(layer)) self(self, layer.layers);
    }
  };
  walk(walk, scene.layers);
}

}  // namespace

bool areAlone(const Scene& scene, const Ids& layers) {
  bool alone = there(scene, layers).has_value();
  beside(scene, layers, [&](const Layer& layer, bool shown) { alone = alone && layer.visible == shown; });
  return alone;
}

Result<Ids> showLayersAlone(Scene& scene, const Ids& layers) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const bool alone = areAlone(scene, layers);
  const Scene before = scene;
  beside(before, layers, [&](const Layer& layer, bool shown) { findLayer(scene, layer.id)->visible = alone || shown; });
  return layers;
}

Result<Ids> setMask(Scene& scene, Id layer, const std::optional<RecipeStep>& source) {
  if (!findLayer(scene, layer)) return none(layer);
  Scene changed = scene;
  Layer& masked = *findLayer(changed, layer);
  if (!source) {
    masked.mask.reset();
    return accepted(scene, std::move(changed), {layer});
  }
  if (source->spec->kind != StepKind::Source) return fail("a mask shows a source");
  Mask mask = masked.mask ? *masked.mask : newMask(*source->spec);
  mask.source = *source;
  mask.source.id = largestId(changed) + 1;
  masked.mask = std::move(mask);
  return accepted(scene, std::move(changed), {layer});
}

}  // namespace oa::edit
