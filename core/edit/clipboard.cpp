#include "edit/clipboard.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "edit/values.h"
#include "scene/json_text.h"
#include "scene/layer_json.h"
#include "scene/scene_json.h"

namespace oa::edit {

std::string layersToText(const Scene& scene, const Ids& layers) {
  Json list = Json::array();
  for (const Id id : outermost(scene, layers)) list.push_back(layerToJson(*findLayer(scene, id)));
  return Json{{"overagain", kFormatVersion}, {"layers", std::move(list)}}.dump(1, ' ', false, Json::error_handler_t::replace);
}

Result<std::vector<Layer>> layersFromText(std::string_view text) {
  // A text that holds layers is a scene in small: the same reader, with the same bounds.
  auto scene = sceneFromText(text);
  if (!scene) return fail("the clipboard holds no layers: " + scene.error().sentence());
  if (scene->layers.empty()) return fail("the clipboard holds no layers");
  return std::move(scene->layers);
}

Result<Ids> pasteLayers(Scene& scene, Id above, std::string_view text) {
  auto layers = layersFromText(text);
  if (!layers) return tl::unexpected(layers.error());
  LayerPlace place{0, static_cast<int>(scene.layers.size()) - 1};
  if (above != 0) placeOf(scene, above, place);
  return insertLayers(scene, {place.group, place.at + 1}, std::move(*layers));
}

namespace {

// What a text holds under a key, if it is one of ours.
Result<Json> heldUnder(std::string_view text, const char* key, const char* what) {
  auto json = parseJson(text);
  if (!json) return fail(std::string("the clipboard holds no ") + what + ": " + json.error().sentence());
  if (!json->is_object() || !json->contains("overagain") || !json->contains(key))
    return fail(std::string("the clipboard holds no ") + what);
  return std::move(*json);
}

// The kinds of value that motions can be handed on between.
ParamSpec anyValue(ParamType type) {
  // Round values may move in every way.
  ParamSpec spec{.id = "value", .label = "Value", .help = "", .type = type, .min = -1e9, .max = 1e9, .rule = LoopRule::Round};
  if (type == ParamType::Point) spec.base = Point{};
  if (type == ParamType::Colour) spec.base = Colour{};
  if (type == ParamType::Outline) spec.base = Outline{};
  return spec;
}

bool isNumber(ParamType type) { return type == ParamType::Number || type == ParamType::Integer || type == ParamType::Angle; }

// `value` lies so far from `from` of one range; as far from `base` of another.
Value carried(const ParamSpec& spec, const Value& value, const Value& from, const Value& base, double share) {
  const auto part = [&](double v, double a, double b) {
    double moved = b + (v - a) * share;
    if (spec.rule != LoopRule::Round) moved = std::clamp(moved, spec.min, spec.max);
    return spec.isWhole() ? std::round(moved) : moved;
  };
  if (const auto* v = std::get_if<double>(&value)) return part(*v, std::get<double>(from), std::get<double>(base));
  if (const auto* v = std::get_if<Point>(&value)) {
    const Point a = std::get<Point>(from);
    const Point b = std::get<Point>(base);
    return Point{part(v->x, a.x, b.x), part(v->y, a.y, b.y)};
  }
  return value;
}

}  // namespace

std::string stepsToText(const std::vector<RecipeStep>& steps) {
  Layer layer = newLayer(*allSteps().front(), "steps");
  layer.recipe.insert(layer.recipe.end(), steps.begin(), steps.end());
  Json recipe = layerToJson(layer)["recipe"];
  recipe.erase(recipe.begin());
  return Json{{"overagain", kFormatVersion}, {"steps", std::move(recipe)}}.dump(1, ' ', false, Json::error_handler_t::replace);
}

bool holdsSteps(std::string_view text) { return heldUnder(text, "steps", "steps").has_value(); }

Result<std::vector<RecipeStep>> stepsFromText(std::string_view text) {
  auto json = heldUnder(text, "steps", "steps");
  if (!json) return tl::unexpected(json.error());
  // Behind a source they make a layer: the same reader, with the same bounds.
  Json recipe = Json::array({Json{{"step", "flat"}}});
  if (!(*json)["steps"].is_array() || (*json)["steps"].empty()) return fail("the clipboard holds no steps");
  for (Json& step : (*json)["steps"]) recipe.push_back(std::move(step));
  const auto scene = sceneFromJson(Json{{"overagain", (*json)["overagain"]}, {"layers", Json::array({Json{{"recipe", recipe}}})}});
  if (!scene) return fail("the clipboard holds no steps: " + scene.error().sentence());
  const auto& made = scene->layers.front().recipe;
  std::vector<RecipeStep> steps(made.begin() + 1, made.end());
  for (RecipeStep& step : steps) {
    step.id = 0;
    for (Item& item : step.items) item.id = 0;
  }
  return steps;
}

Result<int> pasteSteps(Scene& scene, Id layer, int after, std::string_view text) {
  auto steps = stepsFromText(text);
  if (!steps) return tl::unexpected(steps.error());
  Layer* found = findLayer(scene, layer);
  if (!found) return fail("there is no layer to put the steps into");
  if (found->recipe.size() + steps->size() > kMaxSteps) return fail("a recipe has at most " + std::to_string(kMaxSteps) + " steps");
  const int at = std::clamp(after + 1, 1, static_cast<int>(found->recipe.size()));
  found->recipe.insert(found->recipe.begin() + at, std::make_move_iterator(steps->begin()), std::make_move_iterator(steps->end()));
  return at + static_cast<int>(steps->size()) - 1;
}

std::string motionsToText(const ParamSpec& spec, const Param& param) {
  Json held = {{"of", typeName(spec.type)}, {"range", spec.high() - spec.low()}};
  Param plain = param;
  plain.extra.clear();
  held["moving"] = paramToJson(spec, plain);
  return Json{{"overagain", kFormatVersion}, {"motions", std::move(held)}}.dump(1, ' ', false, Json::error_handler_t::replace);
}

bool holdsMotions(std::string_view text) { return heldUnder(text, "motions", "motion").has_value(); }

Result<Param> withMotionsFromText(const ParamSpec& spec, const Param& param, std::string_view text) {
  const auto json = heldUnder(text, "motions", "motion");
  if (!json) return tl::unexpected(json.error());
  const Json& held = (*json)["motions"];
  const auto wrong = [] { return fail("the clipboard holds no motion"); };
  if (!held.is_object() || !held.contains("of") || !held["of"].is_string() || !held.contains("range") || !held["range"].is_number() ||
      !held.contains("moving"))
    return wrong();
  constexpr ParamType kTypes[] = {ParamType::Number, ParamType::Integer, ParamType::Angle, ParamType::Point, ParamType::Colour};
  const auto type = std::find_if(std::begin(kTypes), std::end(kTypes), [&](ParamType t) { return held["of"] == std::string(typeName(t)); });
  const double range = held["range"].get<double>();
  if (type == std::end(kTypes) || !(range > 0) || !std::isfinite(range)) return wrong();
  if (*type != spec.type && !(isNumber(*type) && isNumber(spec.type)))
    return fail("a motion of a " + std::string(typeName(*type)) + " does not fit a " + std::string(typeName(spec.type)));
  const auto read = paramFromJson(anyValue(*type), held["moving"], "motions");
  if (!read) return fail("the clipboard holds no motion: " + read.error().sentence());
  const auto allowed = allowedMotions(spec);
  // Colours and places are shares of the same; numbers go as far of their own range as they went of the other.
  const double share = isNumber(spec.type) ? (spec.high() - spec.low()) / range : 1;
  Param changed = param;
  changed.more.clear();
  for (std::size_t i = 0; i < motionCount(*read); ++i) {
    Motion motion = motionOf(*read, i);
    if (std::find(allowed.begin(), allowed.end(), motion.kind) == allowed.end())
      return fail("this value cannot " + std::string(motionName(motion.kind)));
    motion.far = carried(spec, motion.far, read->base, param.base, share);
    for (Keyframe& key : motion.keys) key.value = carried(spec, key.value, read->base, param.base, share);
    for (Value& still : motion.list) still = carried(spec, still, read->base, param.base, share);
    if (i == 0)
      changed.motion = std::move(motion);
    else if (canAddMotions(spec))
      changed.more.push_back(std::move(motion));
  }
  return changed;
}

}  // namespace oa::edit
