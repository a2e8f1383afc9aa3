// A picture whose ends meet, made from one whose ends do not.
#pragma once

#include <string_view>

#include "image/buffer.h"

namespace oa {

struct SeamSettings {
  bool across = true;
  bool down = false;
  bool cut = true;    ///< along the path of least difference; else by a cross-fade over the whole band
  double band = 0.2;  ///< share of the picture, 0.02 to 0.5, that its ends are laid over each other: it becomes so much smaller
  double soft = 0.2;  ///< share of the band, 0 to 1, in which a cut goes over from one side to the other
  double even = 0;    ///< 0 to 1: how far light and dark of its large parts are evened out, so that repeats do not show
  bool operator==(const SeamSettings&) const = default;
};

/// Along the ends that `meet` names: "across", "down" or "both".
SeamSettings seamAlong(std::string_view meet, bool cut, double band, double soft, double even);

/// The width or height that is left of `size` pixels; at least 1.
int seamlessSize(int size, double band);

/// The picture (premultiplied RGBA) as a tile of seamlessSize() in the directions asked for: its right end lies over its left one, and
/// its lower over its upper. A cut (leastCut) that goes across a tile that has been closed across comes home.
Plane seamless(const Plane& picture, const SeamSettings& settings);

/// How visible the joint of a tile is: the mean difference of its last column (row) and its first, against the median of that
/// between neighbours, 1 for a joint like any other place. Flat pictures: 0.
double jointOf(const Plane& picture, bool across);

}  // namespace oa
