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
  bool facing;
  double apart;
  double side, other;  // which half is kept: 1 or -1, across and down

  explicit Mirror(const StepContext& context)
      : at(placeOf(context, "line")),
        c(std::cos(context.number("angle") * kDegree)),
        s(std::sin(context.number("angle") * kDegree)),
        quarters(context.choice("parts") == "quarters"),
        facing(context.choice("parts") == "facing"),
        apart(context.number("apart")),
        side(context.toggle("flip") ? 1 : -1),
        other(context.toggle("flipDown") ? 1 : -1) {}

  [[nodiscard]] bool rests() const { return false; }

  // What is kept is not touched: it is the same to the last bit.
  template <class N>
  void from(N& px, N& py) const {
    const N dx = px - N(at.x);
    const N dy = py - N(at.y);
    if (facing) {
      // Between the two nothing is touched; beyond them it goes there and back.
      const N t = dx * N(c) + dy * N(s);
      const N off = whereLess(absOf(t), N(apart / 2), N(0.0), mirroredOf(t + N(apart / 2), apart) - N(apart / 2) - t);
      px = px + off * N(c);
      py = py + off * N(s);
      return;
    }
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
     .help = "Halves at one line, quarters at two, or all that two mirrors show that face each other.",
     .type = ParamType::Choice,
     .base = std::string("halves"),
     .rule = LoopRule::Fixed,
     .choices = {"halves", "quarters", "facing"}},
    {.id = "apart",
     .label = "Apart",
     .help = "How far the two mirrors are from each other.",
     .base = 420.0,
     .min = 4,
     .max = 16384,
     .sliderMin = 40,
     .sliderMax = 2000,
     .unit = Unit::Pixels,
     .shownWhen = ShownWhen{"parts", {"facing"}}},
    field_params::place("line", "Line", {0.5, 0.5},
                        "A place of the mirror; 0 to 1 across and down the frame. Far outside, nothing is changed."),
    field_params::turned("angle", "Angle", 0.0, "The direction that the mirror looks in.", Grip{.kind = Grip::Kind::Way, .from = "line"}),
    {.id = "flip",
     .label = "Other half",
     .help = "Keeps what lies before the mirror, not what lies behind it.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed,
     .shownWhen = ShownWhen{"parts", {"halves", "quarters"}}},
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
    {"Between two mirrors",
     "Above and below it is seen again, and again.",
     {{"parts", std::string("facing")}, {"angle", 90.0}, {"apart", 360.0}}},
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
