// Bulge and pinch: the picture swells round a place, or is drawn in.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/bulge.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Bulge {
  Point centre;
  double amount;
  double reach;

  explicit Bulge(const StepContext& context)
      : centre(placeOf(context, "centre")), amount(context.number("amount")), reach(context.number("reach")) {}

  [[nodiscard]] bool rests() const { return amount == 0; }
  [[nodiscard]] double bends() const { return reach / 32; }

  template <class N>
  void from(N& px, N& py) const {
    const N dx = px - N(centre.x);
    const N dy = py - N(centre.y);
    const N near = softOf(N(1.0) - rootOf(dx * dx + dy * dy) * N(1 / reach)) * N(amount);
    px = px - dx * near;
    py = py - dy * near;
  }
};

OA_LENS_FORMULA(Bulge)
OA_SMOOTH_LENS(Bulge)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Bulge)
OA_SMOOTH_STEP(Bulge)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How much the middle swells; negative draws it in.",
     .base = 0.6,
     .min = -1,
     .max = 0.95,
     .unit = Unit::Share},
    {.id = "reach",
     .label = "Reach",
     .help = "How far from its centre it ends.",
     .base = 520.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 20,
     .sliderMax = 1600,
     .unit = Unit::Pixels,
     .grip = Grip{.from = "centre"}},
    field_params::place("centre", "Centre", {0.5, 0.5}, "The middle of what swells; 0 to 1 across and down the frame."),
};

const StepVariant kVariants[] = {
    {"Breath", "Swells and sinks.", {{"amount", 0.1}, {"reach", 900.0}}, {{"amount", MotionKind::Swing, 0.7}}},
    {"Drawn in", "All is drawn towards the middle.", {{"amount", -0.9}, {"reach", 1100.0}}},
    {"Magnifier", "A strong glass at one side.", {{"amount", 0.85}, {"reach", 330.0}, {"centre", Point{0.7, 0.42}}}},
};

}  // namespace

const StepSpec& bulgeStep() {
  static const StepSpec spec{.id = "bulge",
                             .title = "Bulge and pinch",
                             .group = "bend",
                             .help = "Swells the picture round a place as a lens does, or draws it in.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .smooth = smooth,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
