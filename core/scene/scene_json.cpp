#include "scene/scene_json.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <nlohmann/json.hpp>
#include <set>

#include "params/param_json.h"
#include "scene/plan.h"
#include "scene/tree.h"

namespace oa {
namespace {

std::string indexed(const std::string& path, const char* key, std::size_t i) {
  return path + (path.empty() ? "" : ".") + key + "[" + std::to_string(i) + "]";
}

Result<int> wholeNumber(const Json& json, int low, int high, const std::string& path) {
  if (!json.is_number()) return fail("must be a number", path);
  const double v = json.get<double>();
  if (!std::isfinite(v) || v != std::floor(v)) return fail("must be a whole number", path);
  if (v < low) return fail(numberText(v) + " is below " + std::to_string(low), path);
  if (v > high) return fail(numberText(v) + " is above " + std::to_string(high), path);
  return static_cast<int>(v);
}

Result<std::string> nameText(const Json& json, const std::string& path) {
  if (!json.is_string()) return fail("must be text", path);
  auto text = json.get<std::string>();
  if (text.size() > kMaxNameBytes) return fail("is longer than " + std::to_string(kMaxNameBytes) + " bytes", path);
  return text;
}

Result<bool> flag(const Json& json, const std::string& path) {
  if (!json.is_boolean()) return fail("must be true or false", path);
  return json.get<bool>();
}

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
  for (std::size_t i = 0; version < spec.version && i < step.params.size(); ++i)
    if (const auto& before = spec.params[i].whenAbsent; before && !json.contains(std::string(spec.params[i].id)))
      step.params[i].base = step.params[i].motion.far = *before;
  Json unknown = Json::object();
  for (const auto& [key, value] : json.items()) {
    const int i = findParam(spec.params, key);
    const std::string here = path + "." + key;
    Status ok;
    if (key == "step" || key == "version") continue;
    if (key == "on")
      ok = take(flag(value, here), step.on);
    else if (key == "id")
      ok = take(idFromJson(value, here), step.id);
    else if (key == "presence")
      ok = take(presenceFromJson(value, here), step.presence);
    else if (i >= 0)
      ok = take(paramFromJson(spec.params[static_cast<std::size_t>(i)], value, here), step.params[static_cast<std::size_t>(i)]);
    else
      unknown[key] = value;
    if (!ok) return tl::unexpected(ok.error());
  }
  if (!unknown.empty()) step.extra = unknown.dump();
  return step;
}

// Parameters of a table, each under its id. What else there is comes back as text.
Result<std::string> tableFromJson(std::span<const ParamSpec> specs, const Json& json, std::vector<Param>& params, const std::string& path,
                                  const std::function<bool(const std::string&)>& alsoKnown = {}) {
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
    else if (key == "opacity")
      ok = take(paramFromJson(opacitySpec(), value, here), layer.opacity);
    else if (key == "presence")
      ok = take(presenceFromJson(value, here), layer.presence);
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

// References are by id, so that no id may stand twice.
Status checkIds(const Scene& scene) {
  std::set<Id> seen;
  std::string twice;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    const auto see = [&](Id id) {
      if (id != 0 && !seen.insert(id).second && twice.empty())
        twice = std::to_string(id) + " stands twice, the second time in \"" + layer.name + "\"";
    };
    see(layer.id);
    for (const RecipeStep& step : layer.recipe) see(step.id);
    if (layer.mask) see(layer.mask->source.id);
  });
  if (!twice.empty()) return fail("the id " + twice, "layers");
  return {};
}

Result<Palette> paletteFromJson(const Json& json) {
  if (!json.is_object() || !json.contains("colours") || !json["colours"].is_array())
    return fail("must be an object like {\"name\": ..., \"colours\": [\"#1f7672\"]}", "palette");
  Palette palette;
  if (json.contains("name")) {
    auto name = nameText(json["name"], "palette.name");
    if (!name) return tl::unexpected(name.error());
    palette.name = std::move(*name);
  }
  const Json& colours = json["colours"];
  if (colours.size() > kMaxPaletteColours)
    return fail("has more than " + std::to_string(kMaxPaletteColours) + " colours", "palette.colours");
  for (std::size_t i = 0; i < colours.size(); ++i) {
    const std::string here = indexed("palette", "colours", i);
    auto colour = colours[i].is_string() ? parseColour(colours[i].get<std::string>()) : fail("must be a colour like \"#1f7672\"");
    if (!colour) return fail(colour.error().message, here);
    palette.colours.push_back(*colour);
  }
  palette.extra = extraOf(json, [](const std::string& key) { return key == "name" || key == "colours"; });
  return palette;
}

