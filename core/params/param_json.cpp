#include "params/param_json.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "base/utf8.h"
#include "image/tone_curve.h"

namespace oa {

Result<double> shareFromJson(const Json& json, const std::string& path) {
  if (!json.is_number()) return fail("must be a number", path);
  const double v = json.get<double>();
  if (!(v >= 0 && v <= 1)) return fail(numberText(v) + " is not between 0 and 1", path);
  return v;
}

namespace {

Status checkNumber(const ParamSpec& spec, double v, const std::string& path) {
  if (!std::isfinite(v)) return fail("must be a finite number", path);
  if (v < spec.min) return fail(numberText(v) + " is below " + numberText(spec.min), path);
  if (v > spec.max) return fail(numberText(v) + " is above " + numberText(spec.max), path);
  if (spec.isWhole() && v != std::floor(v)) return fail(numberText(v) + " must be a whole number", path);
  return {};
}

Result<Curve> curveFromJson(const Json& json, const std::string& path) {
  if (!json.is_array()) return fail("must be a list of points like [[0, 0], [1, 1]]", path);
  if (json.size() < 2 || json.size() > kMaxCurvePoints) return fail("must have 2 to " + std::to_string(kMaxCurvePoints) + " points", path);
  Curve curve;
  for (std::size_t i = 0; i < json.size(); ++i) {
    const std::string here = path + "[" + std::to_string(i) + "]";
    const Json& item = json[i];
    if (!item.is_array() || item.size() != 2 || !item[0].is_number() || !item[1].is_number())
      return fail("must be two numbers like [0.5, 0.7]", here);
    const Point p{item[0].get<double>(), item[1].get<double>()};
    if (!(p.x >= 0 && p.x <= 1 && p.y >= 0 && p.y <= 1)) return fail("both numbers must be between 0 and 1", here);
    if (!curve.empty() && p.x <= curve.back().x) return fail("must lie to the right of the point before it", here);
    curve.push_back(p);
  }
  return curve;
}

// A path alone, or what is known of the file with it.
Result<MediaRef> mediaRefFromJson(const Json& json, const std::string& path) {
  MediaRef ref;
  const Json& name = json.is_object() && json.contains("path") ? json["path"] : json;
  if (!name.is_string()) return fail("must be the path of a file in quotes, not " + quoted(json), path);
  ref.path = name.get<std::string>();
  if (ref.path.size() > kMaxPathBytes) return fail("is a path of more than " + std::to_string(kMaxPathBytes) + " bytes", path);
  if (std::any_of(ref.path.begin(), ref.path.end(), [](char c) { return static_cast<unsigned char>(c) < 32; }))
    return fail("is a path with control characters in it", path);
  if (!json.is_object()) return ref;
  const auto whole = [&](const char* key, double most, auto& to) -> Status {
    if (!json.contains(key)) return {};
    const Json& v = json[key];
    if (!v.is_number() || v.get<double>() != std::floor(v.get<double>()) || v.get<double>() < 0 || v.get<double>() > most)
      return fail(quoted(v) + " is not a whole number from 0 to " + numberText(most), path + "." + key);
    to = static_cast<std::decay_t<decltype(to)>>(v.get<double>());
    return {};
  };
  if (auto ok = whole("bytes", 1e15, ref.bytes); !ok) return tl::unexpected(ok.error());
  if (auto ok = whole("width", 65500, ref.width); !ok) return tl::unexpected(ok.error());
  if (auto ok = whole("height", 65500, ref.height); !ok) return tl::unexpected(ok.error());
  if (auto ok = whole("pictures", 1e9, ref.pictures); !ok) return tl::unexpected(ok.error());
  if (json.contains("seconds")) {
    const Json& v = json["seconds"];
    if (!v.is_number() || !(v.get<double>() >= 0 && v.get<double>() <= kMostMediaSeconds))
      return fail(quoted(v) + " is not a number from 0 to " + numberText(kMostMediaSeconds), path + ".seconds");
    ref.seconds = v.get<double>();
  }
  if (json.contains("sha256")) {
    const Json& hash = json["sha256"];
    const auto isHex = [](char c) { return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'f'); };
    if (!hash.is_string() || hash.get<std::string>().size() != 64 ||
        !std::all_of(hash.get_ref<const std::string&>().begin(), hash.get_ref<const std::string&>().end(), isHex))
      return fail("must be 64 digits from 0 to f", path + ".sha256");
    ref.hash = hash.get<std::string>();
  }
  if (json.contains("data")) {
    const Json& data = json["data"];
    if (!data.is_string()) return fail("must be a file as base64 text", path + ".data");
    auto bytes = base64Bytes(data.get_ref<const std::string&>());
    if (bytes.empty()) return fail("is not base64 text", path + ".data");
    if (bytes.size() > kMostEmbeddedBytes) return fail("is more than a scene file may hold", path + ".data");
    ref.bytes = bytes.size();
    ref.hash = contentHash(bytes);
    ref.data = std::make_shared<const std::string>(std::move(bytes));
  }
  ref.extra = extraOf(json, [](const std::string& k) {
    return k == "path" || k == "bytes" || k == "width" || k == "height" || k == "pictures" || k == "seconds" || k == "sha256" ||
           k == "data";
  });
  return ref;
}

// One of many, and what is different with it: {"copy": [0, 3], "by": [10, -4], "turn": 15, "size": 1.2, "colour": "#c8472b"} or
// {"copy": [0, 4], "out": true}.
Result<CopyChange> copyChangeFromJson(const Json& json, const std::string& path) {
  const auto isKey = [](const Json& v) {
    return v.is_number() && v.get<double>() == std::floor(v.get<double>()) && v >= 0 && v <= 4294967295.0;
  };
  if (!json.is_object() || !json.contains("copy") || !json["copy"].is_array() || json["copy"].size() != 2 || !isKey(json["copy"][0]) ||
      !isKey(json["copy"][1]))
    return fail("must name a copy by two whole numbers, like {\"copy\": [0, 3], \"out\": true}", path);
  CopyChange change;
  change.copy = static_cast<std::uint64_t>(json["copy"][0].get<double>()) << 32 | static_cast<std::uint64_t>(json["copy"][1].get<double>());
  const auto number = [&](const Json& v, double low, double high, const std::string& here) -> Result<double> {
    if (!v.is_number() || !(v.get<double>() >= low && v.get<double>() <= high))
      return fail("must be a number from " + numberText(low) + " to " + numberText(high) + ", not " + quoted(v), here);
    return v.get<double>();
  };
  for (const auto& [key, value] : json.items()) {
    const std::string here = path + "." + key;
    if (key == "copy") continue;
    if (key == "out") {
      if (!value.is_boolean()) return fail("must be true or false", here);
      change.out = value.get<bool>();
    } else if (key == "by") {
      if (!value.is_array() || value.size() != 2) return fail("must be two numbers like [10, -4], not " + quoted(value), here);
      if (auto ok = take(number(value[0], -kMostCopyOffset, kMostCopyOffset, here + "[0]"), change.by.x); !ok)
        return tl::unexpected(ok.error());
      if (auto ok = take(number(value[1], -kMostCopyOffset, kMostCopyOffset, here + "[1]"), change.by.y); !ok)
        return tl::unexpected(ok.error());
    } else if (key == "turn") {
      if (auto ok = take(number(value, -36000, 36000, here), change.turn); !ok) return tl::unexpected(ok.error());
    } else if (key == "size") {
      if (auto ok = take(number(value, 0, kMostCopySize, here), change.size); !ok) return tl::unexpected(ok.error());
    } else if (key == "colour") {
      auto colour = value.is_string() ? parseColour(value.get<std::string>()) : Result<Colour>(fail("must be a colour like \"#1f7672\""));
      if (!colour) return fail(colour.error().message, here);
      change.colour = *colour;
    }
  }
  change.extra = extraOf(
      json, [](const std::string& k) { return k == "copy" || k == "out" || k == "by" || k == "turn" || k == "size" || k == "colour"; });
  return change;
}

Result<CopyChanges> copyChangesFromJson(const Json& json, const std::string& path) {
  if (!json.is_array()) return fail("must be a list of copies like [{\"copy\": [0, 3], \"out\": true}], not " + quoted(json), path);
  if (json.size() > kMostCopyChanges) return fail("has more than " + std::to_string(kMostCopyChanges) + " copies", path);
  CopyChanges changes;
  for (std::size_t i = 0; i < json.size(); ++i) {
    auto change = copyChangeFromJson(json[i], path + "[" + std::to_string(i) + "]");
    if (!change) return tl::unexpected(change.error());
    changes.put(*change);
  }
  return changes;
}

Json copyChangesToJson(const CopyChanges& changes) {
  Json list = Json::array();
  for (const CopyChange& change : changes.list) {
    Json item = {{"copy", {change.copy >> 32, change.copy & 0xffffffffU}}};
    if (change.out) item["out"] = true;
    if (change.by != Point{}) item["by"] = {change.by.x, change.by.y};
    if (change.turn != 0) item["turn"] = change.turn;
    if (change.size != 1) item["size"] = change.size;
    if (change.colour) item["colour"] = colourText(*change.colour);
    addExtra(item, change.extra);
    list.push_back(std::move(item));
  }
  return list;
}

Json mediaRefToJson(const MediaRef& ref) {
  if (ref.bytes == 0 && ref.hash.empty() && ref.width == 0 && ref.height == 0 && ref.seconds == 0 && !ref.data && ref.extra.empty())
    return ref.path;
  Json json = {{"path", ref.path}};
  if (ref.bytes != 0) json["bytes"] = ref.bytes;
  if (ref.width != 0) json["width"] = ref.width;
  if (ref.height != 0) json["height"] = ref.height;
  if (ref.pictures != 0) json["pictures"] = ref.pictures;
  if (ref.seconds != 0) json["seconds"] = ref.seconds;
  if (!ref.hash.empty()) json["sha256"] = ref.hash;
  if (ref.data) json["data"] = base64Text(*ref.data);
  addExtra(json, ref.extra);
  return json;
}

Result<Pace> paceFromJson(const Json& json, const std::string& path) {
  Result<Pace> pace = fail("must be an easing as CSS writes it, or four numbers");
  if (json.is_string()) pace = Pace::fromCss(json.get<std::string>());
  if (json.is_array() && json.size() == 4 && std::all_of(json.begin(), json.end(), [](const Json& v) { return v.is_number(); }))
    pace = Pace::fromBezier(json[0].get<double>(), json[1].get<double>(), json[2].get<double>(), json[3].get<double>());
  if (!pace) return fail(pace.error().message, path);
  return pace;
}

Result<int> wholeFromJson(const Json& json, int low, int high, const std::string& path) {
  if (!json.is_number() || json.get<double>() != std::floor(json.get<double>()) || json.get<double>() < low || json.get<double>() > high)
    return fail(quoted(json) + " is not a whole number from " + std::to_string(low) + " to " + std::to_string(high), path);
  return static_cast<int>(json.get<double>());
}

Result<std::vector<Keyframe>> keysFromJson(const ParamSpec& spec, const Json& json, const std::string& path) {
  if (!json.is_array()) return fail("must be a list of keyframes like {\"at\": 0.25, \"value\": 1}", path);
  if (json.size() > kMaxKeyframes) return fail("has more than " + std::to_string(kMaxKeyframes) + " keyframes", path);
  Motion motion;
  for (std::size_t i = 0; i < json.size(); ++i) {
    const std::string here = path + "[" + std::to_string(i) + "]";
    const Json& item = json[i];
    if (!item.is_object() || !item.contains("at") || !item.contains("value"))
      return fail("must be a keyframe like {\"at\": 0.25, \"value\": 1}", here);
    Keyframe key;
    const auto at = shareFromJson(item["at"], here + ".at");
    if (!at) return tl::unexpected(at.error());
    // A keyframe at the very end is the first one come round again.
    if (*at >= 1) return fail("must be below 1: the end of a lap is its beginning", here + ".at");
    key.at = *at;
    auto value = valueFromJson(spec, item["value"], here + ".value");
    if (!value) return tl::unexpected(value.error());
    key.value = std::move(*value);
    if (item.contains("hold")) {
      if (!item["hold"].is_boolean()) return fail("must be true or false", here + ".hold");
      key.hold = item["hold"].get<bool>();
    }
    if (item.contains("pace")) {
      auto pace = paceFromJson(item["pace"], here + ".pace");
      if (!pace) return tl::unexpected(pace.error());
      key.pace = *pace;
    }
    key.extra = extraOf(item, [](const std::string& k) { return k == "at" || k == "value" || k == "hold" || k == "pace"; });
    placeKeyframe(motion, std::move(key));
  }
  return motion.keys;
}

Result<std::vector<Value>> listFromJson(const ParamSpec& spec, const Json& json, const std::string& path) {
  if (!json.is_array()) return fail("must be a list of values", path);
  if (json.size() > kMaxKnots) return fail("has more than " + std::to_string(kMaxKnots) + " values", path);
  std::vector<Value> list;
  for (std::size_t i = 0; i < json.size(); ++i) {
    auto value = valueFromJson(spec, json[i], path + "[" + std::to_string(i) + "]");
    if (!value) return tl::unexpected(value.error());
    list.push_back(std::move(*value));
  }
  return list;
}

Json paceToJson(const Pace& pace) {
  return pace.kind() == Pace::Kind::Bezier && pace.name().empty() ? Json(pace.bezier()) : Json(pace.css());
}

Result<Formula> formulaFromJson(const Json& motion, const std::string& path) {
  FormulaClosing closing = FormulaClosing::Open;
  if (motion.contains("closing")) {
    const Json& value = motion["closing"];
    const auto named = formulaClosingFromName(value.is_string() ? value.get<std::string>() : quoted(value));
    if (!named) return fail(named.error().message, path.substr(0, path.rfind('.')) + ".closing");
    closing = *named;
  }
  auto formula = Formula::fromText(motion["formula"].get<std::string>(), closing);
  return formula ? std::move(formula) : fail(formula.error().message, path);
}

Result<LeaderRef> leaderFromJson(const Json& json, const std::string& path) {
  if (!json.is_object()) return fail("must be an object like {\"layer\": 2, \"step\": 3, \"value\": \"size\"}, not " + quoted(json), path);
  LeaderRef ref;
  const std::pair<const char*, int LeaderRef::*> ids[] = {
      {"layer", &LeaderRef::layer}, {"step", &LeaderRef::step}, {"item", &LeaderRef::item}};
  for (const auto& [key, member] : ids) {
    if (!json.contains(key)) continue;
    const auto id = wholeFromJson(json[key], 0, kMaxId, path + "." + key);
    if (!id) return tl::unexpected(id.error());
    ref.*member = *id;
  }
  if (!json.contains("value") || !json["value"].is_string() || json["value"].get_ref<const std::string&>().size() > 100)
    return fail("has no \"value\" that names what is followed", path);
  ref.param = json["value"].get<std::string>();
  return ref;
}

Json leaderToJson(const LeaderRef& ref) {
  Json json = {{"layer", ref.layer}};
  if (ref.step != 0) json["step"] = ref.step;
  if (ref.item != 0) json["item"] = ref.item;
  json["value"] = ref.param;
  return json;
}

Result<Motion> motionFromJson(const ParamSpec& spec, const Value& base, const Json& json, const std::string& path) {
  if (!json.is_object()) return fail("must be an object like {\"kind\": \"swing\"}, not " + quoted(json), path);
  Motion motion;
  motion.far = base;
  Json unknown = Json::object();
  for (const auto& [key, value] : json.items()) {
    const std::string here = path + "." + key;
    if (key == "kind") {
      const std::string name = value.is_string() ? value.get<std::string>() : quoted(value);
      const auto allowed = allowedMotions(spec);
      const auto found = std::find_if(allowed.begin(), allowed.end(), [&](MotionKind k) { return motionName(k) == name; });
      if (found == allowed.end()) {
        std::string list;
        for (const MotionKind k : allowed) list += (list.empty() ? "" : ", ") + std::string(motionName(k));
        return fail("\"" + quoted(value) + "\" is not a motion of this parameter; use one of: " + list, here);
      }
      motion.kind = *found;
    } else if (key == "laps") {
      if (!value.is_number() || value.get<double>() != std::floor(value.get<double>()) || value.get<double>() == 0 ||
          std::abs(value.get<double>()) > kMaxLaps)
        return fail(quoted(value) + " is not a whole number of laps from 1 to " + std::to_string(kMaxLaps) + " (negative runs backwards)",
                    here);
      motion.laps = static_cast<int>(value.get<double>());
    } else if (key == "start") {
      const auto start = shareFromJson(value, here);
      if (!start) return tl::unexpected(start.error());
      motion.start = fract(*start);
    } else if (key == "pace") {
      auto pace = paceFromJson(value, here);
      if (!pace) return tl::unexpected(pace.error());
      motion.pace = *pace;
    } else if (key == "shape") {
      const auto shape = swingShapeFromName(value.is_string() ? value.get<std::string>() : quoted(value));
      if (!shape) return fail(shape.error().message, here);
      motion.shape = *shape;
    } else if (key == "shares") {
      if (!value.is_array() || value.size() != 3) return fail("must be three shares: up, hold, down", here);
      double shares[3];
      for (std::size_t i = 0; i < 3; ++i) {
        const auto share = shareFromJson(value[i], here + "[" + std::to_string(i) + "]");
        if (!share) return tl::unexpected(share.error());
        shares[i] = *share;
      }
      if (shares[0] + shares[1] + shares[2] > 1 + 1e-9) return fail("the shares add up to more than 1", here);
      motion.shares = {shares[0], shares[1], shares[2]};
    } else if (key == "to") {
      auto far = valueFromJson(spec, value, here);
      if (!far) return tl::unexpected(far.error());
      motion.far = *far;
    } else if (key == "keys") {
      if (auto ok = take(keysFromJson(spec, value, here), motion.keys); !ok) return tl::unexpected(ok.error());
    } else if (key == "knots") {
      if (auto ok = take(wholeFromJson(value, 1, kMaxKnots, here), motion.knots); !ok) return tl::unexpected(ok.error());
    } else if (key == "seed") {
      if (auto ok = take(wholeFromJson(value, 0, 999999, here), motion.seed); !ok) return tl::unexpected(ok.error());
    } else if (key == "band") {
      const auto band = soundBandFromName(value.is_string() ? value.get<std::string>() : quoted(value));
      if (!band) return fail(band.error().message, here);
      motion.band = *band;
    } else if (key == "flicker" || key == "over") {
      const auto share = shareFromJson(value, here);
      if (!share) return tl::unexpected(share.error());
      (key == "over" ? motion.over : motion.flicker) = *share;
    } else if (key == "formula") {
      if (!value.is_string()) return fail("must be a formula in quotes, not " + quoted(value), here);
      if (auto ok = take(formulaFromJson(json, here), motion.formula); !ok) return tl::unexpected(ok.error());
    } else if (key == "closing") {
      // Read with the formula.
    } else if (key == "follows") {
      if (auto ok = take(leaderFromJson(value, here), motion.follows); !ok) return tl::unexpected(ok.error());
    } else if (key == "scale") {
      if (!value.is_number() || std::abs(value.get<double>()) > kMaxFollowScale)
        return fail(quoted(value) + " is not a number from " + numberText(-kMaxFollowScale) + " to " + numberText(kMaxFollowScale), here);
      motion.scale = value.get<double>();
    } else if (key == "values") {
      if (auto ok = take(listFromJson(spec, value, here), motion.list); !ok) return tl::unexpected(ok.error());
    } else {
      unknown[key] = value;
    }
  }
  if (!unknown.empty()) motion.extra = unknown.dump();
  return motion;
}

// Also what a motion does not use now is kept, so that a value set moving again remembers how it moved.
Json motionToJson(const ParamSpec& spec, const Value& base, const Motion& motion) {
  const Motion plain;
  Json json = {{"kind", motionName(motion.kind)}, {"laps", motion.laps}};
  if (motion.start != 0) json["start"] = motion.start;
  if (motion.pace != plain.pace) json["pace"] = paceToJson(motion.pace);
  if (motion.shape != SwingShape::Sine) json["shape"] = swingShapeName(motion.shape);
  if (motion.shares != HoldShares()) json["shares"] = {motion.shares.up, motion.shares.hold, motion.shares.down};
  if (motion.kind == MotionKind::Swing || motion.far != base) json["to"] = valueToJson(spec, motion.far);
  if (!motion.keys.empty()) {
    Json keys = Json::array();
    for (const Keyframe& k : motion.keys) {
      Json key = {{"at", k.at}, {"value", valueToJson(spec, k.value)}};
      if (k.pace != plain.pace) key["pace"] = paceToJson(k.pace);
      if (k.hold) key["hold"] = true;
      addExtra(key, k.extra);
      keys.push_back(std::move(key));
    }
    json["keys"] = std::move(keys);
  }
  if (motion.band != plain.band) json["band"] = soundBandName(motion.band);
  if (motion.flicker != plain.flicker) json["flicker"] = motion.flicker;
  if (motion.over != plain.over) json["over"] = motion.over;
  if (motion.kind == MotionKind::Formula || motion.formula != plain.formula) json["formula"] = motion.formula.text();
  if (motion.formula.closing() != FormulaClosing::Open) json["closing"] = formulaClosingName(motion.formula.closing());
  if (motion.follows != plain.follows) json["follows"] = leaderToJson(motion.follows);
  if (motion.scale != plain.scale) json["scale"] = motion.scale;
  if (motion.knots != plain.knots) json["knots"] = motion.knots;
  if (motion.seed != plain.seed) json["seed"] = motion.seed;
  if (!motion.list.empty()) {
    Json list = Json::array();
    for (const Value& v : motion.list) list.push_back(valueToJson(spec, v));
    json["values"] = std::move(list);
  }
  addExtra(json, motion.extra);
  return json;
}

}  // namespace

