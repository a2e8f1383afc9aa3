// Parameters as JSON: reading with validation, writing.
#pragma once

#include <functional>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <utility>

#include "params/param.h"

namespace oa {

/// Keeps the order of keys, so that files stay pleasant to compare.
using Json = nlohmann::ordered_json;

/// Reads one parameter: a bare value, or {"value": ..., "motion": {...}}, or with several {"value": ..., "motions": [...]}. `path` names
/// the place in error messages. Never accepts a number that is not finite or lies outside the hard range.
Result<Param> paramFromJson(const ParamSpec& spec, const Json& json, const std::string& path);
Json paramToJson(const ParamSpec& spec, const Param& param);

Result<Value> valueFromJson(const ParamSpec& spec, const Json& json, const std::string& path);
Json valueToJson(const ParamSpec& spec, const Value& value);

/// A number from 0 to 1.
Result<double> shareFromJson(const Json& json, const std::string& path);
/// A sentence if the value is not allowed for the parameter.
Status checkValue(const ParamSpec& spec, const Value& value, const std::string& path);

/// What an object holds beside the keys that are known, as text; empty if nothing.
std::string extraOf(const Json& json, const std::function<bool(const std::string& key)>& known);
/// Puts such text back.
void addExtra(Json& json, const std::string& extra);
/// A value for a message: at most 40 bytes of it.
std::string quoted(const Json& json);

/// Moves a result into its place, or hands its error on.
template <class T>
Status take(Result<T> result, T& target) {
  if (!result) return tl::unexpected(result.error());
  target = std::move(*result);
  return {};
}

}  // namespace oa
