// Hinge: the picture folded along a line, both halves receding from it, or towards it, in perspective.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/hinge.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Hinge {
  Point line;
  Point along;  // the fold's direction; `down` is at right angles to it
  Point down;
  double depth;
  double half;    // from the fold to where the picture is as large as it was
  double length;  // of what flows by
  double gone;
  double shade;
  bool mirrored;
  bool flows;

  explicit Hinge(const StepContext& context)
      : line(placeOf(context, "line")),
        along{std::cos(context.number("angle") * kDegree), std::sin(context.number("angle") * kDegree)},
        down{-along.y, along.x},
        depth(context.number("depth")),
        half((std::abs(down.x) * context.view().frameWidth + std::abs(down.y) * context.view().frameHeight) / 2),
        length(2 * half),
        gone(context.number("flow") * context.progress("flow") * 2 * length),
        shade(context.number("shade")),
        mirrored(context.toggle("mirrored")),
        flows(context.number("flow") != 0) {}

  [[nodiscard]] bool rests() const { return depth == 0 && !mirrored && !flows && shade == 0; }
  // Where both halves show the same they meet in a crease, else in an edge.
  [[nodiscard]] double bends() const { return mirrored ? 1e9 : 0; }

  // How large the picture is seen so far from the fold.
  template <class N>
  N sizeAt(N far) const {
    return maxOf(N(0.05), N(1 - depth) + far * N(depth / half));
  }

  template <class N>
  void from(N& px, N& py) const {
    const N dx = px - N(line.x);
    const N dy = py - N(line.y);
    const N u = dx * N(along.x) + dy * N(along.y);
    const N v = dx * N(down.x) + dy * N(down.y);
    const N part = N(1.0) / sizeAt(absOf(v));
    N t = absOf(v) * part;
    // There and back: whatever the picture is, what goes by for ever has no seam.
    if (flows) t = mirroredOf(t - N(gone), length);
    if (!mirrored) t = whereLess(v, N(0.0), N(0.0) - t, t);
    const N across = u * part;
    px = N(line.x) + across * N(along.x) + t * N(down.x);
    py = N(line.y) + across * N(along.y) + t * N(down.y);
  }

  static constexpr bool kFields = true;
  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    const N far = absOf((px - N(line.x)) * N(down.x) + (py - N(line.y)) * N(down.y)) * N(1 / half);
    const N lit = N(1 - shade) + softOf(N(0.08) + far * N(1.1)) * N(shade);
    for (int k = 0; k < 3; ++k) c[k] = c[k] * lit;
  }
};

OA_LENS_FORMULA(Hinge)
OA_SMOOTH_LENS(Hinge)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Hinge)
OA_SMOOTH_STEP(Hinge)

namespace {

const ParamSpec kParams[] = {
    field_params::place("line", "Line", {0.5, 0.5}, "A place of the fold; 0 to 1 across and down the frame."),
    field_params::turned("angle", "Angle", 0.0, "The direction of the fold.", Grip{.kind = Grip::Kind::Way, .from = "line"}),
    {.id = "depth",
     .label = "Depth",
     .help = "How far away the fold is; negative brings it near.",
     .base = 0.78,
     .min = -1,
     .max = 0.95,
     .unit = Unit::Share},
    field_params::goneBy("flow", "Flow", 1.0, 4,
                         "Pictures, there and back, that come out of the fold within a lap; negative ones go into it."),
    {.id = "mirrored",
     .label = "Mirrored",
     .help = "Both halves are mirror images of each other; else each is its own half of the picture.",
     .type = ParamType::Toggle,
     .base = true,
     .rule = LoopRule::Fixed},
    {.id = "shade", .label = "Shade", .help = "How dark it is in the fold.", .base = 0.55, .min = 0, .max = 1, .unit = Unit::Share},
};

const StepVariant kVariants[] = {
    {"Canyon", "An upright fold, deep and dark.", {{"angle", 90.0}, {"depth", 0.9}, {"shade", 0.85}}},
    {"Open book",
     "The fold is near, both pages lie back.",
     {{"angle", 90.0}, {"depth", -0.7}, {"flow", 0.0}, {"mirrored", false}, {"shade", 0.35}}},
    {"Into the slit", "Both halves run into a slanting fold.", {{"angle", -24.0}, {"flow", -1.0}, {"depth", 0.7}}},
};

}  // namespace

const StepSpec& hingeStep() {
  static const StepSpec spec{
      .id = "hinge",
      .title = "Hinge",
      .group = "fold",
      .help = "Folds the picture along a line, so that both halves recede; it flows out of the fold, or into it, for ever.",
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
