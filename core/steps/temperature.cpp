// Temperature: warmer or colder light, greener or redder.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/temperature.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Temperature {
  double gain[3];

  // What multiplies light multiplies encoded values too, by a power: both shift greys alike.
  explicit Temperature(const StepContext& context) {
    const double warm = context.number("warmth");
    const double tint = context.number("tint");
    gain[0] = std::exp(0.28 * warm + 0.1 * tint);
    gain[1] = std::exp(0.03 * warm - 0.2 * tint);
    gain[2] = std::exp(-0.38 * warm + 0.1 * tint);
    double grey = 0;
    for (int k = 0; k < 3; ++k) grey += static_cast<double>(kLuma[k]) * gain[k];
    for (double& g : gain) g /= grey;
  }

  template <class N>
  void colour(N (&c)[3], N alpha) const {
    for (int k = 0; k < 3; ++k) c[k] = minOf(alpha, c[k] * N(gain[k]));
  }
};

OA_POINT_FORMULA(Temperature)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"
#include "fields/smoothness.h"

namespace oa {

OA_POINT_STEP(Temperature)

namespace {

const ParamSpec kParams[] = {
    {.id = "warmth",
     .label = "Warmth",
     .help = "Towards amber, or, below 0, towards blue.",
     .base = 0.45,
     .min = -2,
     .max = 2,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::None},
    {.id = "tint",
     .label = "Tint",
     .help = "Towards rose, or, below 0, towards green.",
     .base = 0.0,
     .min = -2,
     .max = 2,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::None},
};

const StepVariant kVariants[] = {
    {"Shade", "Colder, as where the sun does not come.", {{"warmth", -0.6}, {"tint", 0.1}}},
    {"Under leaves", "A green light.", {{"warmth", 0.15}, {"tint", -0.7}}},
    {"Day and night", "From warm to cold and back.", {{"warmth", 0.7}}, {{"warmth", MotionKind::Swing, -0.8}}},
};

}  // namespace

const StepSpec& temperatureStep() {
  static const StepSpec spec{
      .id = "temperature",
      .title = "Temperature",
      .group = "colour",
      .help = "Makes the light warmer or colder, as towards evening or in the shade, without making it lighter or darker.",
      .kind = StepKind::Point,
      .params = kParams,
      .variants = kVariants,
      .point = make,
      .smooth = smoothAsBefore,
      .reference = reference};
  return spec;
}

}  // namespace oa
#endif
