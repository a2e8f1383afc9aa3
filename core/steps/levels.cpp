// Contrast, brightness, invert: the tones of a field or picture.
#include <algorithm>

#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/levels.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#ifndef OA_LEVELS_ONCE
#define OA_LEVELS_ONCE
namespace oa {
namespace {

// v -> gain v + offset, then clamped if asked to. Brightness is added before inverting.
struct LevelsLine {
  float gain = 1;
  float offset = 0;
  bool clamp = true;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

void levelsField(const LevelsLine& line, const float* in, float* out, int n) {
  const D d;
  const V gain = hn::Set(d, line.gain);
  const V offset = hn::Set(d, line.offset);
  const V low = hn::Set(d, line.clamp ? 0.0f : -1e30f);
  const V high = hn::Set(d, line.clamp ? 1.0f : 1e30f);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::StoreU(hn::Min(high, hn::Max(low, hn::MulAdd(hn::LoadU(d, in + i), gain, offset))), d, out + i);
}

alignas(16) constexpr float kIsAlpha[4] = {0, 0, 0, 1};

void levelsPicture(const LevelsLine& line, const float* in, float* out, int n) {
  const D d;
  const V isAlpha = hn::LoadDup128(d, kIsAlpha);
  const V one = hn::Set(d, 1.0f);
  // The alpha lane is multiplied by one and moved by nothing.
  const V gain = hn::Add(hn::Mul(hn::Set(d, line.gain), hn::Sub(one, isAlpha)), isAlpha);
  const V offset = hn::Mul(hn::Set(d, line.offset), hn::Sub(one, isAlpha));
  for (int i = 0; i < n * 4; i += static_cast<int>(hn::Lanes(d))) {
    const V p = hn::LoadU(d, in + i);
    const V high = hn::InterleaveUpper(d, p, p);
    const V alpha = hn::InterleaveUpper(d, high, high);
    // Pictures are premultiplied and stay within [0, alpha].
    hn::StoreU(hn::Min(alpha, hn::Max(hn::Zero(d), hn::MulAdd(p, gain, hn::Mul(alpha, offset)))), d, out + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(levelsField);
HWY_EXPORT(levelsPicture);

namespace {

const ParamSpec kParams[] = {
    {.id = "contrast",
     .label = "Contrast",
     .help = "Pushes tones away from the middle grey; below 1 draws them towards it.",
     .base = 1.0,
     .min = 0,
     .max = 20,
     .sliderMin = 0,
     .sliderMax = 4,
     .unit = Unit::None},
    {.id = "brightness",
     .label = "Brightness",
     .help = "Lifts or lowers all tones.",
     .base = 0.0,
     .min = -2,
     .max = 2,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::None},
    {.id = "invert", .label = "Invert", .help = "Swaps light and dark.", .type = ParamType::Toggle, .base = false, .rule = LoopRule::Fixed},
    {.id = "clamp",
     .label = "Clamp",
     .help = "Cuts tones off at black and white; without it later steps still see what lies beyond.",
     .type = ParamType::Toggle,
     .base = true,
     .rule = LoopRule::Fixed},
};

LevelsLine lineOf(const StepContext& context) {
  const double contrast = context.number("contrast");
  double gain = contrast;
  double offset = 0.5 - 0.5 * contrast + context.number("brightness");
  if (context.toggle("invert")) {
    gain = -gain;
    offset = 1 - offset;
  }
  return {static_cast<float>(gain), static_cast<float>(offset), context.toggle("clamp")};
}

class Levels final : public PointKernel {
 public:
  Levels(const LevelsLine& line, int channels) : line_(line), channels_(channels) {}
  [[nodiscard]] int outChannels() const override { return channels_; }
  void apply(const float* in, float* out, int n, int /*x0*/, int /*y*/) const override {
    if (channels_ == 1)
      HWY_DYNAMIC_DISPATCH(levelsField)(line_, in, out, n);
    else
      HWY_DYNAMIC_DISPATCH(levelsPicture)(line_, in, out, n);
  }

 private:
  LevelsLine line_;
  int channels_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  return std::make_unique<Levels>(lineOf(context), inChannels);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const LevelsLine line = lineOf(context);
  return [line, input](int x, int y) {
    ReferencePixel p = input(x, y);
    const double alpha = p.channels == 1 ? 1 : p.v[3];
    for (int i = 0; i < std::min(3, p.channels); ++i) {
      double& v = p.v[static_cast<std::size_t>(i)];
      v = v * line.gain + alpha * line.offset;
      if (line.clamp || p.channels == 4) v = std::clamp(v, 0.0, alpha);
    }
    return p;
  };
}

}  // namespace

const StepSpec& levelsStep() {
  static const StepSpec spec{.id = "levels",
                             .title = "Levels",
                             .group = "tone",
                             .help = "Contrast, brightness and inversion.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
