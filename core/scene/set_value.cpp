// --set PATH=VALUE: finds the place in the scene's JSON, changes it, and reads the scene again, so that the
// same checks and messages apply as for a file.
#include <algorithm>
#include <charconv>
#include <nlohmann/json.hpp>
#include <string>

#include "base/utf8.h"
#include "params/first_motion.h"
#include "scene/scene_json.h"
#include "scene/tree.h"

namespace oa {
namespace {

struct PathPart {
  std::string key;
  std::vector<std::size_t> indexes;  // [2], or [2][0]
};

Result<std::vector<PathPart>> splitPath(std::string_view path) {
  std::vector<PathPart> parts;
  while (!path.empty()) {
    const std::size_t dot = path.find('.');
    const std::string_view piece = path.substr(0, dot);
    if (dot != std::string_view::npos && dot + 1 == path.size()) return fail("ends with a point", std::string(path));
    path = dot == std::string_view::npos ? std::string_view() : path.substr(dot + 1);
    PathPart part;
    std::size_t open = piece.find('[');
    part.key = std::string(piece.substr(0, open));
    while (open != std::string_view::npos) {
      const std::size_t close = piece.find(']', open);
      std::size_t index = 0;
      const auto digits = close == std::string_view::npos ? std::string_view() : piece.substr(open + 1, close - open - 1);
      const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), index);
      if (digits.empty() || error != std::errc{} || end != digits.data() + digits.size())
        return fail("has a wrong index", std::string(piece));
      part.indexes.push_back(index);
      open = close + 1 == piece.size() ? std::string_view::npos : close + 1;
      if (open != std::string_view::npos && piece[open] != '[') return fail("has a wrong index", std::string(piece));
    }
    if (part.key.empty()) return fail("has an empty part", std::string(piece));
    parts.push_back(std::move(part));
  }
  if (parts.empty()) return fail("is empty");
  return parts;
}

// Inside a layer a step may be named: noise, or levels[1] for the second one.
Json* namedStep(Json& layer, const PathPart& part) {
  if (!layer.is_object() || !layer.contains("recipe") || !findStep(part.key)) return nullptr;
  std::size_t left = part.indexes.empty() ? 0 : part.indexes.front();
  for (Json& step : layer["recipe"])
    if (step["step"] == part.key && left-- == 0) return &step;
  return nullptr;
}

// What may be left out of a motion or a keyframe, and can be set all the same.
bool mayBeMadeUp(const std::vector<PathPart>& parts, std::size_t i) {
  const auto listed = [&](std::initializer_list<std::string_view> keys) {
    return std::find(keys.begin(), keys.end(), parts[i].key) != keys.end();
  };
  if (parts[i].key == "motion") return i > 0;
  if (i == 0) return false;
  if (listed({"arrivesFrom", "leavesTo"})) return true;
  if (parts[i - 1].key == "arrive" || parts[i - 1].key == "leave") return findParam(passageSpecs(), parts[i].key) >= 0;
  if (parts[i - 1].key == "motion")
    return listed({"kind", "laps", "start", "pace", "shape", "shares", "to", "keys", "knots", "seed", "band", "flicker", "over", "values",
                   "formula", "closing", "follows", "scale"});
  return parts[i - 1].key == "keys" && listed({"pace", "hold"});
}

// Whether both have the same parameters, one after the other.
bool sameTables(const Scene& a, const Scene& b) {
  const auto specs = [](const Scene& scene) {
    std::vector<const ParamSpec*> list;
    forEachLayer(scene.layers, [&](const Layer& layer, int) {
      forEachParam(layer, [&](const ParamSpec& spec, const Param&) { list.push_back(&spec); });
    });
    return list;
  };
  return specs(a) == specs(b);
}

// A motion that was given its kind and nothing else begins as it does in the window: with somewhere to go. False where something
// was given a motion that cannot have one.
bool beginMotions(Scene& scene, const Scene& before) {
  bool can = true;
  std::vector<const Param*> old;
  forEachLayer(before.layers,
               [&](const Layer& layer, int) { forEachParam(layer, [&](const ParamSpec&, const Param& param) { old.push_back(&param); }); });
  std::size_t next = 0;
  const auto begin = [&](const ParamSpec& spec, Param& now) {
    const Param& then = *old[next++];
    if (!spec.canMove() && now.motion.laps != then.motion.laps) can = false;
    if (now.motion.kind != then.motion.kind && now.motion.moves() && !reallyMoves(spec, now))
      now.motion = firstMotion(spec, now, now.motion.kind);
  };
  if (!sameTables(scene, before)) return can;
  forEachLayer(scene.layers, [&](Layer& layer, int) { forEachParam(layer, begin); });
  return can;
}

}  // namespace

Result<Scene> withValueSet(const Scene& scene, std::string_view assignment) {
  const std::size_t equals = assignment.find('=');
  if (!isUtf8(assignment)) return fail("is not UTF-8 text", "--set");
  if (equals == std::string_view::npos) return fail("must look like layers[0].noise.cell=90", std::string(assignment));
  const std::string path(assignment.substr(0, equals));
  const std::string_view text = assignment.substr(equals + 1);
  const auto parts = splitPath(path);
  if (!parts) return fail(parts.error().message, path);
  Json value = text;
  if (auto parsed = parseJson(text)) {
    value = std::move(*parsed);
  } else if (!text.empty() && (text.front() == '{' || text.front() == '[' || text.front() == '"')) {
    return fail(parsed.error().sentence(), path);
  }
  Json root = sceneToJson(scene, true);
  Json* at = &root;
  bool insideLayer = false;
  for (std::size_t i = 0; i < parts->size(); ++i) {
    const PathPart& part = (*parts)[i];
    std::vector<std::size_t> indexes = part.indexes;
    Json* step = insideLayer ? namedStep(*at, part) : nullptr;
    if (step) {
      at = step;
      insideLayer = false;
      continue;
    }
    // A plain value in the way becomes {"value": ...} where the path goes on to its motion.
    if (!at->is_object() && i > 0 && (part.key == "motion" || part.key == "value" || part.key == "arrivesFrom" || part.key == "leavesTo"))
      *at = Json{{"value", *at}};
    if (at->is_null()) *at = Json::object();
    if (!at->is_object() || (!at->contains(part.key) && !mayBeMadeUp(*parts, i)))
      return fail("there is nothing of that name" + std::string(part.key == "motion" ? " that could move" : ""), path);
    Json* next = &(*at)[part.key];
    for (const std::size_t index : indexes) {
      // The items of a value that has a motion are those of the value.
      if (next->is_object() && next->contains("value")) next = &(*next)["value"];
      if (!next->is_array() || index >= next->size()) return fail("there is no " + part.key + "[" + std::to_string(index) + "]", path);
      next = &(*next)[index];
    }
    insideLayer = part.key == "layers" && !indexes.empty();
    at = next;
  }
  // Setting a moving parameter's value keeps its motion.
  if (at->is_object() && at->contains("value") && !value.is_object()) at = &(*at)["value"];
  *at = std::move(value);
  auto changed = sceneFromJson(root);
  if (!changed) return changed;
  // A key that nobody reads would change nothing: it is misspelt.
  const auto known = unknownKeys(scene);
  for (const std::string& key : unknownKeys(*changed))
    if (std::find(known.begin(), known.end(), key) == known.end()) return fail("there is nothing called \"" + key + "\"", path);
  if (!beginMotions(*changed, scene)) return fail("this value cannot move", path);
  return changed;
}

}  // namespace oa
