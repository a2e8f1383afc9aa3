// Stops of gradients and colour maps as items of a step: each with a place along the line and a colour.
#pragma once

#include <span>

#include "params/step_context.h"

namespace oa {

/// The parameters of a stop: `at` and `colour`.
std::span<const ParamSpec> stopParams();
inline constexpr std::size_t kStopAt = 0;
inline constexpr std::size_t kStopColour = 1;

/// A stop at rest.
Item stopItem(const Stop& stop);
/// The stops of a step whose items they are, as they stand at its moment.
Stops stopsOf(const StepContext& context);
/// The base values of such items.
Stops restingStops(std::span<const Item> items);

}  // namespace oa
