#include "mutate.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "base/random.h"

namespace oa::fuzz {
namespace {

using Json = nlohmann::ordered_json;

// What a value may turn into: the ends of number types, wrong types, odd text.
const char* const kOddValues[] = {
    "0",
    "-0",
    "-1",
    "1e308",
    "-1e308",
    "1e-320",
    "9223372036854775807",
    "-9223372036854775808",
    "18446744073709551616",
    "0.1",
    "2.5",
    "1000001",
    "8193",
    "65536",
    "null",
    "true",
    "false",
    "\"\"",
    "\"#12\"",
    "\"#gggggg\"",
    "[]",
    "{}",
    "[[]]",
    "[1]",
    "[1,2,3]",
    "[1e9,-1e9]",
    "\"transparent\"",
    "\"\\u0000\"",
    "\"\\ud800\"",
    "{\"value\":1}",
    "\"nan\"",
    "[null,null]",
    "{\"value\":3,\"motion\":{\"kind\":\"turn\",\"laps\":0}}",
    "{\"value\":5,\"motion\":{\"kind\":\"swing\",\"to\":1e300}}",
    "{\"value\":0.5,\"motion\":{\"kind\":\"swing\",\"shape\":\"hold\",\"shares\":[0,0,0],\"to\":0}}",
    "{\"value\":0.5,\"motions\":[{\"kind\":\"swing\",\"to\":1},{\"kind\":\"wander\",\"seed\":2,\"laps\":3}]}",
    "{\"value\":\"#808080\",\"motions\":[{\"kind\":\"hops\",\"to\":\"#fff\"},{\"kind\":\"swing\",\"to\":\"#000\"}]}",
    "{\"value\":1,\"motion\":{\"kind\":\"turn\"},\"motions\":[]}",
    "[{\"at\":0.5,\"colour\":\"#fff\"}]",
    "[{\"id\":1,\"at\":{\"value\":0,\"motion\":{\"kind\":\"swing\",\"to\":1}}},{\"id\":1}]",
    "[{\"from\":0.9,\"length\":1,\"in\":0.5,\"out\":0.5}]",
    "{\"position\":[9,-8],\"size\":[0.001,100],\"turn\":3600,\"anchor\":[-8,9],\"flip\":\"both\"}",
    "{\"source\":{\"step\":\"below\"},\"grow\":-256,\"soften\":1000,\"invert\":true}",
    "{\"source\":{\"step\":\"linked\",\"layer\":1}}",
    "[{\"at\":0,\"colour\":\"#fff\"},{\"at\":0,\"colour\":\"#000\"}]"};

// Every value of a document, however deep.
void collect(Json& at, std::vector<Json*>& all) {
  all.push_back(&at);
  if (at.is_structured())
    for (Json& child : at) collect(child, all);
}

// Layers into groups, links to whatever there is, ids that stand twice.
void tangle(std::vector<Json*>& all, Dice& dice) {
  std::vector<Json*> layers;
  for (Json* at : all)
    if (at->is_object() && at->contains("recipe") && (*at)["recipe"].is_array() && !(*at)["recipe"].empty()) layers.push_back(at);
  if (layers.empty()) return;
  Json& layer = *layers[dice.roll(layers.size())];
  const Json other = *layers[dice.roll(layers.size())];
  switch (dice.roll(6)) {
    case 5: {
      // Items beyond what anybody has: the same one again and again.
      std::vector<Json*> lists;
      for (Json* at : all)
        if (at->is_array() && !at->empty() && at->front().is_object()) lists.push_back(at);
      if (lists.empty()) break;
      Json& list = *lists[dice.roll(lists.size())];
      const Json again = list[dice.roll(list.size())];
      for (std::size_t i = dice.roll(40); i > 0; --i) list.push_back(again);
      break;
    }
    case 0:
      layer["recipe"][0] = {{"step", "group"}, {"width", dice.roll(300)}, {"cut", dice.roll(2) == 0}, {"laps", 1 + dice.roll(5)}};
      layer["layers"] = Json::array({other});
      break;
    case 1:
      layer["recipe"][0] = {{"step", "linked"}, {"layer", dice.roll(40)}, {"start", 0.25}};
      break;
    case 2:
      layer["mask"] = {{"source", {{"step", "linked"}, {"layer", dice.roll(40)}}}};
      break;
    case 3:
      layer["recipe"][0] = {{"step", "below"}};
      break;
    default:
      layer["id"] = dice.roll(40);
  }
}

std::string structural(const std::string& text, Dice& dice) {
  Json root = Json::parse(text, nullptr, false);
  if (root.is_discarded()) return text;
  std::vector<Json*> all;
  collect(root, all);
  Json& target = *all[dice.roll(all.size())];
  switch (dice.roll(6)) {
    case 5:
      tangle(all, dice);
      break;
    case 0:
      if (target.is_object() && !target.empty()) {
        auto it = target.begin();
        std::advance(it, static_cast<std::ptrdiff_t>(dice.roll(target.size())));
        target.erase(it);
      } else if (target.is_array() && !target.empty()) {
        target.erase(dice.roll(target.size()));
      }
      break;
    case 1:
      if (target.is_array() && !target.empty()) {
        const Json copy = target[dice.roll(target.size())];
        for (std::size_t i = dice.roll(40); i > 0; --i) target.push_back(copy);
      }
      break;
    case 2: {
      const Json copy = *all[dice.roll(all.size())];
      target = copy;
      break;
    }
    case 3: {
      Json deep = target;
      for (std::size_t i = dice.roll(80); i > 0; --i) deep = Json::array({deep});
      target = std::move(deep);
      break;
    }
    default:
      target = Json::parse(kOddValues[dice.roll(std::size(kOddValues))], nullptr, false);
      if (target.is_discarded()) target = nullptr;
  }
  return root.dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::string bytewise(std::string text, const std::vector<std::string>& originals, Dice& dice) {
  if (text.empty()) return text;
  const std::size_t at = dice.roll(text.size());
  switch (dice.roll(5)) {
    case 0:
      text[at] = static_cast<char>(dice.roll(256));
      break;
    case 1:
      text.erase(at, 1 + dice.roll(40));
      break;
    case 2:
      text.insert(at, text.substr(dice.roll(text.size()), dice.roll(200)));
      break;
    case 3: {
      const std::string& other = originals[dice.roll(originals.size())];
      text = text.substr(0, at) + other.substr(dice.roll(other.size()));
      break;
    }
    default:
      text.resize(at);
  }
  return text;
}

}  // namespace

std::size_t Dice::roll(std::size_t n) { return static_cast<std::size_t>(mix64(seed_ ^ mix64(count_++)) % n); }

std::string mutated(const std::vector<std::string>& originals, Dice& dice) {
  std::string text = originals[dice.roll(originals.size())];
  for (std::size_t i = 1 + dice.roll(4); i > 0; --i)
    text = dice.roll(3) > 0 ? structural(text, dice) : bytewise(std::move(text), originals, dice);
  return text;
}

}  // namespace oa::fuzz
