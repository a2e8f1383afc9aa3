// Kaleidoscope: one wedge of the picture, mirrored round a centre.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/kaleidoscope.cpp"
#include <hwy/foreach_target.h>
#include "simd/turns-inl.h"
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Kaleidoscope {
  Point centre;
  Point reads;
  int sides;
  double wedge;  // radians, from mirror to mirror
  double c, s;   // of the turn of what is shown
  double readC, readS;
  double times;  // of what is read

  explicit Kaleidoscope(const StepContext& context)
      : centre(placeOf(context, "centre")),
        reads(placeOf(context, "reads")),
        sides(context.integer("sides")),
        wedge(std::numbers::pi / sides),
        c(std::cos(context.number("turn") * kDegree)),
        s(std::sin(context.number("turn") * kDegree)),
        readC(std::cos(context.number("from") * kDegree)),
        readS(std::sin(context.number("from") * kDegree)),
        times(1 / context.number("size")) {}

  [[nodiscard]] bool rests() const {
    return sides == 1 && times == 1 && centre == reads && std::abs(c - readC) < 1e-12 && std::abs(s - readS) < 1e-12;
  }

  // Folds what can be folded by exchanging and turning signs that way, so that it is the same to the last bit on either side.
  template <class N>
  void from(N& px, N& py) const {
    const N ox = px - N(centre.x);
    const N oy = py - N(centre.y);
    N x = ox * N(c) + oy * N(s);
    N y = oy * N(c) - ox * N(s);
    if (sides > 1) {
      y = absOf(y);
      if (sides % 2 == 0) x = absOf(x);
      if (sides % 4 == 0) {
        const N larger = maxOf(x, y);
        y = minOf(x, y);
        x = larger;
      }
      const N far = rootOf(x * x + y * y);
      N sine, cosine;
      sineAndCosineOf(absOf(mirroredOf(angleOf(y, x), wedge)), sine, cosine);
      x = far * cosine;
      y = far * sine;
    }
    px = N(reads.x) + (x * N(readC) - y * N(readS)) * N(times);
    py = N(reads.y) + (x * N(readS) + y * N(readC)) * N(times);
  }
};

OA_LENS_FORMULA(Kaleidoscope)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Kaleidoscope)

namespace {

const ParamSpec kParams[] = {
    {.id = "sides",
     .label = "Sides",
     .help = "How often the wedge and its mirrored twin go round; with one there is no mirror.",
     .type = ParamType::Integer,
     .base = 6.0,
     .min = 1,
     .max = 48,
     .sliderMin = 1,
     .sliderMax = 16,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    field_params::turned("turn", "Turn", 0.0, "Turns all that is shown.", Grip{.kind = Grip::Kind::Way, .from = "centre"}),
    field_params::place("centre", "Centre", {0.5, 0.5}, "Where the mirrors meet; 0 to 1 across and down the frame."),
    field_params::place("reads", "Reads", {0.5, 0.5}, "The place of the picture whose wedge is shown; moved, all that is shown changes."),
    field_params::turned("from", "From", 0.0, "The direction that the wedge lies in; turned, the picture runs through the mirrors.",
                         Grip{.kind = Grip::Kind::Way, .from = "reads"}),
    {.id = "size",
     .label = "Size",
     .help = "How large what is read appears.",
     .base = 1.0,
     .min = 0.05,
     .max = 20,
     .sliderMin = 0.2,
     .sliderMax = 4,
     .unit = Unit::Ratio,
     .logScale = true},
};

const StepVariant kVariants[] = {
    {"Rosette",
     "Ten sides that the picture runs through.",
     {{"sides", 10.0}, {"reads", Point{0.4, 0.5}}},
     {{"from", MotionKind::Turn, 0.0, 1}}},
    {"Window", "Four large sides, turning.", {{"sides", 4.0}, {"size", 1.4}}, {{"turn", MotionKind::Turn, 0.0, 1}}},
    {"Star",
     "Five points that grow and shrink.",
     {{"sides", 5.0}, {"turn", -90.0}, {"from", 35.0}, {"size", 0.8}},
     {{"reads", MotionKind::Swing, Point{0.62, 0.4}}}},
};

}  // namespace

const StepSpec& kaleidoscopeStep() {
  static const StepSpec spec{.id = "kaleidoscope",
                             .title = "Kaleidoscope",
                             .group = "fold",
                             .help = "Shows one wedge of the picture, mirrored all round a centre; no seam is left anywhere.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
