// Plain value types for places and colours.
#pragma once

#include <vector>

namespace oa {

/// A place or an amount in two directions; the unit is the parameter's.
struct Point {
  double x = 0;
  double y = 0;
  bool operator==(const Point&) const = default;
};

/// A straight (not premultiplied) colour in display-encoded sRGB, each channel in [0, 1].
struct Colour {
  float r = 0;
  float g = 0;
  float b = 0;
  float a = 1;
  bool operator==(const Colour&) const = default;
};

/// A tone curve as its points, x rising strictly within [0, 1], y in [0, 1]; see image/tone_curve.h.
using Curve = std::vector<Point>;

}  // namespace oa
