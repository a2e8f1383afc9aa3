// Fewer tones: a soft or hard staircase.
#include <algorithm>
#include <cmath>

#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/tonesteps.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#ifndef OA_TONESTEPS_ONCE
#define OA_TONESTEPS_ONCE
namespace oa {
namespace {

struct Staircase {
  float count = 5;  // tones, at least 2
  float sharp = 5;  // 1 / width of an edge, in treads
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

// Only the nearest edge matters: below it all is the lower tread, above it the upper one.
HWY_INLINE V climbed(D d, V v, V count, V sharp, V inverse) {
  const V one = hn::Set(d, 1.0f);
  const V x = hn::Mul(hn::Min(one, hn::Max(hn::Zero(d), v)), count);
  const V edge = hn::Min(hn::Sub(count, one), hn::Max(one, hn::Floor(hn::Add(x, hn::Set(d, 0.5f)))));
  const V t = hn::Min(one, hn::Max(hn::Zero(d), hn::MulAdd(hn::Sub(x, edge), sharp, hn::Set(d, 0.5f))));
  const V soft = hn::Mul(hn::Mul(t, t), hn::NegMulAdd(t, hn::Set(d, 2.0f), hn::Set(d, 3.0f)));
  return hn::Mul(hn::Add(hn::Sub(edge, one), soft), inverse);
}

void climbField(const Staircase& stairs, const float* in, float* out, int n) {
  const D d;
  const V count = hn::Set(d, stairs.count);
  const V sharp = hn::Set(d, stairs.sharp);
  const V inverse = hn::Set(d, 1 / (stairs.count - 1));
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::StoreU(climbed(d, hn::LoadU(d, in + i), count, sharp, inverse), d, out + i);
}

void climbPicture(const Staircase& stairs, const float* in, float* out, int n) {
  const D d;
  const V count = hn::Set(d, stairs.count);
  const V sharp = hn::Set(d, stairs.sharp);
  const V inverse = hn::Set(d, 1 / (stairs.count - 1));
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V c[3];
    V a;
    hn::LoadInterleaved4(d, in + i * 4, c[0], c[1], c[2], a);
    const V straight = hn::IfThenElseZero(hn::Gt(a, hn::Zero(d)), hn::Div(hn::Set(d, 1.0f), a));
    for (V& v : c) v = hn::Mul(climbed(d, hn::Mul(v, straight), count, sharp, inverse), a);
    hn::StoreInterleaved4(c[0], c[1], c[2], a, d, out + i * 4);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(climbField);
HWY_EXPORT(climbPicture);

namespace {

const ParamSpec kParams[] = {
    {.id = "tones",
     .label = "Tones",
     .help = "How many tones are left, black and white among them.",
     .type = ParamType::Integer,
     .base = 5.0,
     .min = 2,
     .max = 64,
     .sliderMin = 2,
     .sliderMax = 16,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "softness",
     .label = "Softness",
     .help = "Width of the edges between tones: none is as if cut out, all leaves no flat areas.",
     .base = 0.2,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

Staircase stairsOf(const StepContext& context) {
  return {static_cast<float>(context.integer("tones")), static_cast<float>(1 / std::max(1e-3, context.number("softness")))};
}

class ToneSteps final : public PointKernel {
 public:
  ToneSteps(const Staircase& stairs, int channels) : stairs_(stairs), channels_(channels) {}
  [[nodiscard]] int outChannels() const override { return channels_; }
  void apply(const float* in, float* out, int n, int /*x0*/, int /*y*/) const override {
    if (channels_ == 1)
      HWY_DYNAMIC_DISPATCH(climbField)(stairs_, in, out, n);
    else
      HWY_DYNAMIC_DISPATCH(climbPicture)(stairs_, in, out, n);
  }

 private:
  Staircase stairs_;
  int channels_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  return std::make_unique<ToneSteps>(stairsOf(context), inChannels);
}

double climbedPlain(const Staircase& stairs, double v) {
  const double x = std::clamp(v, 0.0, 1.0) * stairs.count;
  const double edge = std::clamp(std::floor(x + 0.5), 1.0, stairs.count - 1.0);
  const double t = std::clamp((x - edge) * stairs.sharp + 0.5, 0.0, 1.0);
  return (edge - 1 + t * t * (3 - 2 * t)) / (stairs.count - 1);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Staircase stairs = stairsOf(context);
  return [stairs, input](int x, int y) {
    ReferencePixel p = input(x, y);
    const double alpha = p.channels == 1 ? 1 : p.v[3];
    for (std::size_t i = 0; i < static_cast<std::size_t>(std::min(3, p.channels)); ++i)
      p.v[i] = alpha > 0 ? climbedPlain(stairs, p.v[i] / alpha) * alpha : 0;
    return p;
  };
}

}  // namespace

const StepSpec& tonestepsStep() {
  static const StepSpec spec{.id = "tonesteps",
                             .title = "Tone steps",
                             .group = "tone",
                             .help = "Leaves only a few tones, with hard or soft edges between them, as on a printed chart.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
