#include "store/tile_faces.h"

#include <algorithm>
#include <cmath>
#include <memory>

#include "store/sample.h"

namespace oa {

namespace {

// The picture of a size, in display values, or in light and so many times as light.
std::shared_ptr<const TilePicture> pictureOf(const MediaRef& ref, int width, int height, EdgePair edges,
                                             const std::optional<double>& light) {
  MediaStore& store = MediaStore::shared();
  return light ? store.lightTile(ref, width, height, edges, *light) : store.tile(ref, width, height, edges);
}

std::optional<TileFace> faceWithin(const TilePicture& first, const MediaRef& ref, EdgePair edges, const std::optional<double>& light = {}) {
  const double own = ref.width > 0 && ref.height > 0 ? static_cast<double>(ref.width) / ref.height : kSampleWidth / double{kSampleHeight};
  const double asked = static_cast<double>(first.width) / first.height;
  const bool fills = std::abs(own / asked - 1) < 0.02;
  const double width = fills ? first.width : std::min<double>(first.width, first.height * own);
  const double height = fills ? first.height : std::min<double>(first.height, first.width / own);
  const auto picture = pictureOf(ref, pixelsFor(width, 8192), pixelsFor(height, 8192), fills ? edges : EdgePair(), light);
  if (!picture) return std::nullopt;
  const double timesX = picture->width / width;
  const double timesY = picture->height / height;
  // The centre of a tile lies on the centre of its picture.
  return TileFace{picture->plane.pixels(),
                  picture->width,
                  picture->height,
                  timesX,
                  (picture->width - 1) / 2.0 - (first.width - 1) / 2.0 * timesX,
                  timesY,
                  (picture->height - 1) / 2.0 - (first.height - 1) / 2.0 * timesY,
                  picture};
}

}  // namespace

int pixelsFor(double length, double most) { return static_cast<int>(std::clamp(std::round(length), 1.0, most)); }

std::vector<TileFace> facesWithin(const TilePicture& first, std::span<const MediaRef> others, EdgePair edges) {
  std::vector<TileFace> faces;
  for (const MediaRef& other : others)
    if (auto face = faceWithin(first, other, edges)) faces.push_back(std::move(*face));
  return faces;
}

std::optional<std::vector<TileFace>> facesInLight(const TilePicture& first, const MediaRef& ref, const std::optional<SeamSettings>& seam,
                                                  std::span<const MediaRef> others, EdgePair edges, TileVariety& variety) {
  constexpr double kMostInLight = 1 << 20;
  variety.faces = static_cast<int>(others.size()) + 1;
  variety.workOut();
  if (variety.known.empty() || static_cast<double>(variety.known.size()) * first.width * first.height > kMostInLight) return std::nullopt;
  std::vector<TileFace> faces;
  for (TileLook& look : variety.known) {
    if (look.face > 0) {
      auto face = faceWithin(first, others[static_cast<std::size_t>(look.face - 1)], edges, look.gain);
      if (!face) return std::nullopt;
      faces.push_back(std::move(*face));
    } else {
      auto picture = MediaStore::shared().lightTile(ref, first.width, first.height, edges, look.gain, seam);
      if (!picture) return std::nullopt;
      faces.push_back({.pixels = picture->plane.pixels(), .width = picture->width, .height = picture->height, .keep = picture});
    }
    look.face = static_cast<int>(faces.size());
    look.gain = 1;
  }
  return faces;
}

}  // namespace oa
