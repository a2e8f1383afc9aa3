// Where the pixels of a row read a tiled picture.
#pragma once

#include <cstdint>

#include "image/tiled.h"

namespace oa {

/// A fold of one axis, in floats counted from a tile near the places: what lies beyond a tile comes back into it.
struct TileFold {
  float perPeriod = 0;  ///< 0: not tiled
  float period = 0;
  float mirror = 0;  ///< 1: every other tile is turned
  float middle = 0;  ///< from a tile's beginning to its first pixel
  float least = 0;
  float most = 0;
  float odd = 0;  ///< 1: the tile that places are counted from is an odd one
  TileFold(const TileAxis& axis, std::int64_t tile);
};

/// Places on a line, (u, v) being the first and (du, dv) the way from one to the next, in pixels of the picture.
struct TileLine {
  TileFold across;
  TileFold down;
  float u, v;
  float du, dv;
  int stagger;  ///< as Tiling has it
  float by;     ///< pixels from one staggered row or column of tiles to the next
};

/// The places of `n` pixels on the picture with its border. Buffers have room for n rounded up to kSpanPadding.
void foldedPlaces(const TileLine& line, int n, float* x, float* y);

/// `n` places from `at` on, each `step` further, held within -2 and size + 1: the first of the four columns that each reads, counted with
/// the border, and how far beyond the second it lies. Buffers as above.
void columnPlaces(double at, double step, int size, int n, std::int32_t* columns, float* shares);

/// Multiplies the colours of `n` premultiplied RGBA pixels by `gain`, in place, none above its alpha. No more is written.
void gained(float* rgba, int n, float gain);

}  // namespace oa
