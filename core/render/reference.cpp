#include "render/reference.h"

#include <algorithm>
#include <memory>

namespace oa {
namespace {

using Pixel = std::array<double, 4>;

Pixel curved(Pixel p, double (*curve)(double)) {
  if (p[3] <= 0) return p;
  for (std::size_t i = 0; i < 3; ++i) p[i] = curve(std::min(1.0, p[i] / p[3])) * p[3];
  return p;
}

}  // namespace

std::vector<Pixel> referenceFrame(const Scene& scene, std::int64_t k, int width, int height) {
  const Moment at{k, scene.frames};
  const FrameInfo frame = FrameInfo::cover(scene.width, scene.height, width, height);
  const Colour bg = scene.background.value_or(Colour{0, 0, 0, 0});
  Pixel backdrop{bg.r * bg.a, bg.g * bg.a, bg.b * bg.a, bg.a};
  if (scene.linearLight) backdrop = curved(backdrop, srgbDecode);
  std::vector<Pixel> out(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), backdrop);
  for (const Layer& layer : scene.layers) {
    if (!layer.visible) continue;
    const double opacity = std::get<double>(evaluate(opacitySpec(), layer.opacity, at).value);
    ReferenceField field;
    for (const RecipeStep& step : layer.recipe) {
      if (!step.on && step.spec->kind != StepKind::Source) continue;
      field = step.spec->reference(StepContext(step.spec->params, step.params, at, frame), field);
    }
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; ++x) {
        const ReferencePixel p = field(x, y);
        const double grey = std::clamp(p.v[0], 0.0, 1.0);
        Pixel source = p.channels == 4 ? p.v : Pixel{grey, grey, grey, 1};
        if (scene.linearLight) source = curved(source, srgbDecode);
        Pixel& target = out[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
        target = blendReference(layer.blend, source, opacity, target);
      }
  }
  if (scene.linearLight)
    for (Pixel& p : out) p = curved(p, srgbEncode);
  return out;
}

}  // namespace oa
