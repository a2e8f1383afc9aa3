// How loud a sound is over the loop, as values follow it.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace oa {

/// Which part of a sound: all that is heard, or its low, middle or high tones.
enum class SoundBand { All, Low, Middle, High };
inline constexpr int kSoundBands = 4;

Result<SoundBand> soundBandFromName(std::string_view name);
std::string_view soundBandName(SoundBand band);
std::span<const std::string_view> soundBandNames();

/// Levels of 0 (silent) to 1 (as loud as it gets) of each band, one for every frame of the loop; read between them in straight lines
/// and across the joint.
class SoundLevels {
 public:
  SoundLevels() = default;
  /// Each list in the order of the bands, all of one length, at least 1.
  explicit SoundLevels(std::vector<std::vector<float>> bands) : bands_(std::move(bands)) {}

  /// At a share `u` of the loop, [0, 1).
  [[nodiscard]] double at(SoundBand band, double u) const;

 private:
  std::vector<std::vector<float>> bands_;
};

}  // namespace oa
