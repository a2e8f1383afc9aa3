#include "scene/items_json.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "scene/json_values.h"
#include "scene/scene.h"

namespace oa {
namespace {

Result<Item> itemFromJson(const ItemsSpec& spec, std::size_t i, const Json& json, const std::string& path) {
  if (!json.is_object()) return fail("must be an object like {\"" + std::string(spec.params.front().id) + "\": ...}", path);
  Item item = newItem(spec, i);
  for (const auto& [key, value] : json.items()) {
    const int p = findParam(spec.params, key);
    const std::string here = path + "." + key;
    Status ok;
    if (key == "id")
      ok = take(wholeNumber(value, 1, kMaxId, here), item.id);
    else if (p >= 0)
      ok = take(paramFromJson(spec.params[static_cast<std::size_t>(p)], value, here), item.params[static_cast<std::size_t>(p)]);
    if (!ok) return tl::unexpected(ok.error());
  }
  item.extra = extraOf(json, [&](const std::string& key) { return key == "id" || findParam(spec.params, key) >= 0; });
  return item;
}

// How many there were where their parameters were numbered.
Result<std::size_t> countBefore(const ItemsSpec& spec, const Json& json, const std::string& path) {
  if (!json.contains("count")) return spec.first;
  const Json& count = json["count"];
  auto value =
      wholeNumber(count.is_object() && count.contains("value") ? count["value"] : count, static_cast<int>(spec.least), 16, path + ".count");
  if (!value) return tl::unexpected(value.error());
  return static_cast<std::size_t>(*value);
}

Result<std::vector<Item>> numberedFromJson(const ItemsSpec& spec, const Json& json, const std::string& path,
                                           std::set<std::string>& numbered) {
  const auto count = countBefore(spec, json, path);
  if (!count) return tl::unexpected(count.error());
  numbered.insert("count");
  std::vector<Item> items;
  for (std::size_t i = 0; i < *count; ++i) {
    Item& item = items.emplace_back(newItem(spec, i));
    for (std::size_t p = 0; p < spec.params.size(); ++p) {
      const std::string key = std::string(spec.params[p].id) + std::to_string(i + 1);
      if (!json.contains(key)) continue;
      if (auto ok = take(paramFromJson(spec.params[p], json[key], path + "." + key), item.params[p]); !ok)
        return tl::unexpected(ok.error());
      numbered.insert(key);
    }
  }
  return items;
}

}  // namespace

Result<std::vector<Item>> itemsFromJson(const StepSpec& step, const Json& json, int version, const std::string& path,
                                        std::set<std::string>& numbered) {
  const ItemsSpec& spec = *step.items;
  const std::string id(spec.id);
  if (!json.contains(id)) {
    if (version <= spec.numberedUntil) return numberedFromJson(spec, json, path, numbered);
    return newStep(step).items;
  }
  // Earlier versions kept a list as one value, which could be written in full.
  const Json& list = json[id].is_object() && json[id].contains("value") ? json[id]["value"] : json[id];
  const std::string here = path + "." + id;
  if (!list.is_array()) return fail("must be a list of items like {\"" + std::string(spec.params.front().id) + "\": ...}", here);
  if (list.size() < spec.least) return fail("has fewer than " + std::to_string(spec.least) + " items", here);
  if (list.size() > kMaxItems) return fail("has more than " + std::to_string(kMaxItems) + " items", here);
  std::vector<Item> items;
  for (std::size_t i = 0; i < list.size(); ++i) {
    Item item;
    if (auto ok = take(itemFromJson(spec, i, list[i], here + "[" + std::to_string(i) + "]"), item); !ok) return tl::unexpected(ok.error());
    items.push_back(std::move(item));
  }
  return items;
}

Json itemsToJson(const ItemsSpec& spec, const std::vector<Item>& items) {
  Json list = Json::array();
  for (const Item& item : items) {
    Json one = Json::object();
    if (item.id != 0) one["id"] = item.id;
    for (std::size_t p = 0; p < item.params.size(); ++p) one[std::string(spec.params[p].id)] = paramToJson(spec.params[p], item.params[p]);
    addExtra(one, item.extra);
    list.push_back(std::move(one));
  }
  return list;
}

}  // namespace oa
