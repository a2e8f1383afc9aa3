// Darker (or coloured) corners.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "image/colour.h"
#include "simd/ramps.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/vignette.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/num-inl.h"

#ifndef OA_VIGNETTE_ONCE
#define OA_VIGNETTE_ONCE
namespace oa {
namespace {

struct VignetteSettings {
  Ramp ramp;           // distance from the centre, 1 where the vignette is at its full strength
  double inner = 0.5;  // where it begins, as a share of that
  double amount = 1;
  double colour[3] = {};  // display-encoded
  double grey = 0;        // what stands for the colour on a field
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

template <class N>
HWY_INLINE N coverAt(const VignetteSettings& s, N away) {
  return softOf((away - N(s.inner)) / N(std::max(1e-3, 1 - s.inner))) * N(s.amount);
}

void vignetteSpan(const VignetteSettings& s, const float* away, const float* in, int channels, int n, float* out) {
  for (int i = 0; i < n; i += Num::lanes()) {
    const Num cover = coverAt(s, Num::load(away + i));
    if (channels == 1) {
      const Num v = Num::load(in + i);
      (v + (Num(s.grey) - v) * cover).store(out + i);
      continue;
    }
    hn::Vec<Num::D> c[3];
    hn::Vec<Num::D> a;
    hn::LoadInterleaved4(Num::D(), in + i * 4, c[0], c[1], c[2], a);
    for (int k = 0; k < 3; ++k) {
      const Num v = c[k];
      c[k] = (v + (Num(s.colour[k]) * Num(a) - v) * cover).v;
    }
    hn::StoreInterleaved4(c[0], c[1], c[2], a, Num::D(), out + i * 4);
  }
}

double coverPlain(const VignetteSettings& s, double away) { return coverAt(s, away); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(vignetteSpan);
HWY_EXPORT(coverPlain);

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How strongly the corners take on the colour.",
     .base = 0.6,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "size",
     .label = "Size",
     .help = "How large the clear middle is, against the frame.",
     .base = 0.75,
     .min = 0.05,
     .max = 3,
     .sliderMin = 0.1,
     .sliderMax = 1.5,
     .unit = Unit::Share},
    {.id = "softness",
     .label = "Softness",
     .help = "Width of the edge between the clear middle and the corners.",
     .base = 0.8,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "roundness",
     .label = "Roundness",
     .help = "None follows the frame's proportions, all is a circle.",
     .base = 0.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::place("centre", "Centre", {0.5, 0.5}, "The middle of what stays clear; 0 to 1 across and down the frame."),
    {.id = "colour", .label = "Colour", .help = "What the corners turn into.", .type = ParamType::Colour, .base = hexColour(0x05080b)},
};

VignetteSettings settingsOf(const StepContext& context) {
  const FrameInfo& frame = context.frame();
  VignetteSettings s;
  const double softness = context.number("softness");
  const double round = context.number("roundness");
  const double mean = std::sqrt(frame.sceneWidth * frame.sceneHeight);
  // The middle of the soft edge lies at `size`.
  const double size = context.number("size");
  const double outer = size * (1 + 0.6 * softness);
  s.inner = (1 - 0.9 * softness) / (1 + 0.6 * softness);
  const double rx = mix(frame.sceneWidth, mean, round) / 2 * outer * std::sqrt(2.0);
  const double ry = mix(frame.sceneHeight, mean, round) / 2 * outer * std::sqrt(2.0);
  const Point centre = context.point("centre");
  s.ramp.kind = RampKind::Radial;
  s.ramp.extend = RampExtend::Hold;
  s.ramp.a0 = (frame.sceneX(0) - centre.x * frame.sceneWidth) / rx;
  s.ramp.ax = 1 / (frame.scale * rx);
  s.ramp.b0 = (frame.sceneY(0) - centre.y * frame.sceneHeight) / ry;
  s.ramp.by = 1 / (frame.scale * ry);
  const Colour colour = context.colour("colour");
  s.amount = context.number("amount") * static_cast<double>(colour.a);
  const float parts[3] = {colour.r, colour.g, colour.b};
  for (int i = 0; i < 3; ++i) {
    s.colour[i] = static_cast<double>(parts[i]);
    s.grey += static_cast<double>(kLuma[i]) * s.colour[i];
  }
  return s;
}

class VignetteKernel final : public PointKernel {
 public:
  VignetteKernel(const VignetteSettings& settings, int channels) : settings_(settings), channels_(channels) {}
  [[nodiscard]] int outChannels() const override { return channels_; }
  void apply(const float* in, float* out, int n, int x0, int y) const override {
    for (int at = 0; at < n; at += kSpanStep) {
      const int count = std::min(kSpanStep, n - at);
      alignas(64) float away[kSpanStep + kSpanPadding];
      rampSpan(settings_.ramp, x0 + at, y, count, away);
      HWY_DYNAMIC_DISPATCH(vignetteSpan)(settings_, away, in + at * channels_, channels_, count, out + at * channels_);
    }
  }

 private:
  VignetteSettings settings_;
  int channels_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  return std::make_unique<VignetteKernel>(settingsOf(context), inChannels);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const VignetteSettings s = settingsOf(context);
  return [s, input](int x, int y) {
    ReferencePixel p = input(x, y);
    const double cover = HWY_DYNAMIC_DISPATCH(coverPlain)(s, rampAt(s.ramp, x, y));
    if (p.channels == 1) {
      p.v[0] = mix(p.v[0], s.grey, cover);
      return p;
    }
    for (std::size_t c = 0; c < 3; ++c) p.v[c] = mix(p.v[c], s.colour[c] * p.v[3], cover);
    return p;
  };
}

}  // namespace

const StepSpec& vignetteStep() {
  static const StepSpec spec{.id = "vignette",
                             .title = "Vignette",
                             .group = "colour",
                             .help = "Lets the corners sink into a colour, so that the eye stays in the middle.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
