#include "params/step_context.h"

#include <algorithm>
#include <cassert>

namespace oa {

StepContext::StepContext(std::span<const ParamSpec> specs, std::span<const Param> params, const Moment& at, const PlaneView& view)
    : specs_(specs), params_(params), view_(view) {
  values_.reserve(specs.size());
  for (std::size_t i = 0; i < specs.size(); ++i) values_.push_back(evaluate(specs[i], params[i], at));
}

const ValueAt& StepContext::find(std::string_view id) const {
  const int i = findParam(specs_, id);
  assert(i >= 0 && "a kernel asks for a parameter its table does not declare");
  return values_[static_cast<std::size_t>(i)];
}

double StepContext::baseNumber(std::string_view id) const {
  return std::get<double>(params_[static_cast<std::size_t>(findParam(specs_, id))].base);
}

int findParam(std::span<const ParamSpec> specs, std::string_view id) {
  const auto found = std::find_if(specs.begin(), specs.end(), [&](const ParamSpec& s) { return s.id == id; });
  return found == specs.end() ? -1 : static_cast<int>(found - specs.begin());
}

bool isShown(std::span<const ParamSpec> specs, std::span<const Param> params, std::size_t i) {
  const auto& when = specs[i].shownWhen;
  if (!when) return true;
  const Value& other = params[static_cast<std::size_t>(findParam(specs, when->param))].base;
  if (const auto* number = std::get_if<double>(&other)) return *number >= when->atLeast;
  const auto& choice = std::get<std::string>(other);
  return std::find(when->choices.begin(), when->choices.end(), choice) != when->choices.end();
}

}  // namespace oa
