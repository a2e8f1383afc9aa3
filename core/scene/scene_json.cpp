#include "scene/scene_json.h"

#include <nlohmann/json.hpp>
#include <set>

#include "scene/json_values.h"
#include "scene/layer_json.h"
#include "scene/plan.h"
#include "scene/tree.h"

namespace oa {
namespace {

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

Result<SoundTrack> soundFromJson(const Json& json) {
  SoundTrack sound;
  if (auto ok = take(tableFromJson(soundSpecs(), json, sound.params, "sound"), sound.extra); !ok) return tl::unexpected(ok.error());
  return sound;
}

Result<Run> runFromJson(const Json& json) {
  Run run;
  if (!json.is_object()) return fail("must be an object like {\"wholeLaps\": true}", "run");
  for (const auto& [key, target] : {std::pair{"wholeLaps", &run.wholeLaps}, {"keepsSound", &run.keepsSound}})
    if (json.contains(key))
      if (auto ok = take(flag(json[key], "run." + std::string(key)), *target); !ok) return tl::unexpected(ok.error());
  if (json.contains("loops"))
    if (auto ok = take(wholeNumber(json["loops"], 1, kMaxRunLoops, "run.loops"), run.loops); !ok) return tl::unexpected(ok.error());
  if (json.contains("seconds")) {
    const Json& seconds = json["seconds"];
    if (!seconds.is_number() || !(seconds.get<double>() >= 0) || seconds.get<double>() > kMaxRunSeconds)
      return fail("must be from 0 (as many loops as it says) to " + std::to_string(static_cast<int>(kMaxRunSeconds)) + " seconds",
                  "run.seconds");
    run.seconds = seconds.get<double>();
  }
  run.extra =
      extraOf(json, [](const std::string& key) { return key == "wholeLaps" || key == "keepsSound" || key == "loops" || key == "seconds"; });
  return run;
}

Result<std::vector<std::string>> cellsFromJson(const Json& json, const std::string& path) {
  if (!json.is_array() || json.size() > kMostTitleColumns)
    return fail("must be a list of at most " + std::to_string(kMostTitleColumns) + " texts", path);
  std::vector<std::string> cells;
  for (const Json& cell : json) {
    if (!cell.is_string() || cell.get_ref<const std::string&>().size() > kMostTextBytes) return fail("must be texts in quotes", path);
    cells.push_back(cell.get<std::string>());
  }
  return cells;
}

Result<TitleTable> titleTableFromJson(const Json& json) {
  TitleTable table;
  if (!json.is_object() || !json.contains("columns"))
    return fail("must be a table like {\"columns\": [\"name\"], \"rows\": [[\"Kelpwick\"]]}", "table");
  if (auto ok = take(cellsFromJson(json["columns"], "table.columns"), table.columns); !ok) return tl::unexpected(ok.error());
  if (json.contains("rows")) {
    const Json& rows = json["rows"];
    if (!rows.is_array() || rows.size() > kMostTitleRows)
      return fail("must be a list of at most " + std::to_string(kMostTitleRows) + " rows", "table.rows");
    for (std::size_t i = 0; i < rows.size(); ++i)
      if (auto ok = take(cellsFromJson(rows[i], indexed("table", "rows", i)), table.rows.emplace_back()); !ok)
        return tl::unexpected(ok.error());
  }
  table.extra = extraOf(json, [](const std::string& key) { return key == "columns" || key == "rows"; });
  return table;
}

}  // namespace

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
      if (auto ok = layersFromJson(value, key, scene.layers); !ok) return tl::unexpected(ok.error());
    } else if (key == "hold") {
      if (auto ok = take(wholeNumber(value, 1, kMaxHold, key), scene.hold); !ok) return tl::unexpected(ok.error());
    } else if (key == "beats") {
      if (auto ok = take(wholeNumber(value, 0, kMaxBeats, key), scene.beats); !ok) return tl::unexpected(ok.error());
    } else if (key == "bar") {
      if (auto ok = take(wholeNumber(value, 1, kMaxBar, key), scene.bar); !ok) return tl::unexpected(ok.error());
    } else if (key == "sound") {
      if (auto ok = take(soundFromJson(value), scene.sound); !ok) return tl::unexpected(ok.error());
    } else if (key == "table") {
      if (value.is_null()) continue;
      if (auto ok = take(titleTableFromJson(value), scene.table); !ok) return tl::unexpected(ok.error());
    } else if (key == "run") {
      if (auto ok = take(runFromJson(value), scene.run); !ok) return tl::unexpected(ok.error());
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
  if (scene.beats != 0 || complete) json["beats"] = scene.beats;
  if (scene.bar != 4 || complete) json["bar"] = scene.bar;
  if (scene.sound != SoundTrack() || complete) {
    Json sound = Json::object();
    addTable(sound, soundSpecs(), scene.sound.params, complete);
    addExtra(sound, scene.sound.extra);
    json["sound"] = std::move(sound);
  }
  if (scene.run != Run() || complete) {
    Json run = {{"wholeLaps", scene.run.wholeLaps}, {"keepsSound", scene.run.keepsSound}};
    if (scene.run.loops != 1 || complete) run["loops"] = scene.run.loops;
    if (scene.run.seconds != 0 || complete) run["seconds"] = scene.run.seconds;
    addExtra(run, scene.run.extra);
    json["run"] = std::move(run);
  }
  if (scene.table != TitleTable()) {
    Json table = {{"columns", scene.table.columns}, {"rows", scene.table.rows}};
    addExtra(table, scene.table.extra);
    json["table"] = std::move(table);
  }
  Json layers = Json::array();
  for (const Layer& layer : scene.layers) layers.push_back(layerToJson(layer, complete));
  json["layers"] = std::move(layers);
  addExtra(json, scene.extra);
  return json;
}

std::string sceneToText(const Scene& scene) { return jsonText(sceneToJson(scene)); }

}  // namespace oa
