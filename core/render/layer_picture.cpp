#include "render/layer_picture.h"

#include <algorithm>
#include <cmath>

#include "scene/tree.h"

namespace oa {

Result<Frame16> layerPicture(const Scene& scene, Id layer, std::size_t steps, std::int64_t k, int longest,
                             const std::atomic<bool>* cancel) {
  Scene plain = scene;
  Layer* own = findLayer(plain, layer);
  if (!own) return fail("there is no such layer");
  own->recipe.resize(std::min(own->recipe.size(), std::max<std::size_t>(1, steps)));
  own->mask.reset();
  own->place = defaultPlace();
  own->opacity = defaultParam(opacitySpec());
  own->presence = {};
  own->passes = {};
  own->visible = true;
  const Plan plan(plain);
  const int parent = plan.at(plan.indexOf(layer)).parent;
  const Point frame = parent >= 0 ? plan.at(parent).frame : Point{static_cast<double>(plain.width), static_cast<double>(plain.height)};
  const double times = longest > 0 ? std::min(1.0, longest / std::max(frame.x, frame.y)) : 1;
  const auto pixels = [&](double length) { return std::max(1, static_cast<int>(std::lround(length * times))); };
  RenderOptions options;
  options.layer = layer;
  options.cancel = cancel;
  Renderer renderer(plain, pixels(frame.x), pixels(frame.y), options);
  Frame16 made;
  renderInto(renderer, k, made);
  return made;
}

}  // namespace oa
