#include "loop/sound_levels.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"

namespace oa {
namespace {

constexpr std::string_view kNames[kSoundBands] = {"all", "low", "middle", "high"};

}  // namespace

Result<SoundBand> soundBandFromName(std::string_view name) {
  const auto found = std::find(std::begin(kNames), std::end(kNames), name);
  if (found == std::end(kNames)) return fail("\"" + std::string(name.substr(0, 40)) + "\" is not one of: all, low, middle, high");
  return static_cast<SoundBand>(found - std::begin(kNames));
}

std::string_view soundBandName(SoundBand band) { return kNames[static_cast<std::size_t>(band)]; }

std::span<const std::string_view> soundBandNames() { return kNames; }

double SoundLevels::at(SoundBand band, double u) const {
  if (bands_.empty()) return 0;
  const auto& levels = bands_[static_cast<std::size_t>(band)];
  const auto count = static_cast<double>(levels.size());
  const double place = fract(u) * count;
  // Frames begin at k / N, which is not quite a whole number again once it is multiplied.
  const double whole = std::floor(place + 1e-9);
  const auto first = static_cast<std::size_t>(whole) % levels.size();
  const auto next = (first + 1) % levels.size();
  return mix(static_cast<double>(levels[first]), static_cast<double>(levels[next]), std::max(0.0, place - whole));
}

}  // namespace oa
