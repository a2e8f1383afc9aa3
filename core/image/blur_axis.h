// The plan of a blur in one direction.
#pragma once

#include <vector>

namespace oa {

/// Reach of the filter: 3.5 standard deviations of less than 4 cells.
inline constexpr int kMostReach = 14;

/// How one direction is blurred: boxes of `box` pixels, thinned `thin` to one into cells of `factor` pixels, filtered.
/// Boxes alone let fine stripes through as coarse ones where they are wide against the blur; so they stay below a
/// quarter of the standard deviation, and the kernel [1 3 3 1] / 8, which lets nothing through where it matters,
/// does the rest, once for each halving.
struct BlurAxis {
  int size = 1;    ///< pixels
  int given = 1;   ///< pixels in one of the input's
  int read = 1;    ///< of these in all
  int factor = 1;  ///< pixels in a cell
  int box = 1;     ///< pixels of the input in a box
  int thin = 1;    ///< boxes in a cell
  int cells = 1;   ///< cells that cover the picture
  int reach = 0;   ///< taps on each side
  int pad = 0;     ///< cells before and after, ahead of filtering
  int keep = 0;    ///< cells before and after, once filtered
  int apart = 1;   ///< pixels between places that are enough to know: a cell or half of one
  std::vector<float> taps;
  std::vector<float> thinTaps;    ///< 3 * thin - 2 of them
  std::vector<float> weights[4];  ///< B-spline, per pixel of a cell

  /// Boxes before the first and after the last cell's own, and in all.
  [[nodiscard]] int boxesBefore() const { return thin * pad + thin - 1; }
  [[nodiscard]] int boxes() const { return thin * paddedCells() + 2 * (thin - 1); }
  [[nodiscard]] int paddedCells() const { return cells + 2 * pad; }

  /// `pixels` in this direction; `sigma` in pixels, held within [0, kMaxSigma]; `given` as in BlurSettings.
  BlurAxis(int pixels, double sigma, int given = 1);
};

}  // namespace oa
