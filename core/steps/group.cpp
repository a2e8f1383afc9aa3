// A group: layers made into one picture.
#include "steps/step.h"

namespace oa {
namespace {

// One side of the group's own frame.
ParamSpec side(std::string_view id, std::string_view label, std::string_view help) {
  return {.id = id,
          .label = label,
          .help = help,
          .type = ParamType::Integer,
          .base = 0.0,
          .min = 0,
          .max = 8192,
          .sliderMin = 0,
          .sliderMax = 1920,
          .unit = Unit::Pixels,
          .rule = LoopRule::Fixed};
}

const ParamSpec kParams[] = {
    side("width", "Width",
         "Width of the group's own frame; 0 is that of the frame it lies in. Shares of places within the group are counted in it."),
    side("height", "Height", "Height of the group's own frame; 0 is that of the frame it lies in."),
    {.id = "cut",
     .label = "Cut at frame",
     .help = "Shows nothing of the group beyond its own frame.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed},
    {.id = "laps",
     .label = "Laps",
     .help = "How often the group's own loop goes round in one of the scene's.",
     .type = ParamType::Integer,
     .base = 1.0,
     .min = 1,
     .max = 1000,
     .sliderMin = 1,
     .sliderMax = 12,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
};

}  // namespace

const StepSpec& groupStep() {
  static const StepSpec spec{.id = "group",
                             .title = "Group",
                             .group = "source",
                             .help = "Layers made into one: placed, masked, blended and finished together.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .reads = SourceReads::Layers};
  return spec;
}

}  // namespace oa
