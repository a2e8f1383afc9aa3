#include "scene/json_values.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "scene/scene.h"

namespace oa {

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

}  // namespace oa
