// What is handed over where something does not loop.
#pragma once

#include <cstdint>

#include "scene/scene.h"
#include "store/clip_time.h"

namespace oa {

/// The clip that a source shows; null where it shows none.
const MediaRef* clipOf(const RecipeStep& source);
/// How it is played.
ClipPlay clipPlayOf(const RecipeStep& source);
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
