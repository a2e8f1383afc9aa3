// Pictures that varied tiles show within the size of the first one.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "image/seamless.h"
#include "image/tiled.h"
#include "store/media_store.h"

namespace oa {

/// Whole pixels that a length is shown in: 1 to `most`.
int pixelsFor(double length, double most);

/// The others' pictures within tiles of the first one's size: one of nearly its shape fills them, any other lies in their middle, whole.
/// What cannot be had is left out.
std::vector<TileFace> facesWithin(const TilePicture& first, std::span<const MediaRef> others, EdgePair edges);

/// The same of pictures in linear light (MediaStore::lightTile), one for each tile that differs, and `variety` then says which of them it
/// shows: a colour is no lighter than it can be, and that comes before it is mixed with its neighbours, so a tile that is lighter than
/// another is a picture of its own. Nothing where one cannot be had, or where they would hold more than 2^20 pixels.
/// `first` is the picture in light of the file `ref`, whose ends are made to meet by `seam`.
std::optional<std::vector<TileFace>> facesInLight(const TilePicture& first, const MediaRef& ref, const std::optional<SeamSettings>& seam,
                                                  std::span<const MediaRef> others, EdgePair edges, TileVariety& variety);

}  // namespace oa
