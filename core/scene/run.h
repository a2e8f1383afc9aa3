// What is handed over where something does not loop.
#pragma once

#include <cstdint>

#include "scene/scene.h"

namespace oa {

/// Seconds of footage that a source plays through once; 0: it plays none.
double footageOf(const RecipeStep& source);

struct RunLength {
  std::int64_t frames = 1;  ///< of what is handed over; the loop's own where all of it loops
  double step = 1.0 / 30;   ///< seconds of footage, or of the whole track, that go by in a frame
  double seconds = 0;       ///< of footage or track; 0: all loops
};
/// The longest of all visible footage and of the track, where that is heard as a whole: cut at its end, or played so much slower or
/// faster that the last lap is whole (Run::wholeLaps).
RunLength runOf(const Scene& scene);

}  // namespace oa
