// --set PATH=VALUE: finds the place in the scene's JSON, changes it, and reads the scene again, so that the
// same checks and messages apply as for a file.
#include <charconv>
#include <string>

#include "scene/scene_json.h"

namespace oa {
namespace {

struct PathPart {
  std::string key;
  int index = -1;
};

Result<std::vector<PathPart>> splitPath(std::string_view path) {
  std::vector<PathPart> parts;
  while (!path.empty()) {
    const std::size_t dot = path.find('.');
    std::string_view piece = path.substr(0, dot);
    path = dot == std::string_view::npos ? std::string_view() : path.substr(dot + 1);
    PathPart part;
    if (const std::size_t open = piece.find('['); open != std::string_view::npos) {
      const std::string_view digits = piece.substr(open + 1);
      const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), part.index);
      if (error != std::errc{} || std::string_view(end, static_cast<std::size_t>(digits.data() + digits.size() - end)) != "]" ||
          part.index < 0)
        return fail("has a wrong index", std::string(piece));
      piece = piece.substr(0, open);
    }
    if (piece.empty()) return fail("has an empty part", std::string(path));
    part.key = std::string(piece);
    parts.push_back(part);
  }
  if (parts.empty()) return fail("is empty");
  return parts;
}

// Inside a layer a step may be named: noise, or levels[1] for the second one.
Json* namedStep(Json& layer, const PathPart& part) {
  if (!layer.is_object() || !layer.contains("recipe") || !findStep(part.key)) return nullptr;
  int left = std::max(0, part.index);
  for (Json& step : layer["recipe"])
    if (step["step"] == part.key && left-- == 0) return &step;
  return nullptr;
}

// A plain value in the way becomes {"value": ...} where the path goes on to its motion.
void opened(Json& json, const std::string& next) {
  if (!json.is_object() && (next == "motion" || next == "value")) json = Json{{"value", json}};
}

}  // namespace

Result<Scene> withValueSet(const Scene& scene, std::string_view assignment) {
  const std::size_t equals = assignment.find('=');
  if (equals == std::string_view::npos) return fail("must look like layers[0].noise.cell=90", std::string(assignment));
  const std::string path(assignment.substr(0, equals));
  const std::string text(assignment.substr(equals + 1));
  const auto parts = splitPath(path);
  if (!parts) return fail(parts.error().message, path);
  Json value = Json::parse(text, nullptr, false);
  if (value.is_discarded()) value = text;
  Json root = sceneToJson(scene);
  Json* at = &root;
  bool insideLayer = false;
  for (std::size_t i = 0; i < parts->size(); ++i) {
    const PathPart& part = (*parts)[i];
    const bool last = i + 1 == parts->size();
    if (insideLayer) {
      if (Json* step = namedStep(*at, part)) {
        at = step;
        insideLayer = false;
        continue;
      }
    }
    if (!at->is_object()) return fail("there is nothing of that name", path);
    const bool madeUp = !at->contains(part.key);
    // Only motions may be added to: everything else is always written out, so a missing key is a slip.
    const bool inMotion = i > 0 && (*parts)[i - 1].key == "motion";
    if (madeUp && part.key != "motion" && part.key != "on" && part.key != "visible" && part.key != "compositing" && !inMotion)
      return fail("there is nothing of that name", path);
    Json* next = &(*at)[part.key];
    if (part.index >= 0) {
      if (!next->is_array() || static_cast<std::size_t>(part.index) >= next->size())
        return fail("there is no " + part.key + "[" + std::to_string(part.index) + "]", path);
      next = &(*next)[static_cast<std::size_t>(part.index)];
    }
    if (!last) opened(*next, (*parts)[i + 1].key);
    insideLayer = part.key == "layers" && part.index >= 0;
    at = next;
  }
  // Setting a moving parameter's value keeps its motion.
  if (at->is_object() && at->contains("value") && !value.is_object()) at = &(*at)["value"];
  *at = std::move(value);
  return sceneFromJson(root);
}

}  // namespace oa
