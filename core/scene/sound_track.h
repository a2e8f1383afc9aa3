// The sound that a scene belongs to.
#pragma once

#include <string>
#include <vector>

#include "params/param.h"

namespace oa {

/// Its values, in this order.
enum class SoundParam { File, From, Meet, Loudness, FadeIn, FadeOut, Whole, Muted };
inline constexpr int kSoundParams = 8;
std::span<const ParamSpec> soundSpecs();

/// One stretch of a sound file, as long as the loop and going round with it, or all of it, with the loop going round meanwhile.
struct SoundTrack {
  std::vector<Param> params = defaultParams();  ///< in the order of soundSpecs(); none of them moves
  std::string extra = {};                       ///< keys of newer versions, kept as the JSON text they came in

  [[nodiscard]] const MediaRef& file() const { return std::get<MediaRef>(at(SoundParam::File).base); }
  [[nodiscard]] double number(SoundParam which) const { return std::get<double>(at(which).base); }
  [[nodiscard]] bool toggle(SoundParam which) const { return std::get<bool>(at(which).base); }
  /// Whether there is one at all.
  [[nodiscard]] bool there() const { return !file().empty(); }
  [[nodiscard]] const Param& at(SoundParam which) const { return params[static_cast<std::size_t>(which)]; }
  Param& at(SoundParam which) { return params[static_cast<std::size_t>(which)]; }
  bool operator==(const SoundTrack&) const = default;

 private:
  static std::vector<Param> defaultParams();
};

}  // namespace oa
