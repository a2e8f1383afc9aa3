// Parameters as JSON: reading with validation, writing.
#pragma once

#include <string>

#include "params/param.h"

namespace oa {

/// Reads one parameter: a bare value, or {"value": ..., "motion": {...}}. `path` names the place in
/// error messages. Never accepts a number that is not finite or lies outside the hard range.
Result<Param> paramFromJson(const ParamSpec& spec, const Json& json, const std::string& path);
Json paramToJson(const ParamSpec& spec, const Param& param);

Result<Value> valueFromJson(const ParamSpec& spec, const Json& json, const std::string& path);
Json valueToJson(const ParamSpec& spec, const Value& value);

/// A sentence if the value is not allowed for the parameter.
Status checkValue(const ParamSpec& spec, const Value& value, const std::string& path);

/// Most stops that a gradient or colour map may have.
inline constexpr std::size_t kMaxStops = 64;

}  // namespace oa
