// A picture made smaller, without shimmer and without an edge where its edge rule has none.
#pragma once

#include <functional>

#include "image/borders.h"
#include "image/buffer.h"

namespace oa {

/// What lies beyond a picture's sides, across and down.
struct EdgePair {
  Edge across = Edge::Transparent;
  Edge down = Edge::Transparent;
  bool operator==(const EdgePair&) const = default;
};

/// Writes row y of the picture as premultiplied RGBA; called from several threads.
using PictureRow = std::function<void(int y, float* rgba)>;

/// A picture of `width` x `height` pixels as one of `outWidth` x `outHeight`, no larger, by cubic convolution as wide as the step from
/// pixel to pixel asks for (R. G. Keys 1981, a = -1/2), colours held within their alpha. Round it lie `border` pixels more, of what its
/// edge rules put there.
Plane reducedPicture(const PictureRow& row, int width, int height, int outWidth, int outHeight, EdgePair edges, int border);

/// The `border` pixels round a picture of `width` x `height` (four channels) that lies in the middle of `plane`, as the edge rules say.
void surround(Plane& plane, int width, int height, EdgePair edges, int border);

}  // namespace oa
