// Tone curves: one for all channels, and one for each.
#include <algorithm>

#include "image/tone_curve.h"
#include "simd/tone_table.h"
#include "steps/step.h"

namespace oa {
namespace {

ParamSpec curve(std::string_view id, std::string_view label, std::string_view help) {
  return {.id = id, .label = label, .help = help, .type = ParamType::ToneCurve, .base = straightCurve(), .rule = LoopRule::Fixed};
}

const ParamSpec kParams[] = {
    curve("all", "All", "What each tone of every channel becomes: dark ones on the left, higher is lighter."),
    curve("red", "Red", "Red alone, after the curve for all."),
    curve("green", "Green", "Green alone, after the curve for all."),
    curve("blue", "Blue", "Blue alone, after the curve for all."),
};
constexpr std::string_view kChannels[3] = {"red", "green", "blue"};

struct Curves {
  Curve all;
  Curve channel[3];

  explicit Curves(const StepContext& context) : all(context.curve("all")) {
    for (int c = 0; c < 3; ++c) channel[c] = context.curve(kChannels[c]);
  }
};

class CurveKernel final : public PointKernel {
 public:
  CurveKernel(const Curves& curves, int channels) : channels_(channels), all_(curves.all), plain_(isStraight(curves.all)) {
    for (int c = 0; c < 3; ++c)
      if (!isStraight(curves.channel[c])) single_.push_back({c, ToneTable(curves.channel[c])});
  }
  [[nodiscard]] int outChannels() const override { return channels_; }
  void apply(const float* in, float* out, int n, int /*x0*/, int /*y*/) const override {
    if (in != out) std::copy_n(in, n * channels_, out);
    if (channels_ == 1) {
      if (!plain_) all_.apply(out, n);
      return;
    }
    if (!plain_) all_.applyTo(out, n, 0, 2);
    for (const Single& one : single_) one.table.applyTo(out, n, one.channel, one.channel);
  }

 private:
  struct Single {
    int channel;
    ToneTable table;
  };
  int channels_;
  ToneTable all_;
  bool plain_;
  std::vector<Single> single_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  return std::make_unique<CurveKernel>(Curves(context), inChannels);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Curves curves(context);
  return [curves, input](int x, int y) {
    ReferencePixel p = input(x, y);
    const auto bent = [&](const Curve& c, double v) { return isStraight(c) ? v : curveAt(c, std::clamp(v, 0.0, 1.0)); };
    if (p.channels == 1) {
      p.v[0] = bent(curves.all, p.v[0]);
      return p;
    }
    if (p.v[3] <= 0) return p;
    for (std::size_t c = 0; c < 3; ++c) p.v[c] = bent(curves.channel[c], bent(curves.all, p.v[c] / p.v[3])) * p.v[3];
    return p;
  };
}

}  // namespace

const StepSpec& curvesStep() {
  static const StepSpec spec{.id = "curves",
                             .title = "Curves",
                             .group = "tone",
                             .help = "Bends the tones along curves that are drawn by hand: all channels together, and each alone.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
