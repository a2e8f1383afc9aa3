// Swirl: the picture turned round a place, most in the middle and not at all beyond its reach. The lens that others are copied from: a
// formula, a table.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/swirl.cpp"
#include <hwy/foreach_target.h>
#include "simd/power-inl.h"
#include "simd/turns-inl.h"
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Swirl {
  Point centre;
  double angle;  // radians
  double reach;
  double power;  // how steeply it falls off

  explicit Swirl(const StepContext& context)
      : centre(placeOf(context, "centre")),
        angle(context.number("angle") * kDegree),
        reach(context.number("reach")),
        power(std::exp2(3 * context.number("falloff") - 1)) {}

  [[nodiscard]] bool rests() const { return angle == 0; }
  [[nodiscard]] double bends() const { return reach / (32 * std::max(1.0, std::abs(angle) / std::numbers::pi)); }

  template <class N>
  void from(N& px, N& py) const {
    const N dx = px - N(centre.x);
    const N dy = py - N(centre.y);
    const N near = maxOf(N(1e-6), N(1.0) - rootOf(dx * dx + dy * dy) * N(1 / reach));
    N c, s;
    sineAndCosineOf(softOf(powerOf(near, power)) * N(angle), s, c);
    px = N(centre.x) + dx * c + dy * s;
    py = N(centre.y) + dy * c - dx * s;
  }
};

OA_LENS_FORMULA(Swirl)
OA_SMOOTH_LENS(Swirl)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Swirl)
OA_SMOOTH_STEP(Swirl)

namespace {

const ParamSpec kParams[] = {
    {.id = "angle",
     .label = "Angle",
     .help = "How far the middle is turned; negative turns anticlockwise.",
     .type = ParamType::Angle,
     .base = 150.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -540,
     .sliderMax = 540,
     .unit = Unit::Degrees},
    {.id = "reach",
     .label = "Reach",
     .help = "How far from its centre it ends.",
     .base = 620.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 20,
     .sliderMax = 1600,
     .unit = Unit::Pixels,
     .grip = Grip{.from = "centre"}},
    {.id = "falloff",
     .label = "Falloff",
     .help = "None turns most of it evenly, all winds up the middle alone.",
     .base = 0.4,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::place("centre", "Centre", {0.5, 0.5}, "What it turns round; 0 to 1 across and down the frame."),
};

const StepVariant kVariants[] = {
    {"Drain", "Wound up tightly round the middle.", {{"angle", 720.0}, {"falloff", 0.75}, {"reach", 760.0}}},
    {"To and fro",
     "A gentle turn that swings one way and the other.",
     {{"angle", -60.0}, {"reach", 900.0}, {"falloff", 0.2}},
     {{"angle", MotionKind::Swing, 60.0}}},
    {"Off the corner", "Winds round what lies at the upper right.", {{"angle", 260.0}, {"reach", 1100.0}, {"centre", Point{0.82, 0.24}}}},
};

}  // namespace

const StepSpec& swirlStep() {
  static const StepSpec spec{.id = "swirl",
                             .title = "Swirl",
                             .group = "bend",
                             .help = "Turns the picture round a place, most in the middle, as stirred paint.",
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
