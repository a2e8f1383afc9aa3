// Gaussian blur of any width at nearly the same cost.
//
// Wide blurs reduce the picture to a small grid, filter that, and enlarge it with a cubic B-spline inside the
// consumer's spans. Reducing is by box averages of b pixels, then by the kernel [1 3 3 1] / 8 for each halving to cells
// of f pixels. The variances add up: what the small filter has left to do is s^2 / f^2 - (b^2 - 1) / (12 f^2) (box)
// - 3/4 step^2 / f^2 for each halving - 1/3 (B-spline); where pixels are given g by g, the boxes are as many times as wide, and the
// B-spline that mixed them has taken g^2 / (3 f^2) too. Edges are extended before any of this, in pixels of the
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
  /// Pixels of this frame in one of the input's, across and down: a power of two, no more than givenMost() allows. Where there are several
  /// they were mixed as Input::light() says.
  int given = 1;
  bool inLight = false;  ///< pictures only: the input is light already
};

/// Reads `input` (width x height, or the `given`th part of both, which then goes into them without a rest) once, in parallel, and returns
/// the maker of the blurred rows, width x height. What was blurred in light hands that out too.
std::unique_ptr<RowMaker> blurred(const RowMaker& input, int width, int height, const BlurSettings& settings);

/// How many pixels of the frame may be one of the input's for a standard deviation of `sigma` pixels.
int givenMost(double sigma);

/// Pixels on each side that the blur of a pixel takes in, for a standard deviation of `sigma` pixels; `given` as in BlurSettings.
int blurReach(double sigma, int given = 1);
/// Wide blurs work on a grid of cells of at most so many pixels: parts of a picture look alike where they begin at multiples.
inline constexpr int kBlurCells = 64;

/// Largest radius that still makes sense, in standard deviations of pixels.
inline constexpr double kMaxSigma = 4096;

}  // namespace oa
