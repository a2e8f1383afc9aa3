// Mirror: halves or quarters of the picture, mirrored at any line.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/mirror.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Mirror {
  Point at;
  double c, s;
  bool quarters;
  double side, other;  // which half is kept: 1 or -1, across and down

  explicit Mirror(const StepContext& context)
      : at(placeOf(context, "line")),
        c(std::cos(context.number("angle") * kDegree)),
        s(std::sin(context.number("angle") * kDegree)),
        quarters(context.choice("parts") == "quarters"),
        side(context.toggle("flip") ? 1 : -1),
        other(context.toggle("flipDown") ? 1 : -1) {}

  [[nodiscard]] bool rests() const { return false; }

  // What is kept is not touched: it is the same to the last bit.
  template <class N>
  void from(N& px, N& py) const {
    const N dx = px - N(at.x);
    const N dy = py - N(at.y);
    const N over = minOf(N(0.0), (dx * N(c) + dy * N(s)) * N(side));
    px = px - over * N(2 * side * c);
    py = py - over * N(2 * side * s);
    if (!quarters) return;
    const N below = minOf(N(0.0), (dy * N(c) - dx * N(s)) * N(other));
    px = px + below * N(2 * other * s);
    py = py - below * N(2 * other * c);
  }
};

OA_LENS_FORMULA(Mirror)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Mirror)

namespace {

const ParamSpec kParams[] = {
    {.id = "parts",
     .label = "Parts",
     .help = "Halves at one line, or quarters at two.",
     .type = ParamType::Choice,
     .base = std::string("halves"),
     .rule = LoopRule::Fixed,
     .choices = {"halves", "quarters"}},
    field_params::place("line", "Line", {0.5, 0.5},
                        "A place of the mirror; 0 to 1 across and down the frame. Far outside, nothing is changed."),
    {.id = "angle",
     .label = "Angle",
     .help = "The direction that the mirror looks in.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round,
     .grip = Grip{.kind = Grip::Kind::Way, .from = "line"}},
    {.id = "flip",
     .label = "Other half",
     .help = "Keeps what lies before the mirror, not what lies behind it.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed},
    {.id = "flipDown",
     .label = "Lower half",
     .help = "The same of the second mirror.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed,
     .shownWhen = ShownWhen{"parts", {"quarters"}}},
};

const StepVariant kVariants[] = {
    {"Still lake", "What stands above lies mirrored below.", {{"angle", 90.0}, {"line", Point{0.5, 0.6}}}},
    {"Four corners", "The upper left in all four.", {{"parts", std::string("quarters")}}},
    {"Turning leaf", "A mirror that goes round.", {}, {{"angle", MotionKind::Turn, 0.0, 1}}},
};

}  // namespace

const StepSpec& mirrorStep() {
  static const StepSpec spec{.id = "mirror",
                             .title = "Mirror",
                             .group = "fold",
                             .help = "Mirrors one half of the picture onto the other, or one quarter onto three.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
