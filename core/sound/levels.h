// How loud a track is over the loop, in three bands, as values follow it.
#pragma once

#include "loop/sound_levels.h"
#include "scene/scene.h"
#include "store/sound_reader.h"

namespace oa {

/// A level for each frame and band: the loudness of the loop's stretch round the frame, low tones up to 180 Hz, high ones from 2500 Hz on
/// (Linkwitz-Riley crossovers of fourth order, S. H. Linkwitz, J. Audio Eng. Soc. 24, 1976), smoothed so that it rises at once and
/// falls in a third of a second, closed over the loop; 1 is as loud as a band is in a twentieth of the frames.
SoundLevels levelsOf(const Sound& sound, const Scene& scene);

/// Those of the scene's own sound; null if there is none, or it cannot be read. Worked out once and kept.
std::shared_ptr<const SoundLevels> levelsOf(const Scene& scene);
/// The same where a motion follows them; null where none does.
std::shared_ptr<const SoundLevels> followedLevels(const Scene& scene);

}  // namespace oa
