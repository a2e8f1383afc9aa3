// Scenes of a repeat, and what of each copy is covered.
#pragma once

#include <string>

#include "scene/scene.h"
#include "support/pictures.h"
#include "support/scenes.h"

namespace oa::test {

inline Param& stamp(Scene& scene, const std::string& id, std::size_t which = 0) {
  RecipeStep& step = scene.layers.back().recipe[0];
  return step.items[which].params[static_cast<std::size_t>(findParam(step.spec->items->params, id))];
}

inline void set(Scene& scene, const std::string& id, const Value& value) { setValue(scene, scene.layers.size() - 1, 0, id, value); }

inline void setStamp(Scene& scene, const std::string& id, const Value& value, std::size_t which = 0) {
  stamp(scene, id, which).base = stamp(scene, id, which).motion.far = value;
}

// White discs on nothing.
inline Scene discs(const std::string& spread, int width = 240, int height = 60, int frames = 24) {
  Scene scene = oneLayer("repeat", width, height, frames);
  scene.background.reset();
  set(scene, "spread", spread);
  set(scene, "thread", 0.0);
  setStamp(scene, "colour", Colour{1, 1, 1, 1});
  setStamp(scene, "size", 20.0);
  return scene;
}

// Four in a row, 60 px apart, the first in the middle of the first 60 x 60.
inline Scene fourInARow(int frames = 24) {
  Scene scene = discs("grid", 240, 60, frames);
  set(scene, "columns", 4.0);
  set(scene, "rows", 1.0);
  set(scene, "distance", Point{60, 60});
  return scene;
}

inline double areaOf(const FloatFrame& f) { return meanOf(f, 3) * f.width * f.height; }
inline double areaOfCopy(const FloatFrame& f, int i) { return areaOf(cut(f, 60 * i, 0, 60, 60)); }

}  // namespace oa::test
