// Warp by noise: every pixel is read some way off, as two noises say.
#include <algorithm>
#include <cmath>
#include <vector>

#include "base/random.h"
#include "fields/field_params.h"
#include "image/sampling.h"
#include "simd/lattice_noise.h"
#include "steps/step.h"

namespace oa {
namespace {

const std::vector<ParamSpec>& params() {
  namespace fp = field_params;
  static const std::vector<ParamSpec> list{
      {.id = "amount",
       .label = "Amount",
       .help = "How far pixels are moved, at most about twice this.",
       .base = 60.0,
       .min = 0,
       .max = 4096,
       .sliderMin = 0,
       .sliderMax = 400,
       .unit = Unit::Pixels},
      fp::cell(320, "Size of the bends: large ones sway, small ones crumple. Rounded so that whole cells fill the frame."),
      {.id = "detail",
       .label = "Detail",
       .help = "Layers of ever finer bends.",
       .type = ParamType::Integer,
       .base = 2.0,
       .min = 1,
       .max = 6,
       .unit = Unit::Count,
       .rule = LoopRule::Fixed},
      fp::churn(2, "How far the bends evolve within a lap."),
      fp::edges(),
      fp::seed(),
  };
  return list;
}

// Noise reaches about 0.25 from its middle: this makes `amount` what a strong bend moves by.
constexpr double kGain = 4;

struct Bends {
  NoiseSettings across, down;
  double amount;
  Edge edge;

  explicit Bends(const StepContext& context) {
    const FrameInfo& frame = context.frame();
    const double rest = context.baseNumber("cell");
    const double zoom = context.number("cell") / rest;
    NoiseSettings s;
    s.periodX = std::max(1, static_cast<int>(std::lround(frame.sceneWidth / rest)));
    s.periodY = std::max(1, static_cast<int>(std::lround(frame.sceneHeight / rest)));
    const double cellWidth = frame.sceneWidth / s.periodX * zoom;
    const double cellHeight = frame.sceneHeight / s.periodY * zoom;
    s.u0 = frame.sceneX(0) / cellWidth;
    s.v0 = frame.sceneY(0) / cellHeight;
    s.ux = 1 / (frame.scale * cellWidth);
    s.vy = 1 / (frame.scale * cellHeight);
    s.uy = s.vx = 0;
    s.octaves = context.integer("detail");
    s.churn = context.integer("churn");
    s.progress = context.progress("churn");
    across = down = s;
    const auto seed = static_cast<std::uint64_t>(context.number("seed"));
    across.seed = static_cast<std::uint32_t>(mix64(seed * 2) >> 40);
    down.seed = static_cast<std::uint32_t>(mix64(seed * 2 + 1) >> 40);
    amount = context.number("amount") * frame.scale * kGain;
    edge = edgeFromName(context.choice("edges"));
  }
};

class WarpRows final : public RowMaker {
 public:
  WarpRows(const Bends& bends, const RowMaker& input, int width, int height)
      : plane_(wholePlane(input, width, height)),
        opaque_(input.opaque() && (bends.edge != Edge::Transparent || input.channels() == 1)),
        across_(bends.across, width),
        down_(bends.down, width),
        amount_(static_cast<float>(bends.amount)),
        edge_(bends.edge) {}
  [[nodiscard]] int channels() const override { return plane_.channels(); }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const int width = plane_.width();
    const std::ptrdiff_t own = paddedRow(width, 1);
    FloatBuffer places(static_cast<std::size_t>(2 * own * (y1 - y0)));
    float* const px = places.data();
    float* const py = px + own * (y1 - y0);
    across_.rows(y0, y1, px, own);
    down_.rows(y0, y1, py, own);
    for (int y = y0; y < y1; ++y) {
      float* const x = px + (y - y0) * own;
      float* const v = py + (y - y0) * own;
      for (int i = 0; i < width; ++i) {
        x[i] = static_cast<float>(i) + amount_ * (x[i] - 0.5f);
        v[i] = static_cast<float>(y) + amount_ * (v[i] - 0.5f);
      }
      samplePlane(plane_, edge_, x, v, width, out + (y - y0) * stride);
    }
  }

 private:
  Plane plane_;
  bool opaque_;
  LatticeNoise across_;
  LatticeNoise down_;
  float amount_;
  Edge edge_;
};

std::unique_ptr<RowMaker> make(const StepContext& context, const RowMaker& input, int width, int height) {
  return std::make_unique<WarpRows>(Bends(context), input, width, height);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Bends bends(context);
  const int width = context.frame().width;
  const int height = context.frame().height;
  const int channels = input(0, 0).channels;
  return [=](int x, int y) {
    const double fx = x + bends.amount * (LatticeNoise::reference(bends.across, x, y) - 0.5);
    const double fy = y + bends.amount * (LatticeNoise::reference(bends.down, x, y) - 0.5);
    const double cx = std::floor(fx);
    const double cy = std::floor(fy);
    ReferencePixel sum{channels, {}};
    for (int k = 0; k < 4; ++k) {
      const int px = edgeIndex(bends.edge, static_cast<std::int64_t>(cx) + (k & 1), width);
      const int py = edgeIndex(bends.edge, static_cast<std::int64_t>(cy) + (k >> 1), height);
      if (px < 0 || py < 0) continue;
      const double weight = (k & 1 ? fx - cx : 1 - (fx - cx)) * (k >> 1 ? fy - cy : 1 - (fy - cy));
      const ReferencePixel p = input(px, py);
      for (std::size_t c = 0; c < 4; ++c) sum.v[c] += weight * p.v[c];
    }
    return sum;
  };
}

}  // namespace

const StepSpec& warpStep() {
  static const StepSpec spec{.id = "warp",
                             .title = "Warp by noise",
                             .group = "bend",
                             .help = "Bends the picture as heat, water or crumpled cloth would, with bends that evolve and come home.",
                             .kind = StepKind::Area,
                             .params = params(),
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
