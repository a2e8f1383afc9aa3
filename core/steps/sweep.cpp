// Sweep: a soft bar of light that passes over the picture.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/sweep.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Sweep {
  static constexpr int kAside = 1;
  static constexpr bool kRestsAtZero = true;
  PlanePlaces places;
  double x, y, at;  // along the way, in widths
  double period;    // widths after which the next one comes
  double soft;
  double amount;
  double tones[4] = {};  // of the light; the last is the grey that stands for it on a field

  explicit Sweep(const StepContext& context) : places(context.view()), amount(context.number("amount")) {
    const PlaneView& view = context.view();
    const double angle = context.number("angle") * kDegree;
    const double width = context.number("width");
    x = std::cos(angle) / width;
    y = std::sin(angle) / width;
    const double whole = std::abs(x) * view.frameWidth + std::abs(y) * view.frameHeight;
    // It comes in and goes out wholly: each passage is as long as the frame and the bar.
    period = whole + 1;
    const double passed = fract(context.number("passes") * context.progress("passes") + context.number("position"));
    at = 0.5 * (x * view.frameWidth + y * view.frameHeight) + (passed - 0.5) * period;
    soft = context.number("soft");
    const Colour colour = context.colour("colour");
    const float parts[3] = {colour.r, colour.g, colour.b};
    amount *= static_cast<double>(colour.a);
    for (int i = 0; i < 3; ++i) {
      tones[i] = static_cast<double>(parts[i]);
      tones[3] += static_cast<double>(kLuma[i]) * tones[i];
    }
  }

  template <class N>
  void beside(N px, N py, N* out) const {
    // The nearest of the bars that follow each other.
    const N off = px * N(x) + py * N(y) - N(at);
    const N near = absOf(off - floorOf(off * N(1 / period) + N(0.5)) * N(period));
    out[0] = softOf((N(0.5) - near) * N(1 / std::max(0.02, 0.5 * soft))) * N(amount);
  }

  template <class N>
  N tone(N v, N alpha, int channel, const N* aside) const {
    return v + (alpha - v) * aside[0] * N(tones[channel]);
  }
};

OA_POINT_FORMULA(Sweep)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_POINT_STEP(Sweep)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount", .label = "Amount", .help = "How bright the bar is.", .base = 0.5, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "width",
     .label = "Width",
     .help = "Of the bar.",
     .base = 460.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 20,
     .sliderMax = 1600,
     .unit = Unit::Pixels},
    {.id = "soft", .label = "Soft", .help = "How gently it begins and ends.", .base = 1.0, .min = 0, .max = 1, .unit = Unit::Share},
    field_params::turned("angle", "Direction", 24.0, "Where it goes to."),
    field_params::goneBy("passes", "Passes", 1.0, 8, "How often it passes within a lap; negative ones go back."),
    {.id = "position",
     .label = "Position",
     .help = "How far it has come where the loop begins: 0 is before it comes in, a half is the middle.",
     .base = 0.25,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "colour", .label = "Colour", .help = "Of the light.", .type = ParamType::Colour, .base = hexColour(0xfff1d6)},
};

const StepVariant kVariants[] = {
    {"Lighthouse",
     "Two wide warm beams within a lap.",
     {{"width", 900.0}, {"passes", 2.0}, {"colour", hexColour(0xffd9a0)}, {"angle", 0.0}, {"amount", 0.6}}},
    {"Glint", "A narrow bright bar, aslant.", {{"width", 120.0}, {"amount", 0.85}, {"angle", 32.0}, {"soft", 0.7}}},
    {"Scanner", "A hard line that goes down.", {{"width", 70.0}, {"angle", 90.0}, {"soft", 0.3}, {"colour", hexColour(0x9fe8e0)}}},
};

}  // namespace

const StepSpec& sweepStep() {
  static const StepSpec spec{.id = "sweep",
                             .title = "Sweep",
                             .group = "light",
                             .help = "Lets a soft bar of light pass over the picture.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .variants = kVariants,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
