// Short ways to say the values of ready-made sources.
#pragma once

#include <initializer_list>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "params/param.h"

namespace oa::ready {

using Setting = std::pair<std::string_view, Value>;

Value named(const char* name);
/// 0xrrggbb, and its opacity of 255.
Value hex(unsigned colour, unsigned alpha = 255);
/// From SVG path data that is known to be right.
Value path(std::string_view data);

Motion swing(Value far, int laps = 1);
Motion turning(int laps);
/// Off for most of the lap, then on for a while.
Motion twinkle(Value far, int laps, HoldShares shares);
/// From pose to pose, evenly over the lap, each stretch with a pace of its own.
Motion poses(std::initializer_list<std::pair<Value, const char*>> poses, int laps = 1);

/// Sets values by name; what is not named stays as it comes.
class Setter {
 public:
  /// Items are emptied first; there may be none.
  Setter(std::span<const ParamSpec> specs, std::span<Param> params, const ItemsSpec* itemsSpec = nullptr,
         std::vector<Item>* items = nullptr);
  Setter& set(std::initializer_list<Setting> settings);
  Setter& movingAll(std::string_view id, const Motion& motion);
  /// One item more.
  Setter& item(std::initializer_list<Setting> settings);
  /// A motion of all items there are by now.
  Setter& moving(std::string_view id, const Motion& motion);

 private:
  Param& of(std::string_view id);
  Param& ofItem(Item& item, std::string_view id) const;

  std::span<const ParamSpec> specs_;
  std::span<Param> params_;
  const ItemsSpec* itemsSpec_;
  std::vector<Item>* items_;
};

}  // namespace oa::ready
