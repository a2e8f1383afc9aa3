// Where a frame's time goes: by layer and step.
#pragma once

#include <atomic>
#include <string>
#include <vector>

#include "base/result.h"
#include "scene/scene.h"

namespace oa {

/// Milliseconds for a frame, those of all threads together.
struct Profile {
  struct Step {
    std::string step;  ///< its id
    double milliseconds = 0;
  };
  struct OfLayer {
    Id layer = 0;
    std::string name;
    int depth = 0;  ///< groups that it lies in
    double milliseconds = 0;
    std::vector<Step> steps;
  };
  std::vector<OfLayer> layers;  ///< as the pile shows them: the topmost first, groups before what they hold
  double laying = 0;            ///< laying layers over each other, dither, packing, and planning
  double work = 0;              ///< all of it
  double frame = 0;             ///< from the beginning of a frame to its end
};

/// Renders `frames` frames all over the loop, after two more that warm up, and counts; what others render meanwhile is not counted. Once
/// `cancel` is true it returns early with an error.
Result<Profile> profiled(const Scene& scene, int width, int height, int threads, int frames, const std::atomic<bool>* cancel = nullptr);

}  // namespace oa
