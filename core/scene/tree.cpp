#include "scene/tree.h"

#include <algorithm>
#include <map>
#include <set>

namespace oa {
namespace {

template <class Layers, class Visit>
void walk(Layers& layers, const Visit& visit, int depth) {
  for (auto& layer : layers) {
    visit(layer, depth);
    walk(layer.layers, visit, depth + 1);
  }
}

template <class Layers>
auto found(Layers& layers, Id id) -> decltype(&layers.front()) {
  for (auto& layer : layers) {
    if (layer.id == id) return &layer;
    if (auto inside = found(layer.layers, id)) return inside;
  }
  return nullptr;
}

bool placeIn(const std::vector<Layer>& layers, Id group, Id id, LayerPlace& place) {
  for (std::size_t i = 0; i < layers.size(); ++i) {
    if (layers[i].id == id) {
      place = {group, static_cast<int>(i)};
      return true;
    }
    if (placeIn(layers[i].layers, layers[i].id, id, place)) return true;
  }
  return false;
}

// Every id of a layer: its own, its steps', its mask's, and their items'.
template <class AnyLayer, class Visit>
void eachId(AnyLayer& layer, const Visit& visit) {
  const auto inStep = [&](auto& step) {
    visit(step.id);
    for (auto& item : step.items) visit(item.id);
  };
  visit(layer.id);
  for (auto& step : layer.recipe) inStep(step);
  if (layer.mask) inStep(layer.mask->source);
}

template <class AnyLayer, class Visit>
void walkParams(AnyLayer& layer, const Visit& visit) {
  const auto all = [&](std::span<const ParamSpec> specs, auto& params) {
    for (std::size_t i = 0; i < params.size(); ++i) visit(specs[i], params[i]);
  };
  visit(opacitySpec(), layer.opacity);
  all(placeSpecs(), layer.place);
  for (auto* way : {&layer.passes.arrive, &layer.passes.leave})
    if (*way) all(passageSpecs(), (*way)->params);
  for (auto& step : layer.recipe) {
    forEachParamOf(step, visit);
    for (auto* way : {&step.passes.arrive, &step.passes.leave})
      if (*way) all(stepPassageSpecs(), (*way)->params);
  }
  if (!layer.mask) return;
  all(maskSpecs(), layer.mask->params);
  forEachParamOf(layer.mask->source, visit);
}

}  // namespace

void forEachLayer(const std::vector<Layer>& layers, const std::function<void(const Layer&, int)>& visit) { walk(layers, visit, 0); }
void forEachLayer(std::vector<Layer>& layers, const std::function<void(Layer&, int)>& visit) { walk(layers, visit, 0); }

void forEachParam(const Layer& layer, const std::function<void(const ParamSpec&, const Param&)>& visit) { walkParams(layer, visit); }
void forEachParam(Layer& layer, const std::function<void(const ParamSpec&, Param&)>& visit) { walkParams(layer, visit); }

const Layer* findLayer(const Scene& scene, Id id) { return id == 0 ? nullptr : found(scene.layers, id); }
Layer* findLayer(Scene& scene, Id id) { return id == 0 ? nullptr : found(scene.layers, id); }

bool placeOf(const Scene& scene, Id id, LayerPlace& place) { return id != 0 && placeIn(scene.layers, 0, id, place); }

const std::vector<Layer>* layersOf(const Scene& scene, Id group) {
  if (group == 0) return &scene.layers;
  const Layer* layer = findLayer(scene, group);
  return layer && layer->isGroup() ? &layer->layers : nullptr;
}

std::vector<Layer>* layersOf(Scene& scene, Id group) {
  if (group == 0) return &scene.layers;
  Layer* layer = findLayer(scene, group);
  return layer && layer->isGroup() ? &layer->layers : nullptr;
}

std::vector<Id> allIds(const Scene& scene) {
  std::vector<Id> ids;
  forEachLayer(scene.layers, [&](const Layer& layer, int) { ids.push_back(layer.id); });
  return ids;
}

std::size_t layerCount(const Scene& scene) { return allIds(scene).size(); }

int groupDepth(const std::vector<Layer>& layers) {
  int deepest = 0;
  forEachLayer(layers, [&](const Layer&, int depth) { deepest = std::max(deepest, depth); });
  return deepest;
}

bool isWithin(const Scene& scene, Id id, Id group) {
  LayerPlace place{id, 0};
  while (place.group != group) {
    if (place.group == 0 || !placeOf(scene, place.group, place)) return false;
  }
  return true;
}

void assignIds(Scene& scene) {
  Id next = largestId(scene);
  std::set<Id> seen;
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    eachId(layer, [&](Id& id) {
      if (id > 0 && seen.insert(id).second) return;
      id = ++next;
      seen.insert(id);
    });
  });
}

void renumber(std::vector<Layer>& layers, Id first) {
  std::map<Id, Id> now;
  forEachLayer(layers, [&](Layer& layer, int) {
    eachId(layer, [&](Id& id) {
      const Id given = first++;
      if (id != 0) now.emplace(id, given);
      id = given;
    });
  });
  forEachLayer(layers, [&](Layer& layer, int) {
    walkParams(layer, [&](const ParamSpec& spec, Param& param) {
      for (std::size_t i = 0; i < motionCount(param); ++i) {
        LeaderRef& ref = motionOf(param, i).follows;
        for (int* id : {&ref.layer, &ref.step, &ref.item})
          if (const auto known = now.find(*id); known != now.end()) *id = known->second;
      }
      if (spec.type != ParamType::Layer) return;
      if (const auto known = now.find(static_cast<Id>(std::get<double>(param.base))); known != now.end())
        param.base = double(known->second);
    });
  });
}

Id largestId(const Scene& scene) {
  Id largest = 0;
  forEachLayer(scene.layers, [&](const Layer& layer, int) { eachId(layer, [&](const Id& id) { largest = std::max(largest, id); }); });
  return largest;
}

}  // namespace oa