Status frameFromJson(const std::string& key, const Json& value, Scene& scene) {
  if (key == "size") {
    if (!value.is_array() || value.size() != 2) return fail("must be two numbers like [1920, 1080]", key);
    const auto width = wholeNumber(value[0], 1, kMaxFrameSize, "size[0]");
    if (!width) return tl::unexpected(width.error());
    const auto height = wholeNumber(value[1], 1, kMaxFrameSize, "size[1]");
    if (!height) return tl::unexpected(height.error());
    scene.width = *width;
    scene.height = *height;
  } else if (key == "rate") {
    if (!value.is_array() || value.size() != 2) return fail("must be two numbers like [30000, 1001]", key);
    const auto num = wholeNumber(value[0], 1, 1000000, "rate[0]");
    if (!num) return tl::unexpected(num.error());
    const auto den = wholeNumber(value[1], 1, 100000, "rate[1]");
    if (!den) return tl::unexpected(den.error());
    scene.rate = Rational{*num, *den}.reduced();
    if (scene.rate.value() < 1 || scene.rate.value() > 240)
      return fail(numberText(scene.rate.value(), 3) + " frames per second is not between 1 and 240", key);
  } else if (key == "frames") {
    const auto frames = wholeNumber(value, 1, kMaxFrames, key);
    if (!frames) return tl::unexpected(frames.error());
    scene.frames = *frames;
  } else if (key == "background") {
    const std::string text = value.is_string() ? value.get<std::string>() : "";
    if (text == "transparent") {
      scene.background.reset();
      return {};
    }
    const auto colour = parseColour(text);
    if (!colour) return fail("must be a colour like \"#0b1f2a\", or \"transparent\"", key);
    scene.background = *colour;
  } else {  // compositing
    if (value != "display" && value != "linear") return fail("must be \"display\" or \"linear\"", key);
    scene.linearLight = value == "linear";
  }
  return {};
}

}  // namespace

namespace {

// "line 12, column 5" of a byte.
std::string placeInText(std::string_view text, std::size_t byte) {
  const std::string_view before = text.substr(0, std::min(byte, text.size()));
  const auto line = 1 + std::count(before.begin(), before.end(), '\n');
  const std::size_t start = before.rfind('\n');
  const std::size_t column = before.size() - (start == std::string_view::npos ? 0 : start + 1) + 1;
  return "line " + std::to_string(line) + ", column " + std::to_string(column);
}

}  // namespace

Result<Json> parseJson(std::string_view text) {
  if (text.size() > kMaxSceneBytes) return fail("is larger than " + std::to_string(kMaxSceneBytes >> 20) + " MB, which no scene is");
  int depth = 0;
  int members[kMaxJsonDepth + 1] = {};
  bool inText = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (inText) {
      if (c == '\\')
        ++i;
      else if (c == '"')
        inText = false;
    } else if (c == '"') {
      inText = true;
    } else if (c == '[' || c == '{') {
      if (++depth > kMaxJsonDepth)
        return fail(placeInText(text, i) + ": is nested more than " + std::to_string(kMaxJsonDepth) + " deep, which no scene is");
      members[depth] = 0;
    } else if (c == ']' || c == '}') {
      depth = std::max(0, depth - 1);
    } else if (c == ',' && ++members[depth] >= kMaxJsonMembers) {
      return fail(placeInText(text, i) + ": here a list grows longer than " + std::to_string(kMaxJsonMembers) +
                  " members, which no scene has");
    }
  }
  // The parser reports a syntax error by throwing; this is the one place where it may.
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& e) {
    return fail("is not valid JSON at " + placeInText(text, e.byte > 0 ? e.byte - 1 : 0));
  } catch (const Json::exception&) {
    return fail("is not valid JSON");
  }
}