std::string quoted(const Json& json) {
  std::string text = json.is_string() ? json.get<std::string>() : json.dump(-1, ' ', false, Json::error_handler_t::replace);
  if (text.size() > 40) text = text.substr(0, 37) + "...";
  return text;
}

std::string extraOf(const Json& json, const std::function<bool(const std::string& key)>& known) {
  Json extra = Json::object();
  for (const auto& [key, value] : json.items())
    if (!known(key)) extra[key] = value;
  return extra.empty() ? std::string() : extra.dump();
}

void addExtra(Json& json, const std::string& extra) {
  if (extra.empty()) return;
  const Json kept = Json::parse(extra, nullptr, false);
  for (const auto& [key, value] : kept.items()) json[key] = value;
}

Status checkValue(const ParamSpec& spec, const Value& value, const std::string& path) {
  if (value.index() != spec.base.index()) return fail("must be a " + std::string(typeName(spec.type)), path);
  if (const auto* number = std::get_if<double>(&value)) return checkNumber(spec, *number, path);
  if (const auto* point = std::get_if<Point>(&value)) {
    if (auto x = checkNumber(spec, point->x, path + "[0]"); !x) return x;
    return checkNumber(spec, point->y, path + "[1]");
  }
  if (const auto* outline = std::get_if<Outline>(&value)) {
    if (outline->points.empty() || outline->points.size() > kMostOutlinePoints)
      return fail("must have 1 to " + std::to_string(kMostOutlinePoints) + " points", path);
    for (const OutlinePoint& p : outline->points)
      for (const Point part : {p.at, p.before, p.after})
        for (const double v : {part.x, part.y})
          if (auto ok = checkNumber(spec, v, path); !ok) return ok;
    return {};
  }
  if (const auto* text = std::get_if<Text>(&value)) {
    if (text->text.size() > kMostTextBytes) return fail("is longer than " + std::to_string(kMostTextBytes) + " bytes", path);
    if (!isUtf8(text->text)) return fail("is not UTF-8", path);
    return {};
  }
  if (const auto* choice = std::get_if<std::string>(&value)) {
    if (std::find(spec.choices.begin(), spec.choices.end(), *choice) != spec.choices.end()) return {};
    std::string list;
    for (const auto c : spec.choices) list += (list.empty() ? "" : ", ") + std::string(c);
    return fail("\"" + choice->substr(0, 40) + "\" is not one of: " + list, path);
  }
  return {};
}

