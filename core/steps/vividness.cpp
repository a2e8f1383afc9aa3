// Saturation, vibrance, hue and tint.
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "fields/smoothness.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/vividness.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// The matrix of hueRotate in Filter Effects Module Level 1, section 9.6: luma is kept.
inline std::array<double, 9> hueMatrix(double degrees) {
  const double angle = std::remainder(degrees, 360.0) * std::numbers::pi / 180;
  const double c = std::cos(angle);
  const double s = std::sin(angle);
  const double r = kLuma[0], g = kLuma[1], b = kLuma[2];
  return {r + c * (1 - r) - s * r, g - c * g - s * g,       b - c * b + s * (1 - b), r - c * r + s * 0.143,  g + c * (1 - g) + s * 0.140,
          b - c * b - s * 0.283,   r - c * r - s * (1 - r), g - c * g + s * g,       b + c * (1 - b) + s * b};
}

struct Vividness {
  double saturation;
  double vibrance;
  std::array<double, 9> hue;  // rows of the hue rotation
  Colour tint;
  double strength;

  explicit Vividness(const StepContext& context)
      : saturation(context.number("saturation")),
        vibrance(context.number("vibrance")),
        hue(hueMatrix(context.number("hue"))),
        tint(context.colour("tint")),
        strength(context.number("amount") * static_cast<double>(tint.a)) {}

  template <class N>
  void colour(N (&c)[3], N a) const {
    const N one(1.0);
    const N straight = inverseOrZero(a);
    const N luma = mulAddOf(N(kLuma[0]), c[0], mulAddOf(N(kLuma[1]), c[1], N(kLuma[2]) * c[2]));
    // Vibrance is saturation that spares what is vivid already.
    const N spread = (maxOf(c[0], maxOf(c[1], c[2])) - minOf(c[0], minOf(c[1], c[2]))) * straight;
    const N gain = N(saturation) * mulAddOf(N(vibrance), one - spread, one);
    for (N& v : c) v = mulAddOf(v - luma, gain, luma);
    // Black to the tint to white, by luma.
    const N l = luma * straight;
    const N dark = minOf(one, l + l);
    const N light = maxOf(N(0.0), l + l - one);
    const double tints[3] = {tint.r, tint.g, tint.b};
    N turned[3];
    for (std::size_t k = 0; k < 3; ++k) {
      turned[k] = mulAddOf(N(hue[k * 3]), c[0], mulAddOf(N(hue[k * 3 + 1]), c[1], N(hue[k * 3 + 2]) * c[2]));
      const N target = mulAddOf(one - N(tints[k]), light, N(tints[k]) * dark) * a;
      turned[k] = minOf(a, maxOf(N(0.0), mulAddOf(target - turned[k], N(strength), turned[k])));
    }
    for (std::size_t k = 0; k < 3; ++k) c[k] = turned[k];
  }
};

OA_POINT_FORMULA(Vividness)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

OA_POINT_STEP(Vividness)

namespace {

const ParamSpec kParams[] = {
    {.id = "saturation",
     .label = "Saturation",
     .help = "Strength of all colours: none is grey, twice is loud.",
     .base = 1.0,
     .min = 0,
     .max = 4,
     .sliderMin = 0,
     .sliderMax = 2,
     .unit = Unit::Share},
    {.id = "vibrance",
     .label = "Vibrance",
     .help = "Strengthens pale colours and spares those that are vivid already; negative calms the pale ones.",
     .base = 0.0,
     .min = -1,
     .max = 2,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "hue",
     .label = "Hue turn",
     .help = "Turns all colours round the colour circle; greys stay as they are.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round},
    {.id = "tint",
     .label = "Tint",
     .help = "The colour that the middle tones are drawn towards.",
     .type = ParamType::Colour,
     .base = hexColour(0x1f7672)},
    {.id = "amount",
     .label = "Amount",
     .help = "How far they are drawn: nothing leaves the colours, all is a picture in one colour.",
     .base = 0.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

}  // namespace

const StepSpec& vividnessStep() {
  static const StepSpec spec{.id = "vividness",
                             .title = "Vividness",
                             .group = "colour",
                             .help = "Saturation, vibrance, a turn of all hues, and a tint.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .smooth = smoothAsBefore,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