Result<Scene> sceneFromJson(const Json& json) {
  if (!json.is_object() || !json.contains("overagain")) return fail("is not an Over Again scene");
  const auto version = wholeNumber(json["overagain"], 1, 1000000, "overagain");
  if (!version) return tl::unexpected(version.error());
  if (*version > kFormatVersion)
    return fail("the scene was saved by a newer version of Over Again (format " + std::to_string(*version) + "; this one reads up to " +
                std::to_string(kFormatVersion) + ")");
  Scene scene;
  Json unknown = Json::object();
  for (const auto& [key, value] : json.items()) {
    if (key == "overagain") continue;
    if (key == "size" || key == "rate" || key == "frames" || key == "background" || key == "compositing") {
      if (auto ok = frameFromJson(key, value, scene); !ok) return tl::unexpected(ok.error());
    } else if (key == "name") {
      if (auto ok = take(nameText(value, key), scene.name); !ok) return tl::unexpected(ok.error());
    } else if (key == "palette") {
      if (auto ok = take(paletteFromJson(value), scene.palette); !ok) return tl::unexpected(ok.error());
    } else if (key == "layers") {
      Room room;
      if (auto ok = layersFromJson(value, key, room, scene.layers); !ok) return tl::unexpected(ok.error());
    } else if (key == "hold") {
      if (auto ok = take(wholeNumber(value, 1, kMaxHold, key), scene.hold); !ok) return tl::unexpected(ok.error());
    } else {
      unknown[key] = value;
    }
  }
  if (!unknown.empty()) scene.extra = unknown.dump();
  if (auto ok = checkIds(scene); !ok) return tl::unexpected(ok.error());
  assignIds(scene);
  if (auto ok = Plan(scene).status(); !ok) return fail(ok.error().message, "layers");
  return scene;
}

Result<Scene> sceneFromText(std::string_view text) {
  const auto json = parseJson(text);
  if (!json) return tl::unexpected(json.error());
  return sceneFromJson(*json);
}

