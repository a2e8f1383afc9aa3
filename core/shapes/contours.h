// The lines along which a field crosses a level.
#pragma once

#include <vector>

#include "base/geometry.h"

namespace oa {

/// Closed lines, each ending where it begins, between what of `width` x `height` values reaches `level` and what does not; nothing
/// beyond them does. What reaches it lies to the right of a line that is gone along, so that lines about it run clockwise. In pixels:
/// the middle of the first one is (0, 0). Marching squares (W. E. Lorensen and H. E. Cline, "Marching cubes", SIGGRAPH 1987, in the
/// plane), places between pixels by their values; where two opposite corners reach the level, the mean of the four decides.
std::vector<std::vector<Point>> contours(const std::vector<float>& values, int width, int height, float level);

/// The longest of them first, at most `most`, without those shorter than `shortest`; evened out a little, as what was read from pixels
/// has to be, and beginning at the upper left.
std::vector<std::vector<Point>> evenedContours(std::vector<std::vector<Point>> lines, double shortest, std::size_t most);

}  // namespace oa
