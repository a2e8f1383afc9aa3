// What lies below: the picture of everything under the layer.
#include "fields/field_params.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    field_params::headStart("How far ahead of what is seen below it shows it, as a share of the loop; in whole frames."),
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
