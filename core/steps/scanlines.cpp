// Scan lines: dark lines at equal distances, as an old screen has.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/scanlines.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct ScanLines {
  static constexpr int kAside = 1;
  PlanePlaces places;
  double x, y;  // across the lines, in lines for a pixel of the plane
  double begun;
  double half;  // of a dark line, as a share of their distance
  double soft;
  double depth;
  double even;  // how far they have run together, being finer than pixels

  explicit ScanLines(const StepContext& context) : places(context.view()) {
    const double pitch = context.number("pitch");
    const double angle = context.number("angle") * kDegree;
    x = -std::sin(angle) / pitch;
    y = std::cos(angle) / pitch;
    begun = context.number("travel") * context.progress("travel") + 0.5 * (context.view().frameWidth * x + context.view().frameHeight * y);
    half = context.number("width") / 2;
    // Never harder than a pixel.
    const double pixel = places.pixel / pitch;
    soft = std::max(context.number("soft") * std::min(half, 0.5 - half), std::min(0.25, pixel * 0.6)) + 1e-4;
    depth = context.number("depth");
    even = std::clamp(pixel * 2 - 0.6, 0.0, 1.0);
  }

  template <class N>
  void beside(N px, N py, N* out) const {
    const N off = absOf(fractOf(px * N(x) + py * N(y) - N(begun)) - N(0.5));
    const N dark = softOf((N(half) - off) * N(0.5 / soft) + N(0.5));
    out[0] = (dark + (N(2 * half) - dark) * N(even)) * N(depth);
  }

  template <class N>
  N tone(N v, N /*alpha*/, int /*channel*/, const N* aside) const {
    return v - v * aside[0];
  }
};

OA_POINT_FORMULA(ScanLines)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_POINT_STEP(ScanLines)

namespace {

const ParamSpec kParams[] = {
    {.id = "depth", .label = "Depth", .help = "How dark the lines are.", .base = 0.38, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "pitch",
     .label = "Pitch",
     .help = "From line to line.",
     .base = 8.0,
     .min = 1,
     .max = 2048,
     .sliderMin = 2,
     .sliderMax = 60,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "width", .label = "Width", .help = "How much of that is dark.", .base = 0.5, .min = 0.02, .max = 0.98, .unit = Unit::Share},
    {.id = "soft", .label = "Soft", .help = "How gently a line begins and ends.", .base = 0.8, .min = 0, .max = 1, .unit = Unit::Share},
    field_params::turned("angle", "Angle", 0.0, "Their direction."),
    {.id = "travel",
     .label = "Travel",
     .help = "Lines that they wander by within a lap.",
     .base = 0.0,
     .min = -256,
     .max = 256,
     .sliderMin = -16,
     .sliderMax = 16,
     .unit = Unit::Count,
     .rule = LoopRule::Progress,
     .defaultLaps = 1},
};

const StepVariant kVariants[] = {
    {"Rolling bar",
     "A wide soft bar that wanders down.",
     {{"pitch", 700.0}, {"width", 0.3}, {"soft", 1.0}, {"depth", 0.3}, {"travel", 1.0}}},
    {"Blinds", "Wide slanting shadows.", {{"pitch", 120.0}, {"width", 0.35}, {"soft", 0.5}, {"depth", 0.55}, {"angle", 14.0}}},
    {"Fine screen", "Lines of three pixels, upright.", {{"pitch", 3.0}, {"angle", 90.0}, {"depth", 0.3}}},
};

}  // namespace

const StepSpec& scanlinesStep() {
  static const StepSpec spec{.id = "scanlines",
                             .title = "Scan lines",
                             .group = "surface",
                             .help = "Lays fine dark lines over the picture, at rest or wandering.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .variants = kVariants,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
