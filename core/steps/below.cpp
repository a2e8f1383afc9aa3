// What lies below: the picture of everything under the layer.
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "start",
     .label = "Head start",
     .help = "How far ahead of what is seen below it shows it, as a share of the loop; in whole frames.",
     .base = 0.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share,
     .rule = LoopRule::Fixed},
};

}  // namespace

const StepSpec& belowStep() {
  static const StepSpec spec{.id = "below",
                             .title = "What lies below",
                             .group = "source",
                             .help = "Shows all that lies below the layer within its group, so that steps and masks work on it at once.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .reads = SourceReads::Below};
  return spec;
}

}  // namespace oa
