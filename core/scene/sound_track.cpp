#include "scene/sound_track.h"

#include <algorithm>

namespace oa {
namespace {

// `usual`: how far it is dragged, to both sides where it may be negative.
ParamSpec number(std::string_view id, std::string_view label, std::string_view help, double base, double min, double max, double usual,
                 Unit unit) {
  return {.id = id,
          .label = label,
          .help = help,
          .base = base,
          .min = min,
          .max = max,
          .sliderMin = std::max(min, -usual),
          .sliderMax = usual,
          .unit = unit,
          .rule = LoopRule::Fixed};
}

ParamSpec toggle(std::string_view id, std::string_view label, std::string_view help) {
  return {.id = id, .label = label, .help = help, .type = ParamType::Toggle, .base = false, .rule = LoopRule::Fixed};
}

}  // namespace

std::span<const ParamSpec> soundSpecs() {
  static const ParamSpec kSpecs[kSoundParams] = {
      {.id = "file",
       .label = "Sound",
       .help = "The sound that is heard with the loop. It stays where it is; the scene keeps the way to it.",
       .type = ParamType::File,
       .base = MediaRef{},
       .rule = LoopRule::Fixed},
      number("from", "From", "Where in the file the loop begins.", 0, 0, kMostMediaSeconds, 30, Unit::Seconds),
      number("meet", "Meet",
             "How long its end runs into its beginning where the loop closes; what comes next in the file fades out as the beginning fades "
             "in.",
             0.04, 0, 5, 1, Unit::Seconds),
      number("loudness", "Loudness", "How much louder or softer than it is.", 0, -60, 24, 24, Unit::Decibels),
      number("fadeIn", "Fade in", "At the beginning of what is handed over.", 0, 0, 60, 10, Unit::Seconds),
      number("fadeOut", "Fade out", "At the end of what is handed over.", 0, 0, 60, 10, Unit::Seconds),
      toggle("whole", "Whole track", "What is handed over lasts as long as the file does, and the loop goes round meanwhile."),
      toggle("muted", "Silent", "It is followed and not heard, nor handed over."),
  };
  return kSpecs;
}

std::vector<Param> SoundTrack::defaultParams() {
  std::vector<Param> params;
  for (const ParamSpec& spec : soundSpecs()) params.push_back(defaultParam(spec));
  return params;
}

}  // namespace oa
