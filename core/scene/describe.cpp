#include "scene/describe.h"

#include <nlohmann/json.hpp>

#include "image/blend.h"
#include "image/tone_curve.h"
#include "params/param_json.h"
#include "scene/scene_json.h"

namespace oa {
namespace {

std::string_view kindName(StepKind kind) {
  static constexpr std::string_view kNames[] = {"source", "point", "area"};
  return kNames[static_cast<std::size_t>(kind)];
}

Json valueSchema(const ParamSpec& spec) {
  Json colour = {{"type", "string"}, {"pattern", "^#([0-9a-fA-F]{3,4}|[0-9a-fA-F]{6}|[0-9a-fA-F]{8})$"}};
  switch (spec.type) {
    case ParamType::Point: {
      const Json part = {{"type", spec.isWhole() ? "integer" : "number"}, {"minimum", spec.min}, {"maximum", spec.max}};
      return {{"type", "array"}, {"items", part}, {"minItems", 2}, {"maxItems", 2}};
    }
    case ParamType::Colour:
      return colour;
    case ParamType::Choice: {
      Json list = Json::array();
      for (const auto c : spec.choices) list.push_back(c);
      return {{"enum", list}};
    }
    case ParamType::Outline:
      return {{"type", "string"}, {"description", "SVG path data"}};
    case ParamType::Text:
    case ParamType::Font:
      return {{"type", "string"}, {"maxLength", kMostTextBytes}};
    case ParamType::Copies: {
      const Json key = {{"type", "integer"}, {"minimum", 0}, {"maximum", 4294967295}};
      const Json far = {{"type", "number"}, {"minimum", -kMostCopyOffset}, {"maximum", kMostCopyOffset}};
      const Json known = {{"copy", {{"type", "array"}, {"items", key}, {"minItems", 2}, {"maxItems", 2}}},
                          {"out", {{"type", "boolean"}}},
                          {"by", {{"type", "array"}, {"items", far}, {"minItems", 2}, {"maxItems", 2}}},
                          {"turn", {{"type", "number"}, {"minimum", -36000}, {"maximum", 36000}}},
                          {"size", {{"type", "number"}, {"minimum", 0}, {"maximum", kMostCopySize}}},
                          {"colour", colour}};
      const Json change = {{"type", "object"}, {"properties", known}, {"required", {"copy"}}};
      return {{"type", "array"}, {"items", change}, {"maxItems", kMostCopyChanges}};
    }
    case ParamType::Toggle:
      return {{"type", "boolean"}};
    case ParamType::File: {
      const Json path = {{"type", "string"}, {"maxLength", kMaxPathBytes}};
      const Json count = {{"type", "integer"}, {"minimum", 0}};
      const Json known = {{"path", path},
                          {"bytes", count},
                          {"width", count},
                          {"height", count},
                          {"pictures", count},
                          {"seconds", {{"type", "number"}, {"minimum", 0}}},
                          {"data", {{"type", "string"}}},
                          {"sha256", {{"type", "string"}, {"pattern", "^[0-9a-f]{64}$"}}}};
      return {{"anyOf", Json::array({path, {{"type", "object"}, {"properties", known}, {"required", {"path"}}}})}};
    }
    case ParamType::ToneCurve: {
      const Json share = {{"type", "number"}, {"minimum", 0}, {"maximum", 1}};
      const Json point = {{"type", "array"}, {"items", share}, {"minItems", 2}, {"maxItems", 2}};
      return {{"type", "array"}, {"items", point}, {"minItems", 2}, {"maxItems", kMaxCurvePoints}};
    }
    default:
      return {{"type", spec.isWhole() ? "integer" : "number"}, {"minimum", spec.min}, {"maximum", spec.max}};
  }
}

// Schemas that many parameters have in common stand once, under "$defs".
class SharedSchemas {
 public:
  /// A reference to `schema`, named after `prefix` and a number where there are several.
  Json reference(const std::string& prefix, Json schema) {
    for (const auto& [name, made] : defs_.items())
      if (made == schema) return {{"$ref", "#/$defs/" + name}};
    const std::string name = prefix + std::to_string(defs_.size() + 1);
    defs_[name] = std::move(schema);
    return {{"$ref", "#/$defs/" + name}};
  }
  [[nodiscard]] const Json& defs() const { return defs_; }

