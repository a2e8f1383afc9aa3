// Fewer tones: a soft or hard staircase.
#include <algorithm>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/tonesteps.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct ToneSteps {
  double count;  // tones, at least 2
  double sharp;  // 1 / width of an edge, in treads

  explicit ToneSteps(const StepContext& context) : count(context.integer("tones")), sharp(1 / std::max(1e-3, context.number("softness"))) {}

  // Only the nearest edge matters: below it all is the lower tread, above it the upper one.
  template <class N>
  N tone(N v, N alpha, int channel, const N* /*aside*/) const {
    const N one(1.0);
    const N straight = channel < 3 ? v * inverseOrZero(alpha) : v;
    const N x = minOf(one, maxOf(N(0.0), straight)) * N(count);
    const N edge = minOf(N(count - 1), maxOf(one, floorOf(x + N(0.5))));
    const N t = minOf(one, maxOf(N(0.0), mulAddOf(x - edge, N(sharp), N(0.5))));
    const N soft = t * t * negMulAddOf(t, N(2.0), N(3.0));
    return (edge - one + soft) * N(1 / (count - 1)) * alpha;
  }
};

OA_POINT_FORMULA(ToneSteps)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

OA_POINT_STEP(ToneSteps)

namespace {

const ParamSpec kParams[] = {
    {.id = "tones",
     .label = "Tones",
     .help = "How many tones are left, black and white among them.",
     .type = ParamType::Integer,
     .base = 5.0,
     .min = 2,
     .max = 64,
     .sliderMin = 2,
     .sliderMax = 16,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "softness",
     .label = "Softness",
     .help = "Width of the edges between tones: none is as if cut out, all leaves no flat areas.",
     .base = 0.2,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

}  // namespace

const StepSpec& tonestepsStep() {
  static const StepSpec spec{.id = "tonesteps",
                             .title = "Tone steps",
                             .group = "tone",
                             .help = "Leaves only a few tones, with hard or soft edges between them, as on a printed chart.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
