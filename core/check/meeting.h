// Where what arrives meets the loop, and the loop what leaves: is the step there like those beside it?
#pragma once

#include <vector>

#include "scene/scene.h"

namespace oa {

struct Meeting {
  bool leaving = false;
  double step = 0;    ///< mean absolute difference of the two frames that meet, in 8-bit levels
  double beside = 0;  ///< the largest of the steps beside it, as far as pictures are held
  bool clean = true;  ///< it is no larger than kJointLimit times that, or cannot be seen
};

/// Renders small frames round both places, where there are such. Nothing that is only there for judging is looked at.
std::vector<Meeting> checkMeetings(const Scene& scene, int threads = 0);

}  // namespace oa
