// Distances to scattered points, one in each cell of a periodic lattice: the nearest and the second nearest
// (S. Worley, "A Cellular Texture Basis Function", SIGGRAPH 1996; here with points in every cell, periodic, and found by
// blocks: what can be nearest anywhere in a block of pixels is few points).
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <vector>

namespace oa {

/// How distance is measured: round, or mixed with a square's or a diamond's own distance (Chebyshev, Manhattan).
enum class CellCorners { Square, Diamond };

struct CellSettings {
  double u0 = 0, ux = 0.01, uy = 0;  ///< pixel (X, Y) lies at u = u0 + ux X + uy Y, in cells
  double v0 = 0, vx = 0, vy = 0.01;
  int periodX = 1;
  int periodY = 1;
  double scatter = 1;  ///< 0: points in the middle of their cells, 1: anywhere in them
  double orbit = 0;    ///< radius of each point's own circle, in cells, 0 to 0.5
  int turns = 1;       ///< a point makes 1 to so many turns in a lap; 0: none
  double turned = 0;   ///< share of that lap done
  int churn = 0;       ///< places a point passes through in a lap; 0: it stays
  double churned = 0;  ///< share of that lap done
  double roundness = 1;
  CellCorners corners = CellCorners::Square;
  double melt = 0;       ///< cells within which tones of neighbours run into each other; 0: each cell has its own alone
  double edgeReach = 1;  ///< cells: distances to edges are exact below this and held at it
  std::uint32_t seed = 0;
  /// Pixels that blocks will be asked for, from (0, 0): only points near them are worked out beforehand. 0: the whole tile.
  int width = 0;
  int height = 0;
};

/// A point at one moment: its place in cells, counted from its own cell's upper left corner, its tone (0 to 1) and the slope
/// of its facet.
struct CellPoint {
  float x = 0;
  float y = 0;
  float tone = 0;
  float slopeX = 0;
  float slopeY = 0;
};

/// What is known of a pixel: distances in cells, and the tone, on its facet where asked. All are null where they are not wanted.
struct CellSpan {
  float* nearest = nullptr;
  float* second = nullptr;  ///< left as it is where `edge` is wanted
  float* tone = nullptr;    ///< of the nearest point, or of several where they run into each other
  /// Twice the distance to the cell's edge, its corners rounded. For a neighbour p of the nearest point q
  /// it is (|p|^2 - |q|^2) / |p - q|, distances being the pixel's own: lines have one width however near to each other p and q
  /// lie, where the difference of two distances would fill both their cells. Over all neighbours the squares of the reciprocals
  /// are added up, as far as they are above that of edgeReach.
  float* edge = nullptr;
};

class CellField {
 public:
  explicit CellField(const CellSettings& settings, bool facets = false);

  /// Pixels [x0, x0 + n) of rows [y0, y1) within one block (blockSize(), counted from 0, 0); row y of each plane lies (y - y0) * stride
  /// floats further. Planes have room for n rounded up to kSpanPadding.
  void block(int x0, int n, int y0, int y1, const CellSpan& out, std::ptrdiff_t stride) const;

  [[nodiscard]] const CellSettings& settings() const { return settings_; }
  /// Anywhere; points that are not kept are worked out.
  [[nodiscard]] CellPoint pointOf(std::int64_t cellX, std::int64_t cellY) const;
  /// How many are kept.
  [[nodiscard]] std::size_t points() const { return points_.size(); }

  /// Pixels along a row and down that share one search for points.
  struct BlockSize {
    int width = 64;
    int height = 16;
  };
  [[nodiscard]] BlockSize blockSize() const { return blockSize_; }

 private:
  CellSettings settings_;
  BlockSize blockSize_;
  double overflow_ = 0;  // how far points may lie outside their cells
  bool facets_ = false;
  // The kept points: a window of the tile, or all of it.
  std::int64_t windowX_ = 0;
  std::int64_t windowY_ = 0;
  int windowWidth_ = 1;
  int windowHeight_ = 1;
  std::vector<CellPoint> points_;
};

/// The same for one pixel by looking at all points of the tile and its neighbours, in double precision.
struct CellPixel {
  double nearest = 0;
  double second = 0;
  double tone = 0;
  double edge = 0;
};
CellPixel cellReference(const CellField& field, double x, double y);

}  // namespace oa