Result<Value> valueFromJson(const ParamSpec& spec, const Json& json, const std::string& path) {
  Value value = spec.base;
  if (spec.isScalar() || spec.type == ParamType::Layer) {
    if (!json.is_number()) return fail("must be a number, not " + quoted(json), path);
    value = json.get<double>();
  } else if (spec.type == ParamType::Point) {
    if (!json.is_array() || json.size() != 2 || !json[0].is_number() || !json[1].is_number())
      return fail("must be two numbers like [0.5, 0.5], not " + quoted(json), path);
    value = Point{json[0].get<double>(), json[1].get<double>()};
  } else if (spec.type == ParamType::Colour) {
    if (!json.is_string()) return fail("must be a colour like \"#1f7672\", not " + quoted(json), path);
    auto colour = parseColour(json.get<std::string>());
    if (!colour) return fail(colour.error().message, path);
    value = *colour;
  } else if (spec.type == ParamType::Choice) {
    if (!json.is_string()) return fail("must be a word in quotes, not " + quoted(json), path);
    value = json.get<std::string>();
  } else if (spec.type == ParamType::Outline) {
    if (!json.is_string()) return fail("must be SVG path data like \"M0 0 L100 0 L50 80 Z\", not " + quoted(json), path);
    auto outline = outlineFromPath(json.get_ref<const std::string&>());
    if (!outline) return fail(outline.error().message, path);
    value = std::move(*outline);
  } else if (spec.type == ParamType::File) {
    auto ref = mediaRefFromJson(json, path);
    if (!ref) return tl::unexpected(ref.error());
    value = std::move(*ref);
  } else if (spec.type == ParamType::Text || spec.type == ParamType::Font) {
    if (!json.is_string()) return fail("must be a text in quotes, not " + quoted(json), path);
    value = Text{json.get<std::string>()};
  } else if (spec.type == ParamType::Copies) {
    auto changes = copyChangesFromJson(json, path);
    if (!changes) return tl::unexpected(changes.error());
    value = std::move(*changes);
  } else if (spec.type == ParamType::Toggle) {
    if (!json.is_boolean()) return fail("must be true or false, not " + quoted(json), path);
    value = json.get<bool>();
  } else {
    auto curve = curveFromJson(json, path);
    if (!curve) return tl::unexpected(curve.error());
    value = std::move(*curve);
  }
  if (auto ok = checkValue(spec, value, path); !ok) return tl::unexpected(ok.error());
  return value;
}

