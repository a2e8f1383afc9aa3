// A source as a gallery offers it.
#pragma once

#include <span>
#include <string_view>
#include <vector>

#include "params/param.h"

namespace oa {

/// Values of its own for a source's parameters, in the order of its table, and the items that it has.
struct ReadyMade {
  std::string_view name;
  std::string_view help;
  void (*make)(std::span<Param> params, std::vector<Item>& items);
};

}  // namespace oa