Json stepToJson(const RecipeStep& step, bool complete) {
  Json s = {{"step", step.spec->id}};
  if (step.spec->version != 1) s["version"] = step.spec->version;
  if (step.id != 0) s["id"] = step.id;
  if (!step.on || complete) s["on"] = step.on;
  if (!step.presence.empty() || complete) s["presence"] = presenceToJson(step.presence);
  for (std::size_t i = 0; i < step.params.size(); ++i) {
    // Parts that a step could have more of are only written where they say something.
    if (!complete && step.spec->params[i].part > 0 && !isShown(step.spec->params, step.params, i) &&
        step.params[i] == defaultParam(step.spec->params[i]))
      continue;
    s[std::string(step.spec->params[i].id)] = paramToJson(step.spec->params[i], step.params[i]);
  }
  addExtra(s, step.extra);
  return s;
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
  if (!layer.presence.empty() || complete) l["presence"] = presenceToJson(layer.presence);
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

Result<Layer> layerFromJson(const Json& json, const std::string& path) {
  Room room;
  return layerFromJson(json, path, room);
}

Result<RecipeStep> stepFromJson(const Json& json, const std::string& path) {
  const auto spec = specFromJson(json, path);
  if (!spec) return tl::unexpected(spec.error());
  return stepFromJson(**spec, json, path);
}

Json sceneToJson(const Scene& scene, bool complete) {
  Json json = {{"overagain", kFormatVersion},
               {"name", scene.name},
               {"size", {scene.width, scene.height}},
               {"rate", {scene.rate.num, scene.rate.den}},
               {"frames", scene.frames},
               {"background", scene.background ? colourText(*scene.background) : "transparent"}};
  if (scene.linearLight || complete) json["compositing"] = scene.linearLight ? "linear" : "display";
  if (scene.palette != Palette() || complete) {
    Json colours = Json::array();
    for (const Colour& colour : scene.palette.colours) colours.push_back(colourText(colour));
    Json palette = {{"name", scene.palette.name}, {"colours", std::move(colours)}};
    addExtra(palette, scene.palette.extra);
    json["palette"] = std::move(palette);
  }
  if (scene.hold != 1 || complete) json["hold"] = scene.hold;
  Json layers = Json::array();
  for (const Layer& layer : scene.layers) layers.push_back(layerToJson(layer, complete));
  json["layers"] = std::move(layers);
  addExtra(json, scene.extra);
  return json;
}

namespace {

constexpr std::size_t kLineWidth = 110;

// Short lists and objects stay on one line, so that a curve or a stop is one line of a difference.
void writeJson(const Json& json, std::size_t indent, std::string& out) {
  if (!json.is_structured() || json.empty()) {
    out += json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return;
  }
  // Nothing that holds more than a handful can be short.
  if (json.size() <= 24 && indent > 0) {
    std::string line = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    if (indent + line.size() <= kLineWidth) {
      // A blank after each comma and colon outside of texts.
      std::string spaced;
      bool inText = false;
      for (std::size_t i = 0; i < line.size(); ++i) {
        spaced += line[i];
        if (inText && line[i] == '\\')
          spaced += line[++i];
        else if (line[i] == '"')
          inText = !inText;
        else if (!inText && (line[i] == ',' || line[i] == ':'))
          spaced += ' ';
      }
      out += spaced;
      return;
    }
  }
  const std::string inside(indent + 2, ' ');
  out += json.is_object() ? "{\n" : "[\n";
  bool first = true;
  for (const auto& item : json.items()) {
    if (!first) out += ",\n";
    first = false;
    out += inside;
    if (json.is_object()) out += Json(item.key()).dump(-1, ' ', false, Json::error_handler_t::replace) + ": ";
    writeJson(item.value(), indent + 2, out);
  }
  out += "\n" + std::string(indent, ' ') + (json.is_object() ? "}" : "]");
}

void addKeys(const std::string& path, const std::string& extra, std::vector<std::string>& list) {
  if (extra.empty()) return;
  const Json kept = Json::parse(extra, nullptr, false);
  for (const auto& [key, value] : kept.items()) list.push_back(path.empty() ? key : path + "." + key);
}

void addParamKeys(const std::string& path, const Param& param, std::vector<std::string>& list) {
  addKeys(path, param.extra, list);
  addKeys(path + ".motion", param.motion.extra, list);
  for (std::size_t i = 0; i < param.motion.keys.size(); ++i)
    addKeys(indexed(path + ".motion", "keys", i), param.motion.keys[i].extra, list);
  if (const auto* stops = std::get_if<Stops>(&param.base))
    for (std::size_t i = 0; i < stops->size(); ++i) addKeys(path + "[" + std::to_string(i) + "]", (*stops)[i].extra, list);
}

}  // namespace

std::string sceneToText(const Scene& scene) {
  std::string text;
  writeJson(sceneToJson(scene), 0, text);
  return text + "\n";
}

namespace {

void addStepKeys(const std::string& path, const RecipeStep& step, std::vector<std::string>& list) {
  addKeys(path, step.extra, list);
  for (std::size_t i = 0; i < step.presence.size(); ++i) addKeys(indexed(path, "presence", i), step.presence[i].extra, list);
  for (std::size_t i = 0; i < step.params.size(); ++i)
    addParamKeys(path + "." + std::string(step.spec->params[i].id), step.params[i], list);
}

void addTableKeys(const std::string& path, std::span<const ParamSpec> specs, const std::vector<Param>& params,
                  std::vector<std::string>& list) {
  for (std::size_t i = 0; i < params.size(); ++i) addParamKeys(path + "." + std::string(specs[i].id), params[i], list);
}

void addLayerKeys(const std::string& above, const std::vector<Layer>& layers, std::vector<std::string>& list) {
  for (std::size_t l = 0; l < layers.size(); ++l) {
    const Layer& layer = layers[l];
    const std::string path = indexed(above, "layers", l);
    addKeys(path, layer.extra, list);
    addParamKeys(path + ".opacity", layer.opacity, list);
    addKeys(path + ".place", layer.placeExtra, list);
    addTableKeys(path + ".place", placeSpecs(), layer.place, list);
    for (std::size_t i = 0; i < layer.presence.size(); ++i) addKeys(indexed(path, "presence", i), layer.presence[i].extra, list);
    if (layer.mask) {
      addKeys(path + ".mask", layer.mask->extra, list);
      addStepKeys(path + ".mask.source", layer.mask->source, list);
      addTableKeys(path + ".mask", maskSpecs(), layer.mask->params, list);
    }
    for (std::size_t s = 0; s < layer.recipe.size(); ++s) addStepKeys(indexed(path, "recipe", s), layer.recipe[s], list);
    addLayerKeys(path, layer.layers, list);
  }
}

}  // namespace

std::vector<std::string> unknownKeys(const Scene& scene) {
  std::vector<std::string> list;
  addKeys("", scene.extra, list);
  addKeys("palette", scene.palette.extra, list);
  addLayerKeys("", scene.layers, list);
  return list;
}

}  // namespace oa
