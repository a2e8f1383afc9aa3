// Darker (or coloured) corners.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "fields/smoothness.h"
#include "fields/lattice.h"
#include "image/colour.h"
#include "simd/ramps.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/vignette.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Vignette {
  static constexpr int kAside = 1;
  Ramp ramp;     // distance from the centre, 1 where the vignette is at its full strength
  double inner;  // where it begins, as a share of that
  double amount;
  double tones[4] = {};  // of the colour, display-encoded; the last is the grey that stands for it on a field

  explicit Vignette(const StepContext& context) {
    const PlaneView& view = context.view();
    const double softness = context.number("softness");
    const double round = context.number("roundness");
    const double mean = std::sqrt(view.frameWidth * view.frameHeight);
    // The middle of the soft edge lies at `size`.
    const double outer = context.number("size") * (1 + 0.6 * softness);
    inner = (1 - 0.9 * softness) / (1 + 0.6 * softness);
    const double rx = mix(view.frameWidth, mean, round) / 2 * outer * std::sqrt(2.0);
    const double ry = mix(view.frameHeight, mean, round) / 2 * outer * std::sqrt(2.0);
    const Point centre = context.point("centre");
    ramp.kind = RampKind::Radial;
    ramp.extend = RampExtend::Hold;
    setAxes(ramp, axesAlong(view, {centre.x * view.frameWidth, centre.y * view.frameHeight}, {1 / rx, 0}, {0, 1 / ry}));
    const Colour colour = context.colour("colour");
    amount = context.number("amount") * static_cast<double>(colour.a);
    const float parts[3] = {colour.r, colour.g, colour.b};
    for (int i = 0; i < 3; ++i) {
      tones[i] = static_cast<double>(parts[i]);
      tones[3] += static_cast<double>(kLuma[i]) * tones[i];
    }
  }

  void aside(int x0, int y, int n, int /*channels*/, float* const* out) const { rampSpan(ramp, x0, y, n, out[0]); }
  double asideAt(int /*plane*/, int x, int y) const { return rampAt(ramp, x, y); }

  template <class N>
  N tone(N v, N alpha, int channel, const N* aside) const {
    const N cover = softOf((aside[0] - N(inner)) * N(1 / std::max(1e-3, 1 - inner))) * N(amount);
    return v + (N(tones[channel]) * alpha - v) * cover;
  }
};

OA_POINT_FORMULA(Vignette)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

OA_POINT_STEP(Vignette)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How strongly the corners take on the colour.",
     .base = 0.6,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "size",
     .label = "Size",
     .help = "How large the clear middle is, against the frame.",
     .base = 0.75,
     .min = 0.05,
     .max = 3,
     .sliderMin = 0.1,
     .sliderMax = 1.5,
     .unit = Unit::Share},
    {.id = "softness",
     .label = "Softness",
     .help = "Width of the edge between the clear middle and the corners.",
     .base = 0.8,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "roundness",
     .label = "Roundness",
     .help = "None follows the frame's proportions, all is a circle.",
     .base = 0.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::place("centre", "Centre", {0.5, 0.5}, "The middle of what stays clear; 0 to 1 across and down the frame."),
    {.id = "colour", .label = "Colour", .help = "What the corners turn into.", .type = ParamType::Colour, .base = hexColour(0x05080b)},
};

}  // namespace

const StepSpec& vignetteStep() {
  static const StepSpec spec{.id = "vignette",
                             .title = "Vignette",
                             .group = "colour",
                             .help = "Lets the corners sink into a colour, so that the eye stays in the middle.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .smooth = smoothAsBefore,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
