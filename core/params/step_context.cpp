#include "params/step_context.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace oa {

Values::Values(std::span<const ParamSpec> specs, std::span<const Param> params, const Moment& at)
    : specs_(specs), params_(params), at_(at) {
  values_.reserve(specs.size());
  for (std::size_t i = 0; i < specs.size(); ++i) values_.push_back(evaluate(specs[i], params[i], at));
}

StepContext::StepContext(std::span<const ParamSpec> specs, std::span<const Param> params, const ItemsSpec* itemsSpec,
                         std::span<const Item> items, const Moment& at, const PlaneView& view)
    : Values(specs, params, at), view_(view), runSeconds_(at.runSeconds()) {
  items_.reserve(items.size());
  for (const Item& item : items) items_.emplace_back(itemsSpec->params, item.params, at);
}

const ValueAt& Values::find(std::string_view id) const { return values_[index(id)]; }

std::size_t Values::index(std::string_view id) const {
  const int i = findParam(specs_, id);
  assert(i >= 0 && "a kernel asks for a parameter its table does not declare");
  return static_cast<std::size_t>(i);
}

double Values::baseNumber(std::string_view id) const { return std::get<double>(params_[index(id)].base); }

PassBy Values::passesBy() const {
  if (!at_.passing()) return PassBy::Whole;
  // Where both ways are there, only one of them is under way.
  const auto& way = at_.left > 0 && at_.passes->leave ? at_.passes->leave : at_.passes->arrive;
  return way ? way->by : PassBy::Whole;
}

int findParam(std::span<const ParamSpec> specs, std::string_view id) {
  const auto found = std::find_if(specs.begin(), specs.end(), [&](const ParamSpec& s) { return s.id == id; });
  return found == specs.end() ? -1 : static_cast<int>(found - specs.begin());
}

bool isShown(std::span<const ParamSpec> specs, std::span<const Param> params, std::size_t i) {
  const auto& when = specs[i].shownWhen;
  if (!when) return true;
  const auto holds = [&](std::string_view id, const std::vector<std::string_view>& choices) {
    const auto k = static_cast<std::size_t>(findParam(specs, id));
    // What is not shown itself has nothing to say of others.
    if (!isShown(specs, params, k)) return false;
    const Value& other = params[k].base;
    if (const auto* number = std::get_if<double>(&other)) return std::abs(*number) >= when->atLeast;
    if (const auto* toggle = std::get_if<bool>(&other)) return *toggle;
    const auto* file = std::get_if<MediaRef>(&other);
    const std::string_view held = file ? (file->moving() ? "moving" : "still") : std::string_view(std::get<std::string>(other));
    return std::find(choices.begin(), choices.end(), held) != choices.end();
  };
  if (!when->with.empty() && !holds(when->with, when->withChoices)) return false;
  return holds(when->param, when->choices) || (!when->other.empty() && holds(when->other, when->choices));
}

}  // namespace oa
