// Shift rows: bands of the picture torn aside, another way at every hop.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/shiftrows.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct ShiftRows {
  Point centre;
  Point way;  // the bands lie along it
  double height;
  double amount;
  double share;
  double uneven;
  Draw wide, torn, by;

  static std::uint64_t number(const StepContext& context, int which) {
    return static_cast<std::uint64_t>(context.number("seed")) * 1000003 + static_cast<std::uint64_t>(context.progress("held")) * 8 +
           static_cast<std::uint64_t>(which);
  }
  explicit ShiftRows(const StepContext& context)
      : centre{context.view().frameWidth / 2, context.view().frameHeight / 2},
        way{std::cos(context.number("angle") * kDegree), std::sin(context.number("angle") * kDegree)},
        height(context.number("height")),
        amount(context.number("amount")),
        share(context.number("share")),
        uneven(context.number("uneven")),
        wide(number(context, 1)),
        torn(number(context, 2)),
        by(number(context, 3)) {}

  [[nodiscard]] bool rests() const { return amount == 0 || share == 0; }

  template <class N>
  void from(N& px, N& py) const {
    const N t = ((py - N(centre.y)) * N(way.x) - (px - N(centre.x)) * N(way.y)) * N(1 / height);
    // Two rasters of bands on each other make them uneven.
    const N fine = maxOf(N(-60000.0), minOf(N(60000.0), floorOf(t)));
    const N coarse = floorOf(fine * N(0.37) + N(0.21));
    const N band = fine + (coarse * N(3.0) + N(7.0) - fine) * whereLess(wide(coarse), N(uneven), N(1.0), N(0.0));
    const N moved = whereLess(torn(band), N(share), N(1.0), N(0.0));
    const N off = (by(band) - N(0.5)) * N(2 * amount) * moved;
    px = px + off * N(way.x);
    py = py + off * N(way.y);
  }
};

OA_LENS_FORMULA(ShiftRows)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(ShiftRows)

namespace {

ParamSpec heldTorn() {
  ParamSpec spec = field_params::held("Frames after which other bands are torn; 0: always the same.");
  spec.base = 6.0;
  return spec;
}

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How far a band is torn aside at most.",
     .base = 90.0,
     .min = 0,
     .max = 8192,
     .sliderMin = 0,
     .sliderMax = 600,
     .unit = Unit::Pixels},
    {.id = "height",
     .label = "Height",
     .help = "Of the thinnest band.",
     .base = 38.0,
     .min = 1,
     .max = 8192,
     .sliderMin = 2,
     .sliderMax = 300,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "share", .label = "Share", .help = "How many of the bands are torn.", .base = 0.5, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "uneven",
     .label = "Uneven",
     .help = "How many bands are taken together to wide ones.",
     .base = 0.5,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::turned("angle", "Angle", 0.0, "The direction of the bands."),
    heldTorn(),
    field_params::seed("Another number, other bands."),
};

const StepVariant kVariants[] = {
    {"Bad tape", "A few bands, torn anew every fourth frame.", {{"share", 0.25}, {"height", 14.0}, {"amount", 60.0}, {"held", 4.0}}},
    {"Slats",
     "All bands are shifted, even and at rest.",
     {{"share", 1.0}, {"uneven", 0.0}, {"height", 90.0}, {"held", 0.0}, {"angle", 90.0}}},
    {"Torn apart", "Wide bands, far aside.", {{"amount", 420.0}, {"uneven", 1.0}, {"share", 0.8}, {"held", 12.0}}},
};

}  // namespace

const StepSpec& shiftrowsStep() {
  static const StepSpec spec{.id = "shiftrows",
                             .title = "Shift rows",
                             .group = "bend",
                             .help = "Tears the picture into bands that jump aside, as a bad tape or a jammed print does.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
