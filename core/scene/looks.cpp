#include "scene/looks.h"

namespace oa {

bool looksSame(const Scene& a, const Scene& b) {
  if (a.width != b.width || a.height != b.height || a.rate != b.rate || a.frames != b.frames || a.background != b.background ||
      a.linearLight != b.linearLight || a.layers.size() != b.layers.size())
    return false;
  for (std::size_t i = 0; i < a.layers.size(); ++i) {
    const Layer& p = a.layers[i];
    const Layer& q = b.layers[i];
    if (p.visible != q.visible || p.blend != q.blend || p.opacity != q.opacity || p.recipe != q.recipe) return false;
  }
  return true;
}

Scene onlyLayer(const Scene& scene, std::size_t layer) {
  Scene alone = scene;
  alone.background.reset();
  alone.layers = {scene.layers[layer]};
  alone.layers[0].visible = true;
  alone.layers[0].blend = BlendMode::Normal;
  return alone;
}

}  // namespace oa
