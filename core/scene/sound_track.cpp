#include "scene/sound_track.h"

namespace oa {

std::span<const ParamSpec> soundSpecs() {
  static const ParamSpec kSpecs[kSoundParams] = {
      {.id = "file",
       .label = "Sound",
       .help = "The sound that is heard with the loop. It stays where it is; the scene keeps the way to it.",
       .type = ParamType::File,
       .base = MediaRef{},
       .rule = LoopRule::Fixed},
      {.id = "from",
       .label = "From",
       .help = "Where in the file the loop begins.",
       .base = 0.0,
       .min = 0,
       .max = kMostMediaSeconds,
       .unit = Unit::Seconds,
       .rule = LoopRule::Fixed},
      {.id = "meet",
       .label = "Meet",
       .help = "How long its end runs into its beginning where the loop closes; what comes next in the file fades out as the beginning "
               "fades in.",
       .base = 0.04,
       .min = 0,
       .max = 5,
       .sliderMin = 0,
       .sliderMax = 1,
       .unit = Unit::Seconds,
       .rule = LoopRule::Fixed},
      {.id = "loudness",
       .label = "Loudness",
       .help = "How much louder or softer than it is.",
       .base = 0.0,
       .min = -60,
       .max = 24,
       .sliderMin = -24,
       .sliderMax = 12,
       .unit = Unit::Decibels,
       .rule = LoopRule::Fixed},
      {.id = "fadeIn",
       .label = "Fade in",
       .help = "At the beginning of what is handed over.",
       .base = 0.0,
       .min = 0,
       .max = 60,
       .sliderMin = 0,
       .sliderMax = 10,
       .unit = Unit::Seconds,
       .rule = LoopRule::Fixed},
      {.id = "fadeOut",
       .label = "Fade out",
       .help = "At the end of what is handed over.",
       .base = 0.0,
       .min = 0,
       .max = 60,
       .sliderMin = 0,
       .sliderMax = 10,
       .unit = Unit::Seconds,
       .rule = LoopRule::Fixed},
      {.id = "whole",
       .label = "Whole track",
       .help = "What is handed over lasts as long as the file does, and the loop goes round meanwhile.",
       .type = ParamType::Toggle,
       .base = false,
       .rule = LoopRule::Fixed},
      {.id = "muted",
       .label = "Silent",
       .help = "It is followed and not heard, nor handed over.",
       .type = ParamType::Toggle,
       .base = false,
       .rule = LoopRule::Fixed},
  };
  return kSpecs;
}

std::vector<Param> SoundTrack::defaultParams() {
  std::vector<Param> params;
  for (const ParamSpec& spec : soundSpecs()) params.push_back(defaultParam(spec));
  return params;
}

}  // namespace oa
