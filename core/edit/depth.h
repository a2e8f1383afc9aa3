// Layers at several distances that travel by them: the nearer, the faster.
#pragma once

#include <vector>

#include "scene/scene.h"

namespace oa::edit {

struct Depth {
  struct At {
    Id layer = 0;
    double distance = 1;  ///< 1 to kMaxDistance
  };
  std::vector<At> layers;
  double seconds = 6;  ///< in which the nearest of them travels by the frame's width
  bool left = true;    ///< they travel to the left, as what is passed while one goes to the right
  double haze = 0;     ///< 0 to 1: how much of the furthest would be seen no more
  Colour colour{0.8f, 0.85f, 0.9f, 1};
};

/// What came of it for one layer.
struct DepthTravel {
  Id layer = 0;
  double wanted = 0;  ///< pixels of the scene a second
  double speed = 0;   ///< the same, as whole tiles within a lap have it
  int tiles = 0;      ///< a lap
  double tile = 0;    ///< how wide a tile is, in pixels of the scene
};

/// How they would travel. Layers that are not there are left out.
std::vector<DepthTravel> depthTravel(const Scene& scene, const Depth& depth);
/// The shortest loop, in frames, in which no layer has to be faster than it should; at least as long as now.
int framesForDepth(const Scene& scene, const Depth& depth);

/// Sets distances and travels. A layer that cannot travel by tiles is made seamless, one that ends goes on beside itself, so that no edge
/// shows; haze is a colour map of one colour at the end of a recipe, which is changed when it is there already.
Result<std::vector<Id>> travelByDepth(Scene& scene, const Depth& depth);

/// What the layers have now: their distances (those of none are put behind each other, upper ones nearer), and haze.
Depth depthOf(const Scene& scene, const std::vector<Id>& layers);

}  // namespace oa::edit
