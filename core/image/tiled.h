// A picture laid beside itself without an end: repeated, mirrored, staggered, with gaps, each tile a little different.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <vector>

#include "base/affine.h"
#include "image/borders.h"
#include "image/buffer.h"
#include "image/plane_view.h"
#include "image/rows.h"

namespace oa {

/// What lies beyond the sides along one axis, and how tiles follow each other there.
struct TileAxis {
  enum class Kind { Nothing, Edge, Repeat, Mirror };
  Kind kind = Kind::Nothing;
  int size = 1;    ///< pixels of the tile's picture
  double gap = 0;  ///< the same between tiles
  [[nodiscard]] bool tiled() const { return kind == Kind::Repeat || kind == Kind::Mirror; }
  [[nodiscard]] double period() const { return size + gap; }
  /// What has to lie round the picture in memory.
  [[nodiscard]] Edge edge() const;
};

/// How one tile of a varied picture differs from the picture.
struct TileLook {
  bool mirrored;
  double moved;
  double gain;
  int face;
};

/// How the tiles of a varied picture differ; the same again after `period` of them, across and down.
struct TileVariety {
  bool on = false;
  double mirrored = 0;  ///< share of them
  double moved = 0;     ///< shares of the picture, at most; what leaves comes in on the other side
  double tinted = 0;    ///< how much lighter or darker, at most
  int faces = 1;        ///< pictures that are drawn from, each as often as any other
  int period = 1;
  std::uint64_t seed = 0;
  std::vector<TileLook> known = {};  ///< of all that differ, row by row, or of none

  [[nodiscard]] TileLook of(std::int64_t column, std::int64_t row) const;
  /// Works out those that differ, if they are few.
  void workOut();
};

/// A place of the plane: in which tile it lies, and where in it, in pixels of the tile's picture.
struct TileSpot {
  std::int64_t column = 0;
  std::int64_t row = 0;
  double x = 0;
  double y = 0;
  double gain = 1;  ///< what its colours are multiplied by
  int face = 0;     ///< which of several pictures it shows
  /// Along each axis: whether a step to the next pixel goes back in the picture (-1), and how far the tile goes on against and along the
  /// way that pixels are counted.
  struct Side {
    double sign = 1;
    double before = 1e9;
    double after = 1e9;
  };
  Side sides[2] = {};
};

struct Tiling {
  TileAxis axes[2];
  Affine to;         ///< from the pixels wanted to those of the tile
  int stagger = 0;   ///< 1: each row of tiles is shifted against the one above it; 2: each column against the one to its left
  double shift = 0;  ///< shares of a tile
  TileVariety variety;
  PixelBox box;                   ///< what can be covered
  bool opaque = false;            ///< all that can be covered is, as the pictures are
  PixelBox solid = {0, 0, 0, 0};  ///< the same of what lies there alone, where sides end
  bool exact = false;             ///< pictures that go on all round are opaque to the bit, and not but for a rounding
  bool light = false;             ///< the pictures are in linear light, and so are the rows; they are read by the cubic B-spline

  [[nodiscard]] TileSpot spotAt(double px, double py) const;
};

/// Pixels that lie round a tile in memory.
inline constexpr int kTileBorder = 3;
/// How far beyond its first and behind its last pixel it is read, all further being alike: no farther than all four that a cubic mixes lie
/// within the border.
inline constexpr double kTileBefore = 2;
inline constexpr double kTileBehind = 63.0 / 64;

/// Of tiles with more pixels than that no other forms are made.
inline constexpr std::ptrdiff_t kMostFormed = std::ptrdiff_t{1} << 20;
/// Whether rows run down the tile: once its rows and columns have changed places, it is upright, and quicker to read.
bool isQuarterTurn(const Tiling& tiling, const PlanePixels& tile);
/// The same of a tile of which they have, and such a tile.
Tiling exchanged(Tiling tiling);
Plane exchanged(const PlanePixels& tile);
/// Whether each pixel is one of the tile's. Into gaps, and beyond what ends, edges are mixed.
bool onlyCopies(const Tiling& tiling);

/// From the pixels of a view to its plane.
Affine planeOf(const PlaneView& view);
/// The same with steps, and a place of the first pixel, that are nearly whole made whole, so that what moves by whole pixels is copied.
Affine withWholeSteps(Affine map);

/// Another picture that tiles may show, in pixels of its own.
struct TileFace {
  PlanePixels pixels;  ///< four channels, with a border of kTileBorder
  int width = 1;       ///< without it
  int height = 1;
  // From the pixels of the first picture to those of this one.
  double timesX = 1, plusX = 0;
  double timesY = 1, plusY = 0;
  std::shared_ptr<const void> keep;
};

/// Rows of `width` pixels of a tiling of `tile` (four channels, with a border of kTileBorder), read by cubic convolution. `keep` holds
/// the tile's memory. Where tiles vary they may show `others` too.
std::unique_ptr<RowMaker> tiledRows(const Tiling& tiling, const PlanePixels& tile, std::shared_ptr<const void> keep, int width,
                                    std::vector<TileFace> others = {});

/// The same for one pixel in plain double precision.
std::array<double, 4> plainTilePixel(const Tiling& tiling, const PlanePixels& tile, const std::vector<TileFace>& others, int x, int y);

}  // namespace oa
