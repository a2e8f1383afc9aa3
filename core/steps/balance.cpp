// Balance by tones: another tinge in the shadows, the middle tones and the lights.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/balance.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Balance {
  double tinge[3][3];  // of shadows, middles, lights: off their own grey
  double amount;

  explicit Balance(const StepContext& context) : amount(context.number("amount")) {
    const char* const ids[3] = {"shadows", "middles", "lights"};
    for (int tone = 0; tone < 3; ++tone) {
      const Colour colour = context.colour(ids[tone]);
      const float parts[3] = {colour.r, colour.g, colour.b};
      double grey = 0;
      for (int k = 0; k < 3; ++k) grey += static_cast<double>(kLuma[k] * parts[k]);
      for (int k = 0; k < 3; ++k) tinge[tone][k] = (static_cast<double>(parts[k]) - grey) * static_cast<double>(colour.a);
    }
  }

  template <class N>
  void colour(N (&c)[3], N alpha) const {
    const N light =
        (c[0] * N(static_cast<double>(kLuma[0])) + c[1] * N(static_cast<double>(kLuma[1])) + c[2] * N(static_cast<double>(kLuma[2]))) *
        inverseOrZero(alpha);
    const N dark = softOf(N(1.0) - light * N(2.0));
    const N bright = softOf(light * N(2.0) - N(1.0));
    const N middle = N(1.0) - dark - bright;
    // Black has no room for a tinge, nor has white.
    const N room = alpha * N(amount) * minOf(N(1.0), minOf(light, N(1.0) - light) * N(5.0));
    for (int k = 0; k < 3; ++k)
      c[k] = maxOf(N(0.0), minOf(alpha, c[k] + room * (dark * N(tinge[0][k]) + middle * N(tinge[1][k]) + bright * N(tinge[2][k]))));
  }
};

OA_POINT_FORMULA(Balance)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"
#include "fields/smoothness.h"

namespace oa {

OA_POINT_STEP(Balance)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How strong the tinges are.",
     .base = 0.6,
     .min = 0,
     .max = 2,
     .sliderMin = 0,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "shadows",
     .label = "Shadows",
     .help = "The tinge of what is dark; greys have none.",
     .type = ParamType::Colour,
     .base = hexColour(0x1d5c7a)},
    {.id = "middles", .label = "Middles", .help = "The tinge of what is neither.", .type = ParamType::Colour, .base = hexColour(0x8a8078)},
    {.id = "lights", .label = "Lights", .help = "The tinge of what is light.", .type = ParamType::Colour, .base = hexColour(0xd9a25a)},
};

const StepVariant kVariants[] = {
    {"Old print",
     "Brown in the dark, cream in the light.",
     {{"shadows", hexColour(0x5a3a2a)}, {"middles", hexColour(0x9a7f5e)}, {"lights", hexColour(0xe0cf9a)}, {"amount", 0.8}}},
    {"Deep water",
     "Green and blue below, a cold light above.",
     {{"shadows", hexColour(0x0d4a50)}, {"middles", hexColour(0x2e7f86)}, {"lights", hexColour(0xb8dce0)}, {"amount", 0.9}}},
    {"Evening",
     "Violet shadows, rosy lights.",
     {{"shadows", hexColour(0x4a2f7d)}, {"middles", hexColour(0xa06a7e)}, {"lights", hexColour(0xf0b07a)}, {"amount", 0.8}}},
};

}  // namespace

const StepSpec& balanceStep() {
  static const StepSpec spec{.id = "balance",
                             .title = "Balance by tones",
                             .group = "colour",
                             .help = "Gives shadows, middle tones and lights a tinge each; light and dark stay as they are.",
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
