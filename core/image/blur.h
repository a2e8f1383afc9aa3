// Gaussian blur of any width at nearly the same cost.
//
// Wide blurs reduce the picture to a small grid, filter that, and enlarge it with a cubic B-spline inside the
// consumer's spans. Reducing is by box averages of b pixels, then by the kernel [1 3 3 1] / 8 for each halving to cells
// of f pixels. The variances add up: what the small filter has left to do is s^2 / f^2 - (b^2 - 1) / (12 f^2) (box)
// - 3/4 step^2 / f^2 for each halving - 1/3 (B-spline). Edges are extended before any of this, in pixels of the
// picture, so that a border is as true as the middle.
#pragma once

#include <memory>

#include "image/borders.h"
#include "image/rows.h"

namespace oa {

struct BlurSettings {
  double sigmaX = 0;  ///< standard deviation across, px of this frame; 0 leaves that direction alone
  double sigmaY = 0;
  Edge edge = Edge::Clamp;
  bool linearLight = false;  ///< pictures only: filter light, not display values
};

/// Reads `input` (width x height) once, in parallel, and returns the maker of the blurred rows.
std::unique_ptr<RowMaker> blurred(const RowMaker& input, int width, int height, const BlurSettings& settings);

/// Pixels on each side that the blur of a pixel takes in, for a standard deviation of `sigma` pixels.
int blurReach(double sigma);
/// Wide blurs work on a grid of cells of at most so many pixels: parts of a picture look alike where they begin at multiples.
inline constexpr int kBlurCells = 64;

/// Largest radius that still makes sense, in standard deviations of pixels.
inline constexpr double kMaxSigma = 4096;

}  // namespace oa
