// How much memory a picture of a scene needs, told before it is made.
#pragma once

#include <cstddef>
#include <string>

#include "base/result.h"
#include "scene/scene.h"

namespace oa {

struct MemoryNeed {
  double bytes = 0;     ///< at the worst moment of the loop, by estimate
  std::string largest;  ///< the layer that needs most
  double largestBytes = 0;
};

/// Planes of layers at rest and of steps that need whole pictures, tables of sources, and the finished frames on their way.
MemoryNeed memoryNeed(const Scene& scene, int width, int height);

/// A sentence that names the layer if the scene at this size needs more than `budget` bytes (0: all that pictures share).
Status fitsBudget(const Scene& scene, int width, int height, std::size_t budget = 0);

}  // namespace oa
