// Film grain that loops.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "fields/specks.h"
#include "simd/speckle.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/grain.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Grain {
  static constexpr int kAside = 3;
  Specks specks;
  double amount;
  bool coloured;

  explicit Grain(const StepContext& context)
      : specks(context.view(), context.number("size"),
               stillSeed(static_cast<std::uint32_t>(context.number("seed")), static_cast<std::uint32_t>(context.progress("held")))),
        // Tones reach half a step up and down.
        amount(2 * context.number("amount")),
        coloured(context.toggle("coloured")) {}

  void aside(int x0, int y, int n, int channels, float* const* out) const {
    const std::uint32_t different = channels == 4 && coloured ? 3 : 1;
    for (std::uint32_t k = 0; k < different; ++k) specks.span(y, x0, n, k, out[k]);
    for (std::uint32_t k = different; k < kAside; ++k) std::copy_n(out[0], (n + kSpanPadding - 1) / kSpanPadding * kSpanPadding, out[k]);
  }
  double asideAt(int plane, int x, int y) const { return specks.tone(x, y, coloured ? static_cast<std::uint32_t>(plane) : 0); }

  template <class N>
  N tone(N v, N alpha, int channel, const N* aside) const {
    if (channel == 3) return mulAddOf(aside[0] - N(0.5), N(amount), v);
    return minOf(alpha, maxOf(N(0.0), mulAddOf(aside[channel] - N(0.5), alpha * N(amount), v)));
  }
};

OA_POINT_FORMULA(Grain)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

OA_POINT_STEP(Grain)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How far grain lifts and lowers the tones.",
     .base = 0.12,
     .min = 0,
     .max = 1,
     .sliderMin = 0,
     .sliderMax = 0.6,
     .unit = Unit::Share},
    {.id = "size",
     .label = "Size",
     .help = "Width of a grain. Rounded so that whole grains fill the frame.",
     .base = 2.0,
     .min = 1,
     .max = 64,
     .sliderMin = 1,
     .sliderMax = 16,
     .unit = Unit::Pixels,
     .rule = LoopRule::Fixed},
    {.id = "coloured",
     .label = "Coloured",
     .help = "Red, green and blue have grain of their own; on a field there is only one tone.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed},
    field_params::held("Frames that each picture of grain is held for; 0 leaves the first one standing."),
    field_params::seed("Another number, other grain."),
};

}  // namespace

const StepSpec& grainStep() {
  static const StepSpec spec{.id = "grain",
                             .title = "Grain",
                             .group = "texture",
                             .help = "Fine grain over the picture, grey or coloured, that changes every few frames and comes home.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
