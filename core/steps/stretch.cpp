// Stretch: what lies at two lines drawn out beyond them, as far as the picture is smeared to nothing but streaks.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/stretch.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Stretch {
  Point centre;
  Point way;
  double half;  // from the centre to where streaks begin
  double soft;  // over how far they do
  double fade;  // how far they go on; 0: for ever
  bool ahead, behind;
  double amount;

  explicit Stretch(const StepContext& context)
      : centre(placeOf(context, "centre")),
        way{std::cos(context.number("angle") * kDegree), std::sin(context.number("angle") * kDegree)},
        half((std::abs(way.x) * context.view().frameWidth + std::abs(way.y) * context.view().frameHeight) / 2 *
             (1 - context.number("amount"))),
        soft(context.number("soft") * half * 0.999),
        fade(context.number("fade")),
        ahead(context.choice("sides") != "behind"),
        behind(context.choice("sides") != "ahead"),
        amount(context.number("amount")) {}

  [[nodiscard]] bool rests() const { return amount == 0; }
  [[nodiscard]] bool opaque() const { return fade == 0; }

  // As far as `half - soft` nothing is changed; then the picture is drawn out more and more, until at `half + soft` it stands still.
  template <class N>
  N held(N t) const {
    const N over = maxOf(N(0.0), t - N(half - soft));
    const N eased = over - over * over * N(0.25 / std::max(1e-6, soft));
    return minOf(t, N(half - soft)) + whereLess(over, N(2 * soft), eased, N(soft));
  }

  template <class N>
  void from(N& px, N& py) const {
    const N t = (px - N(centre.x)) * N(way.x) + (py - N(centre.y)) * N(way.y);
    N by(0.0);
    if (ahead) by = by + minOf(N(0.0), held(t) - t);
    if (behind) by = by + maxOf(N(0.0), N(0.0) - t - held(N(0.0) - t));
    px = px + by * N(way.x);
    py = py + by * N(way.y);
  }

  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    if (fade == 0) return;
    const N t = (px - N(centre.x)) * N(way.x) + (py - N(centre.y)) * N(way.y);
    N out(0.0);
    if (ahead) out = maxOf(out, t - N(half));
    if (behind) out = maxOf(out, N(0.0) - t - N(half));
    const N there = softOf(N(1.0) - out * N(1 / fade));
    for (int k = 0; k < 4; ++k) c[k] = c[k] * there;
  }
};

OA_LENS_FORMULA(Stretch)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Stretch)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How much of the picture is drawn out: none leaves it as it is, all leaves nothing but streaks.",
     .base = 0.55,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::turned("angle", "Angle", 0.0, "The direction it is drawn out in.", Grip{.kind = Grip::Kind::Way, .from = "centre"}),
    {.id = "sides",
     .label = "Sides",
     .help = "Ahead in that direction, behind, or both.",
     .type = ParamType::Choice,
     .base = std::string("both"),
     .rule = LoopRule::Fixed,
     .choices = {"both", "ahead", "behind"}},
    {.id = "soft", .label = "Soft", .help = "How gently streaks begin.", .base = 0.5, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "fade",
     .label = "Fade",
     .help = "How far streaks go before they are gone; 0 for ever.",
     .base = 0.0,
     .min = 0,
     .max = 16384,
     .sliderMin = 0,
     .sliderMax = 2000,
     .unit = Unit::Pixels},
    field_params::place("centre", "Centre", {0.5, 0.5}, "What stays; 0 to 1 across and down the frame."),
};

const StepVariant kVariants[] = {
    {"Rain streaks", "All below the middle runs down.", {{"angle", 90.0}, {"sides", std::string("ahead")}, {"amount", 0.9}}},
    {"Smear", "Drawn out to one side and gone.", {{"sides", std::string("ahead")}, {"amount", 0.7}, {"fade", 900.0}}},
    {"Breathing", "From whole to streaks and back.", {{"amount", 0.0}}, {{"amount", MotionKind::Swing, 0.9}}},
};

}  // namespace

const StepSpec& stretchStep() {
  static const StepSpec spec{
      .id = "stretch",
      .title = "Stretch",
      .group = "bend",
      .help = "Draws the picture out at one side or both, as wet paint is smeared: from where it begins there are streaks alone.",
      .kind = StepKind::Area,
      .params = kParams,
      .variants = kVariants,
      .area = make,
      .reference = reference};
  return spec;
}

}  // namespace oa
#endif
