// What stands in front only for judging, and is left out of what is handed over: words as a title would have them, a speaker, a menu.
#pragma once

#include <span>

#include "edit/layers.h"

namespace oa::edit {

struct StandIn {
  std::string_view name;
  std::string_view help;
};
/// The ready ones, in the order in which they are offered; the first is what is meant where nobody says which.
std::span<const StandIn> standIns();

/// Puts one in front of everything, as a group of layers that can be changed like others.
Result<Ids> addStandIn(Scene& scene, std::size_t which);
/// Shows all of them, or hides them.
Result<Ids> showStandIns(Scene& scene, bool shown);
[[nodiscard]] bool hasStandIns(const Scene& scene);
/// Whether any of them is seen.
[[nodiscard]] bool standInsShown(const Scene& scene);
/// Makes layers such that are only there for judging, or part of the picture again.
Result<Ids> setStandIn(Scene& scene, const Ids& layers, bool standIn);

}  // namespace oa::edit