 private:
  Json defs_ = Json::object();
};

Json motionSchema(const ParamSpec& spec, SharedSchemas& shared) {
  Json kinds = Json::array();
  for (const MotionKind k : allowedMotions(spec)) kinds.push_back(motionName(k));
  const Json bezier = {{"type", "array"}, {"items", {{"type", "number"}}}, {"minItems", 4}, {"maxItems", 4}};
  const Json pace = shared.reference("pace", {{"anyOf", Json::array({Json{{"type", "string"}, {"maxLength", 8000}}, bezier})}});
  const Json share = shared.reference("share", {{"type", "number"}, {"minimum", 0}, {"maximum", 1}});
  const Json value = shared.reference("value", valueSchema(spec));
  const Json key = {{"type", "object"},
                    {"properties",
                     {{"at", {{"type", "number"}, {"minimum", 0}, {"exclusiveMaximum", 1}}},
                      {"value", value},
                      {"pace", pace},
                      {"hold", {{"type", "boolean"}}}}},
                    {"required", {"at", "value"}}};
  const Json id = {{"type", "integer"}, {"minimum", 0}, {"maximum", kMaxId}};
  const Json leader = shared.reference(
      "leader", {{"type", "object"},
                 {"properties", {{"layer", id}, {"step", id}, {"item", id}, {"value", {{"type", "string"}, {"maxLength", 100}}}}},
                 {"required", {"layer", "value"}}});
  return shared.reference("motion",
                          {{"type", "object"},
                           {"properties",
                            {{"kind", {{"enum", kinds}}},
                             {"laps", {{"type", "integer"}, {"minimum", -kMaxLaps}, {"maximum", kMaxLaps}, {"not", {{"const", 0}}}}},
                             {"start", share},
                             {"pace", pace},
                             {"shape", {{"enum", swingShapeNames()}}},
                             {"shares", {{"type", "array"}, {"items", share}, {"minItems", 3}, {"maxItems", 3}}},
                             {"to", true},
                             {"keys", {{"type", "array"}, {"maxItems", kMaxKeyframes}, {"items", key}}},
                             {"knots", {{"type", "integer"}, {"minimum", 1}, {"maximum", kMaxKnots}}},
                             {"seed", {{"type", "integer"}, {"minimum", 0}, {"maximum", 999999}}},
                             {"band", {{"enum", soundBandNames()}}},
                             {"flicker", share},
                             {"over", share},
                             {"formula", {{"type", "string"}, {"maxLength", kMostFormulaBytes}}},
                             {"closing", {{"enum", formulaClosingNames()}}},
                             {"follows", leader},
                             {"scale", {{"type", "number"}, {"minimum", -kMaxFollowScale}, {"maximum", kMaxFollowScale}}},
                             {"values", {{"type", "array"}, {"maxItems", kMaxKnots}, {"items", value}}}}}});
}

Json paramSchema(const ParamSpec& spec, SharedSchemas& shared) {
  Json schema = valueSchema(spec);
  if (spec.canMove()) {
    const Json motion = motionSchema(spec, shared);
    Json properties = {{"value", schema}, {"motion", motion}};
    if (canAddMotions(spec)) properties["motions"] = {{"type", "array"}, {"minItems", 1}, {"maxItems", kMaxMotions}, {"items", motion}};
    if (canPass(spec)) properties["arrivesFrom"] = properties["leavesTo"] = shared.reference("value", valueSchema(spec));
    Json moving = {{"type", "object"}, {"properties", properties}, {"required", {"value"}}};
    schema = {{"anyOf", Json::array({schema, moving})}};
  }
  schema["description"] = spec.help;
  return schema;
}

std::string rangeText(const ParamSpec& spec) {
  if (spec.type == ParamType::Choice) {
    std::string list;
    for (const auto c : spec.choices) list += (list.empty() ? "" : ", ") + std::string(c);
    return list;
  }
  if (!spec.isScalar() && spec.type != ParamType::Point) return std::string(typeName(spec.type));
  return numberText(spec.min) + " to " + numberText(spec.max) + (spec.isWhole() ? ", whole" : "");
}

std::string tableText(std::span<const ParamSpec> specs) {
  std::string text = "| parameter | what it does | default | range | motions |\n|---|---|---|---|---|\n";
  for (const ParamSpec& spec : specs) {
    std::string motions;
    for (const MotionKind k : allowedMotions(spec)) motions += (motions.empty() ? "" : ", ") + std::string(motionName(k));
    const std::string unit(unitText(spec.unit));
    text += "| `" + std::string(spec.id) + "` " + std::string(spec.label) +
            (unit.empty() || spec.unit == Unit::Share ? "" : " (" + unit + ")") + " | " + std::string(spec.help) + " | " +
            valueToJson(spec, spec.base).dump() + " | " + rangeText(spec) + " | " + motions + " |\n";
  }
  return text;
}

}  // namespace

Json describeParam(const ParamSpec& spec) {
  Json json = {{"id", spec.id},
               {"label", spec.label},
               {"type", typeName(spec.type)},
               {"help", spec.help},
               {"default", valueToJson(spec, spec.base)}};
  if (spec.isScalar() || spec.type == ParamType::Point) {
    json["min"] = spec.min;
    json["max"] = spec.max;
    json["slider"] = {spec.low(), spec.high()};
    if (spec.logScale) json["scale"] = "logarithmic";
    if (spec.isWhole()) json["whole"] = true;
  }
  if (!unitText(spec.unit).empty()) json["unit"] = unitText(spec.unit);
  if (spec.type == ParamType::Choice) {
    json["choices"] = Json::array();
    for (const auto c : spec.choices) json["choices"].push_back(c);
  }
  json["motions"] = Json::array();
  for (const MotionKind k : allowedMotions(spec)) json["motions"].push_back(motionName(k));
  if (spec.shownWhen) {
    Json choices = Json::array();
    for (const auto c : spec.shownWhen->choices) choices.push_back(c);
    json["shownWhen"] = {{std::string(spec.shownWhen->param), choices.empty() ? Json{{"atLeast", spec.shownWhen->atLeast}} : choices}};
  }
  return json;
}

Json describeStep(const StepSpec& step) {
  Json json = {{"id", step.id},           {"title", step.title}, {"group", step.group}, {"kind", kindName(step.kind)},
               {"version", step.version}, {"help", step.help}};
  json["parameters"] = Json::array();
  for (const ParamSpec& spec : step.params) json["parameters"].push_back(describeParam(spec));
  if (const ItemsSpec* items = step.items) {
    Json parameters = Json::array();
    for (const ParamSpec& spec : items->params) parameters.push_back(describeParam(spec));
    json["items"] = {{"id", items->id},   {"single", items->single}, {"help", items->help},     {"least", items->least},
                     {"most", kMaxItems}, {"default", items->first}, {"parameters", parameters}};
  }
  return json;
}

std::string describeStepText(const StepSpec& step) {
  std::string text = "## " + std::string(step.title) + " (`" + std::string(step.id) + "`)\n\n" + std::string(step.help) + "\n\n";
  if (!step.params.empty()) text += tableText(step.params);
  if (const ItemsSpec* items = step.items)
    text += std::string(step.params.empty() ? "" : "\n") + std::string(items->help) + " They are the list `" + std::string(items->id) +
            "`, " + std::to_string(items->least) + " to " + std::to_string(kMaxItems) + " of them (" + std::to_string(items->first) +
            " at first), each with\n\n" + tableText(items->params);
  return text;
}

namespace {

Json whole(int low, int high) { return {{"type", "integer"}, {"minimum", low}, {"maximum", high}}; }

Json presenceSchema() {
  const Json share = {{"type", "number"}, {"minimum", 0}, {"maximum", 1}};
  const Json arc = {{"type", "object"},
                    {"properties", {{"from", share}, {"length", share}, {"in", share}, {"out", share}}},
                    {"required", {"from", "length"}}};
  return {{"type", "array"}, {"maxItems", kMaxArcs}, {"items", arc}};
}

Json tableSchema(std::span<const ParamSpec> specs, SharedSchemas& shared) {
  Json properties = Json::object();
  for (const ParamSpec& spec : specs) properties[std::string(spec.id)] = paramSchema(spec, shared);
  return {{"type", "object"}, {"properties", properties}};
}

}  // namespace

Json sceneSchema() {
  SharedSchemas shared;
  Json steps = Json::array();
  const Json presence = shared.reference("presence", presenceSchema());
  const auto passageSchema = [&](std::span<const ParamSpec> specs) {
    return shared.reference("passage", {{"anyOf", Json::array({tableSchema(specs, shared), Json{{"type", "null"}}})}});
  };
  const Json stepPassage = passageSchema(stepPassageSpecs());
  const Json passage = passageSchema(passageSpecs());
  for (const StepSpec* step : allSteps()) {
    Json properties = {{"step", {{"const", step->id}}}, {"version", whole(1, step->version)},
                       {"id", whole(1, kMaxId)},        {"on", {{"type", "boolean"}}},
                       {"presence", presence},          {"arrive", stepPassage},
                       {"leave", stepPassage}};
    for (const ParamSpec& spec : step->params) properties[std::string(spec.id)] = paramSchema(spec, shared);
    if (const ItemsSpec* items = step->items) {
      Json item = tableSchema(items->params, shared);
      item["properties"]["id"] = whole(1, kMaxId);
      properties[std::string(items->id)] = {
          {"type", "array"}, {"minItems", items->least}, {"maxItems", kMaxItems}, {"items", item}, {"description", items->help}};
    }
    steps.push_back({{"type", "object"}, {"title", step->title}, {"properties", properties}, {"required", {"step"}}});
  }
  const Json step = shared.reference("step", {{"anyOf", steps}});
  Json blends = Json::array();
  for (int i = 0; i < kBlendModes; ++i) blends.push_back(blendName(static_cast<BlendMode>(i)));
  const auto pair = [](const Json& first, const Json& second) {
    return Json{{"type", "array"}, {"prefixItems", Json::array({first, second})}, {"minItems", 2}, {"maxItems", 2}};
  };
  Json mask = tableSchema(maskSpecs(), shared);
  mask["properties"]["source"] = step;
  mask["properties"]["on"] = {{"type", "boolean"}};
  mask["required"] = {"source"};
  const Json inside = {{"type", "array"}, {"maxItems", kMaxLayers}, {"items", {{"$ref", "#/$defs/layer"}}}};
  const Json layer = {{"type", "object"},
                      {"properties",
                       {{"name", {{"type", "string"}}},
                        {"id", whole(1, kMaxId)},
                        {"visible", {{"type", "boolean"}}},
                        {"locked", {{"type", "boolean"}}},
                        {"folded", {{"type", "boolean"}}},
                        {"hold", whole(1, kMaxHold)},
                        {"distance", {{"type", "number"}, {"minimum", 0}, {"maximum", kMaxDistance}}},
                        {"presence", presence},
                        {"arrive", passage},
                        {"leave", passage},
                        {"standIn", {{"type", "boolean"}}},
                        {"blend", {{"enum", blends}}},
                        {"opacity", paramSchema(opacitySpec(), shared)},
                        {"place", tableSchema(placeSpecs(), shared)},
                        {"mask", mask},
                        {"recipe", {{"type", "array"}, {"minItems", 1}, {"maxItems", kMaxSteps}, {"items", step}}},
                        {"layers", inside}}},
                      {"required", {"recipe"}}};
  const Json sound = tableSchema(soundSpecs(), shared);
  Json defs = shared.defs();
  defs["layer"] = layer;
  return {
      {"$schema", "https://json-schema.org/draft/2020-12/schema"},
      {"title", "Over Again scene"},
      {"type", "object"},
      {"properties",
       {{"overagain", whole(1, kFormatVersion)},
        {"name", {{"type", "string"}}},
        {"size", pair(whole(1, kMaxFrameSize), whole(1, kMaxFrameSize))},
        {"rate", pair(whole(1, 1000000), whole(1, 100000))},
        {"frames", whole(1, kMaxFrames)},
        {"background", {{"type", "string"}}},
        {"compositing", {{"enum", {"display", "linear"}}}},
        {"palette",
         {{"type", "object"},
          {"properties",
           {{"name", {{"type", "string"}}},
            {"colours", {{"type", "array"}, {"maxItems", kMaxPaletteColours}, {"items", {{"type", "string"}}}}}}},
          {"required", {"colours"}}}},
        {"hold", whole(1, kMaxHold)},
        {"beats", whole(0, kMaxBeats)},
        {"bar", whole(1, kMaxBar)},
        {"sound", sound},
        {"run",
         {{"type", "object"},
          {"properties",
           {{"loops", whole(1, kMaxRunLoops)},
            {"seconds", {{"type", "number"}, {"minimum", 0}, {"maximum", kMaxRunSeconds}}},
            {"wholeLaps", {{"type", "boolean"}}},
            {"keepsSound", {{"type", "boolean"}}}}}}},
        {"table",
         {{"type", "object"},
          {"properties",
           {{"columns", {{"type", "array"}, {"maxItems", kMostTitleColumns}, {"items", {{"type", "string"}}}}},
            {"rows", {{"type", "array"}, {"maxItems", kMostTitleRows}, {"items", {{"type", "array"}, {"items", {{"type", "string"}}}}}}}}},
          {"required", {"columns"}}}},
        {"layers", inside}}},
      {"required", {"overagain"}},
      {"$defs", defs}};
}

}  // namespace oa
