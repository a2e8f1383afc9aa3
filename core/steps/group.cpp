// A group: layers made into one picture.
#include "fields/field_params.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "width",
     .label = "Width",
     .help = "Width of the group's own frame; 0 is that of the frame it lies in. Shares of places within the group are counted in it.",
     .type = ParamType::Integer,
     .base = 0.0,
     .min = 0,
     .max = 8192,
     .sliderMin = 0,
     .sliderMax = 1920,
     .unit = Unit::Pixels,
     .rule = LoopRule::Fixed},
    {.id = "height",
     .label = "Height",
     .help = "Height of the group's own frame; 0 is that of the frame it lies in.",
     .type = ParamType::Integer,
     .base = 0.0,
     .min = 0,
     .max = 8192,
     .sliderMin = 0,
     .sliderMax = 1920,
     .unit = Unit::Pixels,
     .rule = LoopRule::Fixed},
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
