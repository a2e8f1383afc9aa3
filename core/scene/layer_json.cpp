#include "scene/layer_json.h"

#include <functional>
#include <nlohmann/json.hpp>
#include <set>
#include <span>

#include "base/numbers.h"
#include "scene/items_json.h"
#include "scene/json_values.h"

namespace oa {

Result<std::string> tableFromJson(std::span<const ParamSpec> specs, const Json& json, std::vector<Param>& params, const std::string& path,
                                  const std::function<bool(const std::string&)>& alsoKnown) {
  if (!json.is_object()) return fail("must be an object", path);
  for (const auto& [key, value] : json.items()) {
    const int i = findParam(specs, key);
    if (i < 0) continue;
    const auto at = static_cast<std::size_t>(i);
    if (auto ok = take(paramFromJson(specs[at], value, path + "." + key), params[at]); !ok) return tl::unexpected(ok.error());
  }
  return extraOf(json, [&](const std::string& key) { return findParam(specs, key) >= 0 || (alsoKnown && alsoKnown(key)); });
}

void addTable(Json& json, std::span<const ParamSpec> specs, const std::vector<Param>& params, bool complete) {
  for (std::size_t i = 0; i < params.size(); ++i)
    if (complete || params[i] != defaultParam(specs[i])) json[std::string(specs[i].id)] = paramToJson(specs[i], params[i]);
}

namespace {

Result<Presence> presenceFromJson(const Json& json, const std::string& path) {
  const auto shape = [&](const std::string& where) { return fail("must be parts like [{\"from\": 0.25, \"length\": 0.5}]", where); };
  if (!json.is_array()) return shape(path);
  if (json.size() > kMaxArcs) return fail("has more than " + std::to_string(kMaxArcs) + " parts", path);
  Presence presence;
  for (std::size_t i = 0; i < json.size(); ++i) {
    const std::string here = path + "[" + std::to_string(i) + "]";
    const Json& item = json[i];
    if (!item.is_object() || !item.contains("from") || !item.contains("length")) return shape(here);
    Arc arc;
    for (const auto& [key, target] : {std::pair{"from", &arc.from}, {"length", &arc.length}, {"in", &arc.in}, {"out", &arc.out}}) {
      if (!item.contains(key)) continue;
      if (auto ok = take(shareFromJson(item[key], here + "." + key), *target); !ok) return tl::unexpected(ok.error());
    }
    if (arc.from >= 1) return fail("must be below 1: the end of the loop is its beginning", here + ".from");
    if (arc.length <= 0) return fail("must be above 0", here + ".length");
    if (arc.in + arc.out > arc.length + 1e-9) return fail("comes and goes for longer than it is there", here);
    arc.extra = extraOf(item, [](const std::string& k) { return k == "from" || k == "length" || k == "in" || k == "out"; });
    presence.push_back(std::move(arc));
  }
  return presence;
}

Json presenceToJson(const Presence& presence) {
  Json list = Json::array();
  for (const Arc& arc : presence) {
    Json item = {{"from", arc.from}, {"length", arc.length}};
    if (arc.in != 0) item["in"] = arc.in;
    if (arc.out != 0) item["out"] = arc.out;
    addExtra(item, arc.extra);
    list.push_back(std::move(item));
  }
  return list;
}

Result<std::optional<Passage>> passageFromJson(std::span<const ParamSpec> specs, const Json& json, const std::string& path) {
  if (json.is_null()) return std::optional<Passage>();
  Passage passage = newPassage(specs);
  auto extra = tableFromJson(specs, json, passage.params, path);
  if (!extra) return tl::unexpected(extra.error());
  passage.extra = std::move(*extra);
  return std::optional(std::move(passage));
}

void addPassages(Json& json, std::span<const ParamSpec> specs, const Passages& passages, bool complete) {
  for (const bool leaving : {false, true}) {
    const char* key = leaving ? "leave" : "arrive";
    const auto& way = passages.way(leaving);
    if (way) {
      Json table = Json::object();
      addTable(table, specs, way->params, complete);
      addExtra(table, way->extra);
      json[key] = std::move(table);
    } else if (complete) {
      json[key] = nullptr;
    }
  }
}

Result<Id> idFromJson(const Json& json, const std::string& path) { return wholeNumber(json, 1, kMaxId, path); }

Result<const StepSpec*> specFromJson(const Json& json, const std::string& place) {
  if (!json.is_object() || !json.contains("step") || !json["step"].is_string())
    return fail("must be a step like {\"step\": \"noise\"}", place);
  const auto id = json["step"].get<std::string>();
  const StepSpec* spec = findStep(id);
  if (!spec) return fail("there is no step \"" + id.substr(0, 40) + "\"; this version may be too old for the file", place + ".step");
  return spec;
}

// `path` names the step in errors.
Result<RecipeStep> stepFromJson(const StepSpec& spec, const Json& json, const std::string& path) {
  RecipeStep step = newStep(spec);
  int version = 1;
  if (json.contains("version")) {
    if (auto ok = take(wholeNumber(json["version"], 1, 1000000, path + ".version"), version); !ok) return tl::unexpected(ok.error());
    if (version > spec.version)
      return fail("this step was saved by a newer version of Over Again (" + std::to_string(version) + "; this one reads up to " +
                      std::to_string(spec.version) + ")",
                  path + ".version");
  }
  // Files that were written before a parameter was there mean what the step did then.
  for (std::size_t i = 0; i < step.params.size(); ++i)
    if (const auto& before = spec.params[i].whenAbsent;
        before && version < spec.params[i].since && !json.contains(std::string(spec.params[i].id)))
      step.params[i].base = step.params[i].motion.far = *before;
  std::set<std::string> numbered;
  if (spec.items)
    if (auto ok = take(itemsFromJson(spec, json, version, path, numbered), step.items); !ok) return tl::unexpected(ok.error());
  Json unknown = Json::object();
  for (const auto& [key, value] : json.items()) {
    const int i = findParam(spec.params, key);
    const std::string here = path + "." + key;
    Status ok;
    if (key == "step" || key == "version" || numbered.count(key) > 0 || (spec.items && key == spec.items->id)) continue;
    if (key == "on")
      ok = take(flag(value, here), step.on);
    else if (key == "id")
      ok = take(idFromJson(value, here), step.id);
    else if (key == "presence")
      ok = take(presenceFromJson(value, here), step.presence);
    else if ((key == "arrive" || key == "leave") && i < 0)
      ok = take(passageFromJson(stepPassageSpecs(), value, here), step.passes.way(key == "leave"));
    else if (i >= 0)
      ok = take(paramFromJson(spec.params[static_cast<std::size_t>(i)], value, here), step.params[static_cast<std::size_t>(i)]);
    else
      unknown[key] = value;
    if (!ok) return tl::unexpected(ok.error());
  }
  if (!unknown.empty()) step.extra = unknown.dump();
  return step;
}

Result<Mask> maskFromJson(const Json& json, const std::string& path) {
  if (!json.is_object() || !json.contains("source")) return fail("must be a mask like {\"source\": {\"step\": \"shape\"}}", path);
  const auto spec = specFromJson(json["source"], path + ".source");
  if (!spec) return tl::unexpected(spec.error());
  if ((*spec)->kind != StepKind::Source)
    return fail("a mask shows a source, and \"" + std::string((*spec)->id) + "\" is none", path + ".source");
  Mask mask = newMask(**spec);
  if (auto ok = take(stepFromJson(**spec, json["source"], path + "." + std::string((*spec)->id)), mask.source); !ok)
    return tl::unexpected(ok.error());
  if (json.contains("on"))
    if (auto ok = take(flag(json["on"], path + ".on"), mask.on); !ok) return tl::unexpected(ok.error());
  auto extra = tableFromJson(maskSpecs(), json, mask.params, path, [](const std::string& key) { return key == "source" || key == "on"; });
  if (!extra) return tl::unexpected(extra.error());
  mask.extra = std::move(*extra);
  return mask;
}

Status recipeFromJson(const Json& json, const std::string& path, std::vector<RecipeStep>& recipe) {
  if (!json.is_array()) return fail("must be a list of steps", path + ".recipe");
  if (json.size() > kMaxSteps) return fail("has more than " + std::to_string(kMaxSteps) + " steps", path + ".recipe");
  for (std::size_t i = 0; i < json.size(); ++i) {
    const std::string place = indexed(path, "recipe", i);
    const auto spec = specFromJson(json[i], place);
    if (!spec) return tl::unexpected(spec.error());
    const bool source = (*spec)->kind == StepKind::Source;
    const std::string id((*spec)->id);
    if (i == 0 && !source) return fail("a recipe begins with a source, and \"" + id + "\" is none", place);
    if (i > 0 && source) return fail("\"" + id + "\" is a source and can only come first", place);
    RecipeStep step;
    if (auto ok = take(stepFromJson(**spec, json[i], path + "." + id), step); !ok) return ok;
    recipe.push_back(std::move(step));
  }
  return {};
}

// How many layers there may still be, and how deep.
struct Room {
  std::size_t layers = kMaxLayers;
  int depth = kMaxGroupDepth;
};

Status layersFromJson(const Json& json, const std::string& path, Room& room, std::vector<Layer>& layers);

Result<double> distanceFromJson(const Json& value, const std::string& path) {
  const double distance = value.is_number() ? value.get<double>() : -1;
  if (distance == 0 || (distance >= 1 && distance <= kMaxDistance)) return distance;
  return fail("must be a distance from 1 to " + numberText(kMaxDistance, 0) + ", or 0 for none", path);
}

Result<Layer> layerFromJson(const Json& json, const std::string& path, Room& room) {
  if (!json.is_object()) return fail("must be a layer like {\"name\": ..., \"recipe\": [...]}", path);
  Layer layer;
  layer.opacity = defaultParam(opacitySpec());
  layer.place = defaultPlace();
  Json unknown = Json::object();
  for (const auto& [key, value] : json.items()) {
    const std::string here = path + "." + key;
    Status ok;
    if (key == "name")
      ok = take(nameText(value, here), layer.name);
    else if (key == "id")
      ok = take(idFromJson(value, here), layer.id);
    else if (key == "visible")
      ok = take(flag(value, here), layer.visible);
    else if (key == "locked")
      ok = take(flag(value, here), layer.locked);
    else if (key == "folded")
      ok = take(flag(value, here), layer.folded);
    else if (key == "hold")
      ok = take(wholeNumber(value, 1, kMaxHold, here), layer.hold);
    else if (key == "distance")
      ok = take(distanceFromJson(value, here), layer.distance);
    else if (key == "opacity")
      ok = take(paramFromJson(opacitySpec(), value, here), layer.opacity);
    else if (key == "presence")
      ok = take(presenceFromJson(value, here), layer.presence);
    else if (key == "arrive" || key == "leave")
      ok = take(passageFromJson(passageSpecs(), value, here), layer.passes.way(key == "leave"));
    else if (key == "standIn")
      ok = take(flag(value, here), layer.standIn);
    else if (key == "place") {
      auto extra = tableFromJson(placeSpecs(), value, layer.place, here);
      if (!extra)
        ok = tl::unexpected(extra.error());
      else
        layer.placeExtra = std::move(*extra);
    } else if (key == "mask") {
      if (value.is_null()) continue;
      auto mask = maskFromJson(value, here);
      if (!mask)
        ok = tl::unexpected(mask.error());
      else
        layer.mask = std::move(*mask);
    } else if (key == "blend") {
      const auto mode = value.is_string() ? blendFromName(value.get<std::string>()) : fail("must be the name of a blend mode");
      if (!mode) return fail(mode.error().message, here);
      layer.blend = *mode;
    } else if (key == "recipe") {
      ok = recipeFromJson(value, path, layer.recipe);
    } else if (key == "layers") {
      if (--room.depth < 0) return fail("groups are nested more than " + std::to_string(kMaxGroupDepth) + " deep", here);
      ok = layersFromJson(value, here, room, layer.layers);
      ++room.depth;
    } else {
      unknown[key] = value;
    }
    if (!ok) return tl::unexpected(ok.error());
  }
  if (!unknown.empty()) layer.extra = unknown.dump();
  if (layer.recipe.empty()) return fail("has no source", path + ".recipe");
  if (!layer.layers.empty() && !layer.isGroup()) return fail("only a group has layers of its own", path + ".layers");
  return layer;
}

Status layersFromJson(const Json& json, const std::string& path, Room& room, std::vector<Layer>& layers) {
  if (!json.is_array()) return fail("must be a list of layers", path);
  if (json.size() > room.layers) return fail("has more than " + std::to_string(kMaxLayers) + " layers", path);
  room.layers -= json.size();
  for (std::size_t i = 0; i < json.size(); ++i) {
    Layer layer;
    if (auto ok = take(layerFromJson(json[i], path + "[" + std::to_string(i) + "]", room), layer); !ok) return ok;
    layers.push_back(std::move(layer));
  }
  return {};
}

Json stepToJson(const RecipeStep& step, bool complete) {
  Json s = {{"step", step.spec->id}};
  if (step.spec->version != 1) s["version"] = step.spec->version;
  if (step.id != 0) s["id"] = step.id;
  if (!step.on || complete) s["on"] = step.on;
  if (!step.presence.empty() || complete) s["presence"] = presenceToJson(step.presence);
  addPassages(s, stepPassageSpecs(), step.passes, complete);
  for (std::size_t i = 0; i < step.params.size(); ++i)
    s[std::string(step.spec->params[i].id)] = paramToJson(step.spec->params[i], step.params[i]);
  if (step.spec->items) s[std::string(step.spec->items->id)] = itemsToJson(*step.spec->items, step.items);
  addExtra(s, step.extra);
  return s;
}

}  // namespace

Status layersFromJson(const Json& json, const std::string& path, std::vector<Layer>& layers) {
  Room room;
  return layersFromJson(json, path, room, layers);
}

Json layerToJson(const Layer& layer, bool complete) {
  Json l = {{"name", layer.name}};
  if (layer.id != 0) l["id"] = layer.id;
  l["blend"] = blendName(layer.blend);
  l["opacity"] = paramToJson(opacitySpec(), layer.opacity);
  if (!layer.visible || complete) l["visible"] = layer.visible;
  if (layer.locked || complete) l["locked"] = layer.locked;
  if (layer.folded || complete) l["folded"] = layer.folded;
  if (layer.hold != 1 || complete) l["hold"] = layer.hold;
  if (layer.distance != 0) l["distance"] = layer.distance;
  if (!layer.presence.empty() || complete) l["presence"] = presenceToJson(layer.presence);
  addPassages(l, passageSpecs(), layer.passes, complete);
  if (layer.standIn || complete) l["standIn"] = layer.standIn;
  if (!isDefaultPlace(layer.place) || !layer.placeExtra.empty() || complete) {
    Json place = Json::object();
    addTable(place, placeSpecs(), layer.place, complete);
    addExtra(place, layer.placeExtra);
    l["place"] = std::move(place);
  }
  if (layer.mask) {
    Json mask = {{"source", stepToJson(layer.mask->source, complete)}};
    if (!layer.mask->on || complete) mask["on"] = layer.mask->on;
    addTable(mask, maskSpecs(), layer.mask->params, complete);
    addExtra(mask, layer.mask->extra);
    l["mask"] = std::move(mask);
  }
  if (!layer.mask && complete) l["mask"] = nullptr;
  Json recipe = Json::array();
  for (const RecipeStep& step : layer.recipe) recipe.push_back(stepToJson(step, complete));
  l["recipe"] = std::move(recipe);
  if (layer.isGroup()) {
    Json layers = Json::array();
    for (const Layer& inside : layer.layers) layers.push_back(layerToJson(inside, complete));
    l["layers"] = std::move(layers);
  }
  addExtra(l, layer.extra);
  return l;
}

}  // namespace oa
