// What is handed over where something does not loop.
#pragma once

#include <cstdint>
#include <string_view>

#include "scene/scene.h"
#include "store/clip_time.h"

namespace oa {

/// The clip that a source shows; null where it shows none.
const MediaRef* clipOf(const RecipeStep& source);
/// How it is played.
ClipPlay clipPlayOf(const RecipeStep& source);
/// Seconds of footage that a source plays through once; 0: it plays none.
double footageOf(const RecipeStep& source);

/// What is handed over, in frames: what arrives, the loop, what leaves.
struct RunLength {
  std::int64_t arrive = 0;
  std::int64_t loop = 1;
  std::int64_t leave = 0;
  double step = 1.0 / 30;  ///< seconds of footage, or of the whole track, that go by in a frame
  double seconds = 0;      ///< of footage or track; 0: all loops
  [[nodiscard]] std::int64_t frames() const { return arrive + loop + leave; }
};
/// As long as the run says; where there is footage, or a track that is heard as a whole, as long as the longest of it: cut at its end,
/// or played so much slower or faster that the last lap is whole (Run::wholeLaps). What is still arriving then, or leaving already, is
/// not cut.
RunLength runOf(const Scene& scene);
/// The same with the scene's passages alone: how many frames it takes until all is there, and until all has gone.
std::int64_t arriveFrames(const Scene& scene);
std::int64_t leaveFrames(const Scene& scene);
/// Whether anything in it arrives or leaves.
bool passes(const Scene& scene);

/// The moment of a frame of the run, counted from its beginning. The loop's first lap begins where everything has arrived.
Moment runMoment(const RunLength& run, const Scene& scene, std::int64_t frame);

/// What is handed over as a file of its own.
enum class RunPart { Loop, Run, Arrive, Leave };
std::string_view runPartName(RunPart part);
/// Where it begins in the run, and how many frames it has: of the loop one lap, or all there is of it where it shows footage.
struct RunSpan {
  std::int64_t first = 0;
  std::int64_t count = 1;
};
RunSpan spanOf(const Scene& scene, const RunLength& run, RunPart part);

/// What is handed over: without the layers that are only there for judging.
Scene withoutStandIns(const Scene& scene);

/// Makes every delay and duration of what arrives, or leaves, longer or shorter, so that all is there after so many frames.
void stretchPassages(Scene& scene, bool leaving, std::int64_t frames);

}  // namespace oa
