// Roll: the frame shifted round, so that what leaves at one side comes in at the other.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/roll.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Roll {
  Point by;
  double width, height;
  bool mirrored;

  explicit Roll(const StepContext& context)
      : width(context.view().frameWidth), height(context.view().frameHeight), mirrored(context.toggle("mirrored")) {
    const Point offset = context.point("offset");
    const Point travel = context.point("travel");
    // With its mirror image a frame is twice as long.
    const double whole = mirrored ? 2 : 1;
    const double done = context.progress("travel") * whole;
    const auto gone = [&](double o, double t) { return fract((o + t * done) / whole) * whole; };
    by = {gone(offset.x, travel.x) * width, gone(offset.y, travel.y) * height};
  }

  [[nodiscard]] bool rests() const { return by.x == 0 && by.y == 0; }

  template <class N>
  void from(N& px, N& py) const {
    px = px - N(by.x);
    py = py - N(by.y);
    px = mirrored ? mirroredOf(px, width) : repeatedOf(px, width);
    py = mirrored ? mirroredOf(py, height) : repeatedOf(py, height);
  }
};

OA_LENS_FORMULA(Roll)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Roll)

namespace {

ParamSpec rollTravel() {
  ParamSpec spec = field_params::travel();
  spec.help = "Whole frames that it goes on within a lap, to the right and down, counted with their mirror images; negative goes back.";
  return spec;
}

const ParamSpec kParams[] = {
    {.id = "offset",
     .label = "Offset",
     .help = "How far it is shifted, in shares of the frame.",
     .type = ParamType::Point,
     .base = Point{0.35, 0},
     .min = -64,
     .max = 64,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::Share},
    rollTravel(),
    {.id = "mirrored",
     .label = "Mirrored",
     .help = "The frame and its mirror image go by in turn, so that no seam is left; off for pictures whose ends meet.",
     .type = ParamType::Toggle,
     .base = true,
     .rule = LoopRule::Fixed},
};

const StepVariant kVariants[] = {
    {"Conveyor", "Goes by to the right for ever.", {{"offset", Point{0, 0}}, {"travel", Point{1, 0}}}},
    {"Falling", "Goes down through the frame for ever.", {{"offset", Point{0, 0}}, {"travel", Point{0, 1}}}},
    {"Aslant", "Down and to the right, as tiles whose ends meet.", {{"offset", Point{0, 0}}, {"travel", Point{1, 1}}, {"mirrored", false}}},
};

}  // namespace

const StepSpec& rollStep() {
  static const StepSpec spec{
      .id = "roll",
      .title = "Roll",
      .group = "fold",
      .help = "Shifts the frame round for ever: what leaves at one side comes in at the other, mirrored or as it is.",
      .kind = StepKind::Area,
      .params = kParams,
      .variants = kVariants,
      .area = make,
      .reference = reference};
  return spec;
}

}  // namespace oa
#endif