Json valueToJson(const ParamSpec&, const Value& value) {
  if (const auto* number = std::get_if<double>(&value)) {
    // Whole numbers are written without a fraction, so that files stay pleasant to read.
    if (*number == std::floor(*number) && std::abs(*number) < 1e15) return static_cast<std::int64_t>(*number);
    return *number;
  }
  if (const auto* point = std::get_if<Point>(&value)) return Json::array({point->x, point->y});
  if (const auto* colour = std::get_if<Colour>(&value)) return colourText(*colour);
  if (const auto* choice = std::get_if<std::string>(&value)) return *choice;
  if (const auto* toggle = std::get_if<bool>(&value)) return *toggle;
  if (const auto* file = std::get_if<MediaRef>(&value)) return mediaRefToJson(*file);
  if (const auto* outline = std::get_if<Outline>(&value)) return pathText(*outline);
  if (const auto* text = std::get_if<Text>(&value)) return text->text;
  if (const auto* changes = std::get_if<CopyChanges>(&value)) return copyChangesToJson(*changes);
  Json list = Json::array();
  for (const Point& p : std::get<Curve>(value)) list.push_back(Json::array({p.x, p.y}));
  return list;
}

namespace {

std::string_view farKey(bool leaving) { return leaving ? "leavesTo" : "arrivesFrom"; }

}  // namespace

