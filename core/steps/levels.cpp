// Contrast, brightness, invert: the tones of a field or picture. The point step that others are copied from: a formula, a table.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/levels.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// v -> gain v + offset, cut off if asked to. Brightness is added before inverting.
struct Levels {
  double gain;
  double offset;
  bool clamp;

  explicit Levels(const StepContext& context)
      : gain(context.number("contrast")), offset(0.5 - 0.5 * gain + context.number("brightness")), clamp(context.toggle("clamp")) {
    if (!context.toggle("invert")) return;
    gain = -gain;
    offset = 1 - offset;
  }

  template <class N>
  N tone(N v, N alpha, int channel, const N* /*aside*/) const {
    const N moved = mulAddOf(v, N(gain), alpha * N(offset));
    // Pictures are premultiplied and stay within [0, alpha].
    return clamp || channel < 3 ? minOf(alpha, maxOf(N(0.0), moved)) : moved;
  }
};

OA_POINT_FORMULA(Levels)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

OA_POINT_STEP(Levels)

namespace {

const ParamSpec kParams[] = {
    {.id = "contrast",
     .label = "Contrast",
     .help = "Pushes tones away from the middle grey; below 1 draws them towards it.",
     .base = 1.0,
     .min = 0,
     .max = 20,
     .sliderMin = 0,
     .sliderMax = 4,
     .unit = Unit::None},
    {.id = "brightness",
     .label = "Brightness",
     .help = "Lifts or lowers all tones.",
     .base = 0.0,
     .min = -2,
     .max = 2,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::None},
    {.id = "invert", .label = "Invert", .help = "Swaps light and dark.", .type = ParamType::Toggle, .base = false, .rule = LoopRule::Fixed},
    {.id = "clamp",
     .label = "Clamp",
     .help = "Cuts tones off at black and white; without it later steps still see what lies beyond.",
     .type = ParamType::Toggle,
     .base = true,
     .rule = LoopRule::Fixed},
};

// What is steeper must be known more often: what cubic convolution misses grows with the third power.
double smooth(const StepContext& context, double input) { return input / std::cbrt(std::max(1.0, context.number("contrast"))); }

}  // namespace

const StepSpec& levelsStep() {
  static const StepSpec spec{.id = "levels",
                             .title = "Levels",
                             .group = "tone",
                             .help = "Contrast, brightness and inversion.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .smooth = smooth,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
