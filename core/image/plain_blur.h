// The Gaussian blur as it is defined, in double precision, for the plain path of steps that have one within.
#pragma once

#include <array>
#include <functional>
#include <memory>

namespace oa {

using PlainPixel = std::array<double, 4>;
using PlainPicture = std::function<PlainPixel(int x, int y)>;

/// `source` blurred with a standard deviation of `sigma` pixels, both ways; worked out in pieces, where it is asked for.
PlainPicture plainBlur(PlainPicture source, double sigma);

}  // namespace oa
