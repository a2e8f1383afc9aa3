// A linked copy: another layer's picture, again.
#include "fields/field_params.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "layer",
     .label = "Layer",
     .help = "The layer or group that is shown. What is changed there is changed here.",
     .type = ParamType::Layer,
     .base = 0.0,
     .min = 0,
     .max = 1e9,
     .rule = LoopRule::Fixed},
    {.id = "shows",
     .label = "Shows",
     .help = "What it shows of it: the finished layer with all its steps and its mask, or its source alone.",
     .type = ParamType::Choice,
     .base = std::string("finished"),
     .rule = LoopRule::Fixed,
     .choices = {"finished", "source"}},
    field_params::headStart("How far ahead of the layer this copy is, as a share of the loop; in whole frames."),
};

}  // namespace

const StepSpec& linkedStep() {
  static const StepSpec spec{.id = "linked",
                             .title = "Linked copy",
                             .group = "source",
                             .help = "Shows another layer or group again, elsewhere, later, and with steps of its own.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .reads = SourceReads::Layer};
  return spec;
}

}  // namespace oa