Result<Param> paramFromJson(const ParamSpec& spec, const Json& json, const std::string& path) {
  Param param;
  // A file's own object has a path.
  const bool full = json.is_object() && !(spec.type == ParamType::File && json.contains("path"));
  if (full && !json.contains("value")) return fail("has no \"value\"", path);
  auto value = valueFromJson(spec, full ? json["value"] : json, path);
  if (!value) return tl::unexpected(value.error());
  param.base = std::move(*value);
  param.motion.far = param.base;
  if (full && json.contains("motion")) {
    auto motion = motionFromJson(spec, param.base, json["motion"], path + ".motion");
    if (!motion) return tl::unexpected(motion.error());
    param.motion = std::move(*motion);
  }
  if (full && json.contains("motions")) {
    const Json& list = json["motions"];
    const std::string here = path + ".motions";
    if (json.contains("motion")) return fail("has both \"motion\" and \"motions\"", path);
    if (!list.is_array() || list.empty()) return fail("must be a list of motions like [{\"kind\": \"swing\"}]", here);
    if (list.size() > kMaxMotions) return fail("has more than " + std::to_string(kMaxMotions) + " motions", here);
    if (list.size() > 1 && !canAddMotions(spec)) return fail("motions of this parameter cannot be added up", here);
    for (std::size_t i = 0; i < list.size(); ++i) {
      auto motion = motionFromJson(spec, param.base, list[i], here + "[" + std::to_string(i) + "]");
      if (!motion) return tl::unexpected(motion.error());
      if (i == 0)
        param.motion = std::move(*motion);
      else
        param.more.push_back(std::move(*motion));
    }
  }
  for (const bool leaving : {false, true}) {
    const std::string key(farKey(leaving));
    if (!full || !json.contains(key)) continue;
    if (!canPass(spec)) return fail("this value cannot arrive or leave by itself", path + "." + key);
    auto far = valueFromJson(spec, json[key], path + "." + key);
    if (!far) return tl::unexpected(far.error());
    param.away.push_back({leaving, std::move(*far)});
  }
  if (full)
    param.extra = extraOf(json, [](const std::string& key) {
      return key == "value" || key == "motion" || key == "motions" || key == farKey(false) || key == farKey(true);
    });
  return param;
}

Json paramToJson(const ParamSpec& spec, const Param& param) {
  Json value = valueToJson(spec, param.base);
  Motion rest;
  rest.far = param.base;
  const bool plain = param.motion == rest && param.more.empty();
  if (plain && param.away.empty() && param.extra.empty()) return value;
  Json json = {{"value", std::move(value)}};
  if (!param.more.empty()) {
    Json list = Json::array();
    for (std::size_t i = 0; i < motionCount(param); ++i) list.push_back(motionToJson(spec, param.base, motionOf(param, i)));
    json["motions"] = std::move(list);
  } else if (!plain) {
    json["motion"] = motionToJson(spec, param.base, param.motion);
  }
  for (const FarValue& far : param.away) json[std::string(farKey(far.leaving))] = valueToJson(spec, far.value);
  addExtra(json, param.extra);
  return json;
}

}  // namespace oa
