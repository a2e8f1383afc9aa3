#include "media/picture_file.h"

#include <algorithm>
#include <filesystem>

#include "image/colour_clusters.h"
#include "store/media_store.h"

namespace oa {

Result<SmallPicture> readSmallPicture(const std::string& path, int longest) {
  MediaStore& store = MediaStore::shared();
  const auto ref = store.takeIn(std::filesystem::absolute(path).lexically_normal().string());
  if (!ref) return fail(ref.error().message, path);
  const double scale = std::min(1.0, static_cast<double>(longest) / std::max(ref->width, ref->height));
  const auto tile =
      store.tile(*ref, static_cast<int>(ref->width * scale), static_cast<int>(ref->height * scale), {Edge::Clamp, Edge::Clamp});
  // It may only show itself as damaged when all of it is read.
  if (auto there = store.look(*ref); !there) return fail(there.error().message, path);
  if (!tile) return fail("cannot be read: there is not enough memory", path);
  SmallPicture picture{tile->width, tile->height, {}};
  for (int y = 0; y < tile->height; ++y) {
    const float* in = tile->plane.row(y + kTileBorder) + static_cast<std::ptrdiff_t>(kTileBorder) * 4;
    for (int x = 0; x < tile->width; ++x, in += 4) {
      const float over = in[3] > 0 ? 1 / in[3] : 0;
      picture.pixels.push_back({in[0] * over, in[1] * over, in[2] * over, in[3]});
    }
  }
  return picture;
}

Result<Palette> paletteFromPicture(const std::string& path, int colours) {
  const auto picture = readSmallPicture(path, 160);
  if (!picture) return tl::unexpected(picture.error());
  Palette palette{std::filesystem::path(path).stem().string(), mainColours(picture->pixels, colours)};
  if (palette.colours.empty()) return fail("is wholly transparent: there are no colours in it", path);
  return palette;
}

}  // namespace oa
