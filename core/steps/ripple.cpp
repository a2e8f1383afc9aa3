// Ripple: rings round a place, or waves in rows, that run on by whole waves.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/ripple.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Ripple {
  Point centre;
  Point way;  // of waves in rows
  bool rings;
  bool aside;  // pixels move across the waves, else with them
  double amount;
  double length;
  double begun;  // waves that have gone by
  double reach;

  explicit Ripple(const StepContext& context)
      : centre(placeOf(context, "centre")),
        way{std::cos(context.number("angle") * kDegree), std::sin(context.number("angle") * kDegree)},
        rings(context.choice("shape") == "rings"),
        aside(context.choice("push") == "aside"),
        amount(context.number("amount")),
        length(context.number("length")),
        begun(context.number("travel") * context.progress("travel")),
        reach(context.number("reach")) {}

  [[nodiscard]] bool rests() const { return amount == 0; }
  [[nodiscard]] double bends() const { return length / 24; }

  template <class N>
  void from(N& px, N& py) const {
    const N dx = px - N(centre.x);
    const N dy = py - N(centre.y);
    const N far = rootOf(dx * dx + dy * dy);
    N ux(way.x);
    N uy(way.y);
    N along = dx * ux + dy * uy;
    N push = softOf(N(1.0) - far * N(1 / reach)) * N(amount);
    if (rings) {
      const N part = inverseOrZero(far);
      ux = dx * part;
      uy = dy * part;
      along = far;
      // In the middle there is no direction to move in.
      push = push * minOf(N(1.0), far * N(4 / length));
    }
    push = push * sineOf(fractOf(along * N(1 / length) - N(begun)) * N(2 * std::numbers::pi));
    px = px + (aside ? N(0.0) - uy : ux) * push;
    py = py + (aside ? ux : uy) * push;
  }
};

OA_LENS_FORMULA(Ripple)
OA_SMOOTH_LENS(Ripple)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Ripple)
OA_SMOOTH_STEP(Ripple)

namespace {

const ParamSpec kParams[] = {
    {.id = "shape",
     .label = "Shape",
     .help = "Rings round the centre, or waves in rows.",
     .type = ParamType::Choice,
     .base = std::string("rings"),
     .rule = LoopRule::Fixed,
     .choices = {"rings", "rows"}},
    {.id = "amount",
     .label = "Amount",
     .help = "How far pixels are moved at most.",
     .base = 16.0,
     .min = 0,
     .max = 4096,
     .sliderMin = 0,
     .sliderMax = 120,
     .unit = Unit::Pixels},
    {.id = "length",
     .label = "Length",
     .help = "From crest to crest.",
     .base = 190.0,
     .min = 2,
     .max = 8192,
     .sliderMin = 16,
     .sliderMax = 800,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "push",
     .label = "Push",
     .help = "With the waves, as water does, or aside, as a flag.",
     .type = ParamType::Choice,
     .base = std::string("along"),
     .rule = LoopRule::Fixed,
     .choices = {"along", "aside"}},
    field_params::goneBy("travel", "Travel", 2.0, 8, "Waves that go by within a lap; negative ones come in."),
    {.id = "angle",
     .label = "Direction",
     .help = "Where rows of waves run to.",
     .type = ParamType::Angle,
     .base = 20.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round,
     .shownWhen = ShownWhen{"shape", {"rows"}},
     .grip = Grip{.kind = Grip::Kind::Way, .from = "centre"}},
    {.id = "reach",
     .label = "Reach",
     .help = "How far from the centre they have died down.",
     .base = 1300.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 50,
     .sliderMax = 3000,
     .unit = Unit::Pixels,
     .grip = Grip{.from = "centre"}},
    field_params::place("centre", "Centre", {0.5, 0.5}, "Where they come from; 0 to 1 across and down the frame."),
};

const StepVariant kVariants[] = {
    {"Flag",
     "Long waves that shake it aside.",
     {{"shape", std::string("rows")},
      {"push", std::string("aside")},
      {"amount", 34.0},
      {"length", 620.0},
      {"angle", 8.0},
      {"reach", 4000.0},
      {"travel", 1.0}}},
    {"Raindrop",
     "Narrow rings that die down soon.",
     {{"amount", 11.0}, {"length", 84.0}, {"reach", 620.0}, {"travel", 4.0}, {"centre", Point{0.38, 0.44}}}},
    {"Heat",
     "Short rows that rise.",
     {{"shape", std::string("rows")},
      {"push", std::string("aside")},
      {"amount", 5.0},
      {"length", 70.0},
      {"angle", -90.0},
      {"reach", 4000.0},
      {"travel", 6.0}}},
};

}  // namespace

const StepSpec& rippleStep() {
  static const StepSpec spec{.id = "ripple",
                             .title = "Ripple",
                             .group = "bend",
                             .help = "Sets the picture waving, in rings from a place or in rows, as water does.",
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
