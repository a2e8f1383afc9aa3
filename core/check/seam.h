// How visible the ends of a layer's picture are where they meet.
#pragma once

#include "base/result.h"
#include "render/frames.h"

namespace oa {

/// Joints as jointOf() counts them: in steps between neighbours elsewhere; 1 is like any other place.
struct SeamReport {
  struct Joints {
    double across = 0;
    double down = 0;
  };
  Joints before;  ///< without the step that makes them meet
  Joints after;
};

/// Whether a step makes the ends of its picture meet, as it is set.
bool makesEndsMeet(const RecipeStep& step);

/// Looks at step `step` of a layer in frame `k`, in small pictures. Errors are sentences.
Result<SeamReport> measureSeam(const Scene& scene, Id layer, std::size_t step, std::int64_t k);

/// The picture whose ends the step made meet, as large as it is; straight alpha.
Result<Frame16> seamlessPicture(const Scene& scene, Id layer, std::size_t step, std::int64_t k);

}  // namespace oa
