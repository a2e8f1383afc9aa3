// Saturation, vibrance, hue and tint.
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/vividness.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#ifndef OA_VIVIDNESS_ONCE
#define OA_VIVIDNESS_ONCE
namespace oa {
namespace {

struct Vividness {
  float saturation = 1;
  float vibrance = 0;
  float hue[9] = {1, 0, 0, 0, 1, 0, 0, 0, 1};  // rows of the hue rotation
  float tint[3] = {1, 1, 1};
  float strength = 0;
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

void vividPixels(const Vividness& s, const float* in, int channels, float* out, int n) {
  const D d;
  const V zero = hn::Zero(d);
  const V one = hn::Set(d, 1.0f);
  const auto set = [&](float v) HWY_ATTR { return hn::Set(d, v); };
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V r, g, b;
    V a = one;
    if (channels == 1)
      r = g = b = hn::Min(one, hn::Max(zero, hn::LoadU(d, in + i)));
    else
      hn::LoadInterleaved4(d, in + i * 4, r, g, b, a);
    const V straight = hn::IfThenElseZero(hn::Gt(a, zero), hn::Div(one, a));
    const V luma = hn::MulAdd(set(kLuma[0]), r, hn::MulAdd(set(kLuma[1]), g, hn::Mul(set(kLuma[2]), b)));
    // Vibrance is saturation that spares what is vivid already.
    const V spread = hn::Mul(hn::Sub(hn::Max(r, hn::Max(g, b)), hn::Min(r, hn::Min(g, b))), straight);
    const V gain = hn::Mul(set(s.saturation), hn::MulAdd(set(s.vibrance), hn::Sub(one, spread), one));
    r = hn::MulAdd(hn::Sub(r, luma), gain, luma);
    g = hn::MulAdd(hn::Sub(g, luma), gain, luma);
    b = hn::MulAdd(hn::Sub(b, luma), gain, luma);
    V c[3];
    for (int k = 0; k < 3; ++k)
      c[k] = hn::MulAdd(set(s.hue[k * 3]), r, hn::MulAdd(set(s.hue[k * 3 + 1]), g, hn::Mul(set(s.hue[k * 3 + 2]), b)));
    // Black to the tint to white, by luma.
    const V l = hn::Mul(luma, straight);
    const V dark = hn::Min(one, hn::Add(l, l));
    const V light = hn::Max(zero, hn::Sub(hn::Add(l, l), one));
    for (int k = 0; k < 3; ++k) {
      const V tint = set(s.tint[k]);
      const V target = hn::Mul(hn::MulAdd(hn::Sub(one, tint), light, hn::Mul(tint, dark)), a);
      c[k] = hn::MulAdd(hn::Sub(target, c[k]), set(s.strength), c[k]);
      c[k] = hn::Min(a, hn::Max(zero, c[k]));
    }
    hn::StoreInterleaved4(c[0], c[1], c[2], a, d, out + i * 4);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(vividPixels);

namespace {

const ParamSpec kParams[] = {
    {.id = "saturation",
     .label = "Saturation",
     .help = "Strength of all colours: none is grey, twice is loud.",
     .base = 1.0,
     .min = 0,
     .max = 4,
     .sliderMin = 0,
     .sliderMax = 2,
     .unit = Unit::Share},
    {.id = "vibrance",
     .label = "Vibrance",
     .help = "Strengthens pale colours and spares those that are vivid already; negative calms the pale ones.",
     .base = 0.0,
     .min = -1,
     .max = 2,
     .sliderMin = -1,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "hue",
     .label = "Hue turn",
     .help = "Turns all colours round the colour circle; greys stay as they are.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round},
    {.id = "tint",
     .label = "Tint",
     .help = "The colour that the middle tones are drawn towards.",
     .type = ParamType::Colour,
     .base = hexColour(0x1f7672)},
    {.id = "amount",
     .label = "Amount",
     .help = "How far they are drawn: nothing leaves the colours, all is a picture in one colour.",
     .base = 0.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

// The matrix of hueRotate in Filter Effects Module Level 1, section 9.6: luma is kept.
std::array<double, 9> hueMatrix(double degrees) {
  const double angle = std::remainder(degrees, 360.0) * std::numbers::pi / 180;
  const double c = std::cos(angle);
  const double s = std::sin(angle);
  const double r = kLuma[0], g = kLuma[1], b = kLuma[2];
  return {r + c * (1 - r) - s * r, g - c * g - s * g,       b - c * b + s * (1 - b), r - c * r + s * 0.143,  g + c * (1 - g) + s * 0.140,
          b - c * b - s * 0.283,   r - c * r - s * (1 - r), g - c * g + s * g,       b + c * (1 - b) + s * b};
}

Vividness settingsOf(const StepContext& context) {
  Vividness s;
  s.saturation = static_cast<float>(context.number("saturation"));
  s.vibrance = static_cast<float>(context.number("vibrance"));
  const auto hue = hueMatrix(context.number("hue"));
  for (std::size_t i = 0; i < 9; ++i) s.hue[i] = static_cast<float>(hue[i]);
  const Colour tint = context.colour("tint");
  s.tint[0] = tint.r;
  s.tint[1] = tint.g;
  s.tint[2] = tint.b;
  s.strength = static_cast<float>(context.number("amount")) * tint.a;
  return s;
}

class VividPixels final : public PointKernel {
 public:
  VividPixels(const Vividness& settings, int channels) : settings_(settings), channels_(channels) {}
  [[nodiscard]] int outChannels() const override { return 4; }
  void apply(const float* in, float* out, int n, int /*x0*/, int /*y*/) const override {
    HWY_DYNAMIC_DISPATCH(vividPixels)(settings_, in, channels_, out, n);
  }

 private:
  Vividness settings_;
  int channels_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  return std::make_unique<VividPixels>(settingsOf(context), inChannels);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Vividness s = settingsOf(context);
  return [s, input](int x, int y) {
    ReferencePixel p = input(x, y);
    if (p.channels == 1) {
      const double grey = std::clamp(p.v[0], 0.0, 1.0);
      p = {4, {grey, grey, grey, 1}};
    }
    const double a = p.v[3];
    if (a <= 0) return ReferencePixel{4, {}};
    std::array<double, 3> c{p.v[0] / a, p.v[1] / a, p.v[2] / a};
    const double luma = kLuma[0] * c[0] + kLuma[1] * c[1] + kLuma[2] * c[2];
    const auto [low, high] = std::minmax({c[0], c[1], c[2]});
    const double gain = s.saturation * (1 + s.vibrance * (1 - (high - low)));
    for (double& v : c) v = luma + (v - luma) * gain;
    ReferencePixel out{4, {0, 0, 0, a}};
    for (std::size_t k = 0; k < 3; ++k) {
      const double turned = s.hue[k * 3] * c[0] + s.hue[k * 3 + 1] * c[1] + s.hue[k * 3 + 2] * c[2];
      const double tint = s.tint[k];
      const double target = luma < 0.5 ? tint * 2 * luma : tint + (1 - tint) * (2 * luma - 1);
      out.v[k] = std::clamp(mix(turned, target, s.strength), 0.0, 1.0) * a;
    }
    return out;
  };
}

}  // namespace

const StepSpec& vividnessStep() {
  static const StepSpec spec{.id = "vividness",
                             .title = "Vividness",
                             .group = "colour",
                             .help = "Saturation, vibrance, a turn of all hues, and a tint.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
