// Steps that read elsewhere: scenes for them, and where each of their pixels is read.
#pragma once

#include <functional>
#include <string>

#include "support/pictures.h"
#include "support/scenes.h"

namespace oa::test {

/// A source with one step behind it; `set` gives the step its values, by id.
using SetValue = std::function<void(const std::string& id, const Value& value)>;
using SetUp = std::function<void(const SetValue& set)>;
inline Scene stepOn(const std::string& source, const std::string& step, const SetUp& setUp = {}, int width = 320, int height = 180) {
  Scene scene = oneLayer(source, width, height);
  if (source == "noise") setValue(scene, 0, 0, "cell", 60.0);
  addStep(scene, step);
  if (setUp) setUp([&](const std::string& id, const Value& value) { setValue(scene, 0, 1, id, value); });
  return scene;
}

/// The scene of stepOn() without its step.
inline Scene without(Scene scene) {
  scene.layers[0].recipe.resize(1);
  return scene;
}

/// Where each pixel of a step is read, in pixels of the frame, told by the colours of two gradients that stop at the frame's edge.
class PlacesRead {
 public:
  PlacesRead(const std::string& step, const SetUp& setUp, std::int64_t frame = 0, int width = 320, int height = 180)
      : across_(along(step, setUp, frame, width, height, false)), down_(along(step, setUp, frame, width, height, true)) {}
  [[nodiscard]] Point at(int x, int y) const {
    return {static_cast<double>(across_.at(x, y, 0)) * across_.width, static_cast<double>(down_.at(x, y, 0)) * down_.height};
  }
  [[nodiscard]] bool inFrame(Point p, double margin = 1) const {
    return p.x > margin && p.y > margin && p.x < across_.width - margin && p.y < across_.height - margin;
  }

 private:
  static FloatFrame along(const std::string& step, const SetUp& setUp, std::int64_t frame, int width, int height, bool down) {
    Scene scene = stepOn("gradient", step, setUp, width, height);
    setValue(scene, 0, 0, "from", down ? Point{0.5, 0} : Point{0, 0.5});
    setValue(scene, 0, 0, "to", down ? Point{0.5, 1} : Point{1, 0.5});
    setValue(scene, 0, 0, "mixing", std::string("display"));
    setStops(scene, 0, 0, Stops{{0, {0, 0, 1, 1}}, {1, {1, 0, 1, 1}}});
    return renderFloat(scene, frame);
  }
  FloatFrame across_, down_;
};

}  // namespace oa::test
