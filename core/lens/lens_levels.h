// How finely, and where, a lens reads its picture.
//
// A pixel that shows a wide piece of the picture would shimmer if it read one point of it: it reads a coarser picture, in which that
// piece is about one pixel (L. Williams 1983, "Pyramidal parametrics"), and several points of it along the way where the piece is long
// and narrow (as in P. S. Heckbert 1986, "Fundamentals of texture mapping"). Where the picture is enlarged a finer one is asked for.
// Every level is asked for where it is needed alone.
#pragma once

#include <memory>
#include <vector>

#include "fields/input.h"
#include "image/sampling.h"
#include "lens/lens_map.h"

namespace oa {

/// Pixels of a cell.
inline constexpr int kLensCellWidth = 16;
inline constexpr int kLensCellHeight = 8;

/// Points that are read for a pixel at most.
inline constexpr int kMostTaps = 4;

struct LensCell {
  int taps = 1;    ///< points that are read for a pixel, along the way where the place moves most
  int finest = 0;  ///< levels that are read: 0 is as fine as the view, 1 half as fine
  int coarsest = 0;
  /// One point of one level.
  [[nodiscard]] bool plain() const { return taps == 1 && finest == coarsest; }
  [[nodiscard]] bool likeIn(const LensCell& other) const { return plain() && other.plain() && finest == other.finest; }
};

/// One level: a plane, and where its pixels lie.
struct LensLevel {
  SourcePlane plane;
  float scale = 1;  ///< of a place in pixels of the view, before the shift
  float shiftX = 0;
  float shiftY = 0;
};

class LensLevels {
 public:
  LensLevels(const LensMap& map, const Input& input, const PlaneView& view);

  /// The cell that a pixel lies in, and the first pixel to the right of it.
  [[nodiscard]] const LensCell& cell(int x, int y) const {
    return cells_[static_cast<std::size_t>((y + overY_) / kLensCellHeight) * static_cast<std::size_t>(columns_) +
                  static_cast<std::size_t>((x + overX_) / kLensCellWidth)];
  }
  [[nodiscard]] int endOfCell(int x) const { return ((x + overX_) / kLensCellWidth + 1) * kLensCellWidth - overX_; }
  /// The level `k`, or the nearest one where nobody needs it.
  [[nodiscard]] const LensLevel& level(int k) const { return levels_[static_cast<std::size_t>(used_[k - kFinest])]; }
  [[nodiscard]] int channels() const { return channels_; }
  [[nodiscard]] bool opaque() const { return opaque_; }

  static constexpr int kFinest = -2;
  static constexpr int kCoarsest = 9;
  static constexpr int kLevels = kCoarsest - kFinest + 1;

 private:
  int overX_ = 0;  // pixels of the first cells that lie before the view: cells lie where those of any other part would
  int overY_ = 0;
  int columns_;
  std::vector<LensCell> cells_;
  LensLevel levels_[kLevels];
  int used_[kLevels] = {};
  int channels_ = 1;
  bool opaque_ = true;
};

/// So far from a level nothing but it is read; between two it goes over from one to the other.
inline constexpr float kLevelAlone = 0.4f;
/// The share of the coarser of two neighbouring levels.
inline float shareOfCoarser(float level, int finer) {
  const float share = (level - static_cast<float>(finer) - kLevelAlone) / (1 - 2 * kLevelAlone);
  return share < 0 ? 0 : share > 1 ? 1 : share;
}

}  // namespace oa
