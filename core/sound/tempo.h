// How fast a track goes.
#pragma once

#include "store/sound_reader.h"

namespace oa {

struct Tempo {
  double beatsPerMinute = 0;  ///< 0: none was found
  double firstBeat = 0;       ///< seconds
};

/// The tempo of a sound, at most its first five minutes, by SoundTouch's beat detection.
Tempo tempoOf(const Sound& sound);

/// Frames of a loop that lasts so many beats, 1 at least.
int framesOfBeats(double beatsPerMinute, int beats, double rate);

}  // namespace oa
