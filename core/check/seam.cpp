#include "check/seam.h"

#include <algorithm>

#include "image/pack.h"
#include "image/seamless.h"
#include "render/layer_picture.h"
#include "scene/tree.h"
#include "store/media_store.h"

namespace oa {
namespace {

constexpr int kSmall = 960;

Plane planeOf(const Frame16& frame) {
  Plane plane(frame.width, frame.height, 4);
  for (int y = 0; y < frame.height; ++y)
    for (int x = 0; x < frame.width; ++x) {
      const std::uint16_t* const p =
          frame.rgba.data() + (static_cast<std::size_t>(y) * static_cast<std::size_t>(frame.width) + static_cast<std::size_t>(x)) * 4;
      float* const to = plane.row(y) + static_cast<std::ptrdiff_t>(x) * 4;
      to[3] = static_cast<float>(p[3]) / 65535.0f;
      for (int c = 0; c < 3; ++c) to[c] = static_cast<float>(p[c]) / 65535.0f * to[3];
    }
  return plane;
}

SeamReport::Joints jointsOf(const Plane& plane) { return {jointOf(plane, true), jointOf(plane, false)}; }

// A picture from a file, without what lies beyond its sides.
Result<Plane> tileOf(const RecipeStep& step, bool met, int longest) {
  const auto settings = step.spec->ends(step.params);
  const auto& ref = std::get<MediaRef>(step.params[static_cast<std::size_t>(findParam(step.spec->params, "file"))].base);
  const double times = longest > 0 && std::max(ref.width, ref.height) > longest ? double(longest) / std::max(ref.width, ref.height) : 1;
  const auto size = [&](int own) { return std::max(1, static_cast<int>((own > 0 ? own : kSmall) * times)); };
  const auto tile = MediaStore::shared().tile(ref, size(ref.width), size(ref.height), {Edge::Clamp, Edge::Clamp},
                                              met ? settings : std::optional<SeamSettings>());
  if (!tile) return fail("there is not enough memory");
  Plane plane(tile->width, tile->height, 4);
  for (int y = 0; y < tile->height; ++y)
    std::copy_n(tile->plane.row(y + kTileBorder) + std::ptrdiff_t{kTileBorder} * 4, static_cast<std::size_t>(tile->width) * 4,
                plane.row(y));
  return plane;
}

Result<const RecipeStep*> stepOf(const Scene& scene, Id layer, std::size_t step) {
  const Layer* own = findLayer(scene, layer);
  if (!own || step >= own->recipe.size() || !makesEndsMeet(own->recipe[step])) return fail("no ends are made to meet there");
  return &own->recipe[step];
}

}  // namespace

bool makesEndsMeet(const RecipeStep& step) { return step.spec->ends && step.spec->ends(step.params).has_value(); }

Result<SeamReport> measureSeam(const Scene& scene, Id layer, std::size_t step, std::int64_t k) {
  const auto found = stepOf(scene, layer, step);
  if (!found) return tl::unexpected(found.error());
  SeamReport report;
  if ((*found)->spec->kind == StepKind::Source) {
    const auto before = tileOf(**found, false, kSmall);
    const auto after = tileOf(**found, true, kSmall);
    if (!before || !after) return tl::unexpected((before ? after : before).error());
    return SeamReport{jointsOf(*before), jointsOf(*after)};
  }
  const auto before = layerPicture(scene, layer, step, k, kSmall);
  const auto after = layerPicture(scene, layer, step + 1, k, kSmall);
  if (!before || !after) return tl::unexpected((before ? after : before).error());
  return SeamReport{jointsOf(planeOf(*before)), jointsOf(planeOf(*after))};
}

Result<Frame16> seamlessPicture(const Scene& scene, Id layer, std::size_t step, std::int64_t k) {
  const auto found = stepOf(scene, layer, step);
  if (!found) return tl::unexpected(found.error());
  if ((*found)->spec->kind != StepKind::Source) return layerPicture(scene, layer, step + 1, k);
  const auto tile = tileOf(**found, true, 0);
  if (!tile) return tl::unexpected(tile.error());
  Frame16 frame{tile->width(), tile->height(), {}};
  frame.rgba.resize(static_cast<std::size_t>(frame.width) * static_cast<std::size_t>(frame.height) * 4);
  for (int y = 0; y < frame.height; ++y)
    packRgba16(tile->row(y), frame.width, frame.rgba.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(frame.width) * 4);
  return frame;
}

}  // namespace oa
