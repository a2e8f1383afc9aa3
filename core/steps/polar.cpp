// Polar: lines bent to rings, or rings drawn out to lines.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/polar.cpp"
#include <hwy/foreach_target.h>
#include "simd/turns-inl.h"
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Polar {
  Point centre;
  double width, height;  // of the frame
  bool ring;
  bool mirrored;
  double copies;
  double outer;
  double turn;  // shares of a round
  double amount;
  double pole;  // pixels of the plane about the centre where what goes all round runs together

  explicit Polar(const StepContext& context)
      : centre(placeOf(context, "centre")),
        width(context.view().frameWidth),
        height(context.view().frameHeight),
        ring(context.choice("way") == "ring"),
        mirrored(context.toggle("mirrored")),
        copies(context.number("copies")),
        outer(context.number("radius")),
        turn(context.number("turn") / 360),
        amount(context.number("amount")),
        pole(2 / context.view().scale) {}

  [[nodiscard]] bool rests() const { return amount == 0; }

  template <class N>
  void from(N& px, N& py) const {
    N x, y;
    if (ring) {
      const N dx = px - N(centre.x);
      const N dy = py - N(centre.y);
      // Begins above, where rings have their beginning; clockwise.
      const N round = fractOf(angleOf(N(0.0) - dx, dy) * N(0.5 / std::numbers::pi) + N(0.5 - turn)) * N(copies);
      const N far = rootOf(dx * dx + dy * dy);
      const N share = mirrored ? mirroredOf(round * N(2.0), 1.0) : round;
      x = N(0.5 * width) + (share - N(0.5)) * minOf(N(1.0), far * N(1 / pole)) * N(width);
      y = N(height) - far * N(height / outer);
    } else {
      const N share = px * N(copies / width);
      const N round = ((mirrored ? mirroredOf(share * N(2.0), 1.0) : share) + N(turn)) * N(2 * std::numbers::pi);
      const N far = (N(height) - py) * N(outer / height);
      N sine, cosine;
      sineAndCosineOf(round, sine, cosine);
      x = N(centre.x) + sine * far;
      y = N(centre.y) - cosine * far;
    }
    px = px + (x - px) * N(amount);
    py = py + (y - py) * N(amount);
  }
};

OA_LENS_FORMULA(Polar)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Polar)

namespace {

const ParamSpec kParams[] = {
    {.id = "way",
     .label = "Way",
     .help = "Rows become rings (ring), or what lies round the centre becomes rows (line).",
     .type = ParamType::Choice,
     .base = std::string("ring"),
     .rule = LoopRule::Fixed,
     .choices = {"ring", "line"}},
    {.id = "amount",
     .label = "Amount",
     .help = "How far it is bent; none leaves the picture as it is.",
     .base = 1.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "radius",
     .label = "Radius",
     .help = "How far from the centre the frame's upper edge comes to lie.",
     .base = 1000.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 50,
     .sliderMax = 2400,
     .unit = Unit::Pixels,
     .grip = Grip{.from = "centre"}},
    {.id = "copies",
     .label = "Copies",
     .help = "How often the picture goes round.",
     .type = ParamType::Integer,
     .base = 1.0,
     .min = 1,
     .max = 64,
     .sliderMin = 1,
     .sliderMax = 12,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "mirrored",
     .label = "Mirrored",
     .help = "Goes there and back, so that no seam is left; off for pictures whose left and right meet.",
     .type = ParamType::Toggle,
     .base = true,
     .rule = LoopRule::Fixed},
    field_params::turned("turn", "Turn", 0.0, "Where on the ring it begins."),
    field_params::place("centre", "Centre", {0.5, 0.5}, "The middle of the rings; 0 to 1 across and down the frame."),
};

const StepVariant kVariants[] = {
    {"Rays", "Many copies, drawn out from the middle.", {{"copies", 9.0}, {"radius", 2400.0}}},
    {"Turntable", "The ring goes round.", {{"copies", 3.0}}, {{"turn", MotionKind::Turn, 0.0, 1}}},
    {"Unrolled", "What lies round the middle, as rows.", {{"way", std::string("line")}}},
};

}  // namespace

const StepSpec& polarStep() {
  static const StepSpec spec{.id = "polar",
                             .title = "Polar",
                             .group = "fold",
                             .help = "Bends the picture to a ring round a place, or draws what lies round a place out to a line.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
