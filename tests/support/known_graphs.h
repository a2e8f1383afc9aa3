// Small scenes of squares, groups and copies whose pictures are known beforehand.
#pragma once

#include <QRect>
#include <string>
#include <utility>
#include <vector>

#include "scene/scene.h"
#include "scene/tree.h"
#include "support/pictures.h"
#include "support/scenes.h"

namespace oa::test {

inline Layer made(const std::string& source, const std::string& name, Id id) {
  Layer layer = newLayer(*findStep(source), name);
  layer.id = id;
  return layer;
}

inline void give(Layer& layer, std::size_t step, const std::string& id, const Value& value) {
  Param& param = layer.recipe.at(step).params.at(static_cast<std::size_t>(findParam(layer.recipe[step].spec->params, id)));
  param.base = param.motion.far = value;
}

inline void place(Layer& layer, PlaceParam which, const Value& value) {
  Param& param = layer.place.at(static_cast<std::size_t>(which));
  param.base = param.motion.far = value;
}

// A still square of 20 x 20 pixels in the middle of 100 x 60.
inline Layer square(Id id, Colour colour = {1, 0, 0, 1}) {
  Layer layer = made("shape", "Square", id);
  give(layer, 0, "width", 20.0);
  give(layer, 0, "height", 20.0);
  give(layer, 0, "corner", 0.0);
  give(layer, 0, "colour", colour);
  return layer;
}

inline Scene sceneOf(std::vector<Layer> layers, int width = 100, int height = 60) {
  Scene scene;
  scene.width = width;
  scene.height = height;
  scene.frames = 24;
  scene.layers = std::move(layers);
  return scene;
}

inline Layer grouped(std::vector<Layer> layers, Id id, const std::string& name = "Group") {
  Layer group = made("group", name, id);
  group.layers = std::move(layers);
  return group;
}

inline Layer linkedTo(Id target, Id id, const std::string& name = "Copy") {
  Layer layer = made("linked", name, id);
  give(layer, 0, "layer", static_cast<double>(target));
  return layer;
}

// The box of all pixels whose red is above a half.
inline QRect redBox(const FloatFrame& f) {
  QRect box;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x)
      if (f.at(x, y, 0) > 0.5f) box |= QRect(x, y, 1, 1);
  return box;
}

}  // namespace oa::test
