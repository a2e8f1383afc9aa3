// Plain value types for places and colours.
#pragma once

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

}  // namespace oa
