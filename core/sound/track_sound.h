// What is heard with what is handed over: the scene's track going round with the loop, or on and on, and the sound of footage.
#pragma once

#include <functional>
#include <memory>
#include <string>

#include "scene/scene.h"
#include "store/sound_reader.h"

namespace oa {

/// Writes `count` samples from number `first` on, left and right by turns.
using SoundFunction = std::function<void(std::int64_t first, int count, float* stereo)>;

/// The loop's own stretch of a track: `lap` samples from `from` on; in the first `meet` of them what follows the stretch in the sound fades
/// out while its beginning fades in, so that its end runs into its beginning as the sound went on (a raised cosine: both weights add up
/// to 1). The sample at `at`, read modulo the stretch; silence where the sound has none.
struct LoopStretch {
  std::int64_t from = 0;
  std::int64_t lap = 1;
  std::int64_t meet = 0;
  [[nodiscard]] float sample(const Sound& sound, std::int64_t at, int channel) const;
};

struct RunSound {
  SoundFunction sound;  ///< empty: nothing is heard
  std::string note;     ///< what could not be heard, or empty
};
/// All that is heard over `frames` frames of what is handed over, where the loop begins after `arrive` of them. Reads the files it needs.
RunSound soundOf(const Scene& scene, std::int64_t frames, std::int64_t arrive = 0);

/// Where near `from`, at most `reach` seconds away, a stretch of `seconds` runs into itself with the least change: a place at which what
/// comes after the stretch is most like its beginning.
double bestCut(const Sound& sound, double from, double seconds, double reach);

/// The largest and the mean height of both channels in each of `count` equal parts of a stretch, 0 to 1.
struct WavePart {
  float peak = 0;
  float mean = 0;
};
std::vector<WavePart> waveOf(const Sound& sound, double from, double seconds, int count);

}  // namespace oa
