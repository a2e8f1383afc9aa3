// Scenes that tests start from.
#pragma once

#include <string>
#include <vector>

#include "scene/scene.h"

namespace oa::test {

/// Paths of the demo scenes, sorted.
std::vector<std::string> demoScenePaths();
/// A demo scene; fails the program if it does not open.
Scene demoScene(const std::string& fileName);

/// A scene of one layer that starts with `source`, on black, of a size that is no multiple of anything.
Scene oneLayer(const std::string& source, int width = 192, int height = 108, int frames = 24);
/// Adds a step to the topmost layer.
RecipeStep& addStep(Scene& scene, const std::string& step);
/// A parameter of a step of a layer; `step` counts from 0, the source. With a number behind its id that of an item, counted from 1:
/// "place3".
Param& param(Scene& scene, std::size_t layer, std::size_t step, const std::string& id);
/// Gives a step so many items: those that it has, and then those that a new one would have.
void setCount(Scene& scene, std::size_t layer, std::size_t step, std::size_t count);
/// Gives a step stops at rest.
void setStops(Scene& scene, std::size_t layer, std::size_t step, const Stops& stops);
/// Sets base value and far end.
void setValue(Scene& scene, std::size_t layer, std::size_t step, const std::string& id, const Value& value);
Motion swing(const Value& far, int laps = 1);
Motion turn(int laps = 1);

}  // namespace oa::test
