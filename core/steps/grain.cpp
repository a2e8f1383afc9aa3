// Film grain that loops.
#include <algorithm>
#include <array>
#include <cmath>

#include "fields/field_params.h"
#include "fields/specks.h"
#include "simd/speckle.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/grain.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

void grainField(const float* in, const float* tones, float amount, int n, float* out) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::StoreU(hn::MulAdd(hn::Sub(hn::LoadU(d, tones + i), hn::Set(d, 0.5f)), hn::Set(d, amount), hn::LoadU(d, in + i)), d, out + i);
}

void grainPicture(const float* in, const float* const* tones, float amount, int n, float* out) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    hn::Vec<D> c[3];
    hn::Vec<D> a;
    hn::LoadInterleaved4(d, in + i * 4, c[0], c[1], c[2], a);
    const auto strength = hn::Mul(a, hn::Set(d, amount));
    for (int k = 0; k < 3; ++k) {
      const auto grained = hn::MulAdd(hn::Sub(hn::LoadU(d, tones[k] + i), hn::Set(d, 0.5f)), strength, c[k]);
      c[k] = hn::Min(a, hn::Max(hn::Zero(d), grained));
    }
    hn::StoreInterleaved4(c[0], c[1], c[2], a, d, out + i * 4);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(grainField);
HWY_EXPORT(grainPicture);

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

struct Grain {
  Specks specks;
  float amount;
  bool coloured;

  explicit Grain(const StepContext& context)
      : specks(context.frame(), context.number("size"),
               stillSeed(static_cast<std::uint32_t>(context.number("seed")), static_cast<std::uint32_t>(context.progress("held")))),
        // Tones reach half a step up and down.
        amount(static_cast<float>(2 * context.number("amount"))),
        coloured(context.toggle("coloured")) {}
};

class GrainKernel final : public PointKernel {
 public:
  GrainKernel(Grain grain, int channels) : grain_(std::move(grain)), channels_(channels) {}
  [[nodiscard]] int outChannels() const override { return channels_; }
  void apply(const float* in, float* out, int n, int x0, int y) const override {
    // Whole rows come here too: made piece by piece, so that no buffer depends on the width.
    for (int at = 0; at < n; at += kSpanStep) {
      const int count = std::min(kSpanStep, n - at);
      alignas(64) float tones[3][kSpanStep + kSpanPadding];
      const bool three = channels_ == 4 && grain_.coloured;
      for (std::uint32_t k = 0; k < (three ? 3 : 1); ++k) grain_.specks.span(y, x0 + at, count, k, tones[k]);
      if (channels_ == 1) {
        HWY_DYNAMIC_DISPATCH(grainField)(in + at, tones[0], grain_.amount, count, out + at);
        continue;
      }
      const float* planes[3] = {tones[0], three ? tones[1] : tones[0], three ? tones[2] : tones[0]};
      HWY_DYNAMIC_DISPATCH(grainPicture)(in + at * 4, planes, grain_.amount, count, out + at * 4);
    }
  }

 private:
  Grain grain_;
  int channels_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  return std::make_unique<GrainKernel>(Grain(context), inChannels);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Grain grain(context);
  return [grain, input](int x, int y) {
    ReferencePixel p = input(x, y);
    const auto amount = static_cast<double>(grain.amount);
    if (p.channels == 1) {
      p.v[0] += (grain.specks.tone(x, y) - 0.5) * amount;
      return p;
    }
    for (std::uint32_t c = 0; c < 3; ++c)
      p.v[c] = std::clamp(p.v[c] + (grain.specks.tone(x, y, grain.coloured ? c : 0) - 0.5) * amount * p.v[3], 0.0, p.v[3]);
    return p;
  };
}

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
