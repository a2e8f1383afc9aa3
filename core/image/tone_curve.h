// A tone curve: a smooth line through the user's points that never swings beyond them.
#pragma once

#include <cstddef>
#include <vector>

#include "base/geometry.h"

namespace oa {

inline constexpr std::size_t kMaxCurvePoints = 24;

/// The straight line from black to white.
inline Curve straightCurve() { return {{0, 0}, {1, 1}}; }
bool isStraight(const Curve& curve);

/// Height at x in [0, 1]; flat beyond the first and last point. Monotone cubic interpolation after F. N. Fritsch and
/// R. E. Carlson, "Monotone Piecewise Cubic Interpolation" (SIAM J. Numer. Anal. 17, 1980): between two points
/// the curve stays between their heights.
double curveAt(const Curve& curve, double x);

/// `count` heights for x = 0..1, both ends included.
std::vector<float> bakeCurve(const Curve& curve, int count);

}  // namespace oa
