// Sounds from files, and the sound of clips: decoded as a whole.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "base/result.h"
#include "store/av_input.h"
#include "store/media_kind.h"

namespace oa {

/// Samples a second of every sound here; two channels.
inline constexpr int kSoundRate = 48000;
/// Longer ones are refused: half an hour.
inline constexpr std::int64_t kMostSamples = std::int64_t{kSoundRate} * 1800;

struct Sound {
  std::vector<float> stereo;  ///< left and right by turns, -1 to 1 where it is not too loud
  double begins = 0;          ///< seconds after the first picture of the clip it belongs to; 0 where there is none

  [[nodiscard]] std::int64_t samples() const { return static_cast<std::int64_t>(stereo.size() / 2); }
  [[nodiscard]] double seconds() const { return static_cast<double>(samples()) / kSoundRate; }
};

/// The first sound of a file, converted to kSoundRate and two channels; what its coding put before and behind it is left out. Errors are
/// sentences without the file's name; one of them is that there is none.
Result<std::shared_ptr<const Sound>> readSound(MediaKind kind, const MediaSource& source);

}  // namespace oa
