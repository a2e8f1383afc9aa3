// Lines from point to point: how far along them something lies.
#pragma once

#include <vector>

#include "base/geometry.h"

namespace oa {

/// From its first point to its last; 0 with fewer than two.
double lengthOf(const std::vector<Point>& line);

/// How far along a line of two points or more the point lies that is nearest to `place`: a length, from its beginning on.
double alongLine(const std::vector<Point>& line, const Point& place);

/// The same line with fewer points: none of those left out lies further from it than `tolerance`, a length. Source: D. H. Douglas and
/// T. K. Peucker, "Algorithms for the reduction of the number of points required to represent a digitized line", Cartographica 1973.
std::vector<Point> simplified(const std::vector<Point>& line, double tolerance);

}  // namespace oa
