// Fractal gradient noise that tiles and comes home.
#include <algorithm>
#include <cmath>
#include <numbers>

#include "simd/lattice_noise.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "cell",
     .label = "Cell size",
     .help = "Size of the largest shapes. Large ones sit quietly behind words, small ones are busy. Rounded so that "
             "whole cells fill the frame.",
     .base = 220.0,
     .min = 2,
     .max = 8192,
     .sliderMin = 8,
     .sliderMax = 1600,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "stretch",
     .label = "Stretch",
     .help = "How much wider than high the shapes are.",
     .base = 1.0,
     .min = 0.05,
     .max = 20,
     .sliderMin = 0.1,
     .sliderMax = 10,
     .unit = Unit::Ratio,
     .logScale = true},
    {.id = "angle",
     .label = "Angle",
     .help = "Turns the field about the middle of the frame.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round},
    {.id = "detail",
     .label = "Detail",
     .help = "Layers of ever finer noise, each half as large as the one before.",
     .type = ParamType::Integer,
     .base = 4.0,
     .min = 1,
     .max = kMaxOctaves,
     .sliderMin = 1,
     .sliderMax = 8,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "roughness",
     .label = "Roughness",
     .help = "Strength of each finer layer against the one before: low is smooth, high is gritty.",
     .base = 0.5,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "churn",
     .label = "Churn",
     .help = "How far the field evolves within a lap, in cells of its inner time.",
     .type = ParamType::Number,
     .base = 3.0,
     .min = 0,
     .max = 256,
     .sliderMin = 0,
     .sliderMax = 24,
     .unit = Unit::Cells,
     .rule = LoopRule::Progress,
     .defaultLaps = 1},
    {.id = "travel",
     .label = "Travel",
     .help = "Whole tiles that the field moves within a lap, to the right and down; negative goes back.",
     .type = ParamType::Point,
     .base = Point{0, 0},
     .min = -64,
     .max = 64,
     .sliderMin = -4,
     .sliderMax = 4,
     .unit = Unit::Tiles,
     .rule = LoopRule::Progress,
     .defaultLaps = 1},
    {.id = "seed",
     .label = "Seed",
     .help = "Another number, another field of the same kind.",
     .type = ParamType::Seed,
     .base = 1.0,
     .min = 0,
     .max = 999999,
     .rule = LoopRule::Fixed},
};

NoiseSettings settingsOf(const StepContext& context) {
  const FrameInfo& frame = context.frame();
  NoiseSettings s;
  // Whole cells fill the frame, counted from the values at rest: a tile's count must not jump while they move.
  const double restHeight = context.baseNumber("cell");
  const double restWidth = std::max(1.0, restHeight * context.baseNumber("stretch"));
  s.periodX = std::max(1, static_cast<int>(std::lround(frame.sceneWidth / restWidth)));
  s.periodY = std::max(1, static_cast<int>(std::lround(frame.sceneHeight / restHeight)));
  const double zoom = context.number("cell") / restHeight;
  const double cellWidth = frame.sceneWidth / s.periodX * zoom * (context.number("stretch") / context.baseNumber("stretch"));
  const double cellHeight = frame.sceneHeight / s.periodY * zoom;
  const double degrees = std::remainder(context.number("angle"), 360.0);
  const double angle = degrees * std::numbers::pi / 180;
  const double c = degrees == 0 ? 1 : std::cos(angle);
  const double sn = degrees == 0 ? 0 : std::sin(angle);
  const double x = frame.sceneX(0) - frame.sceneWidth / 2;
  const double y = frame.sceneY(0) - frame.sceneHeight / 2;
  const Point travel = context.point("travel");
  const double done = context.progress("travel");
  s.u0 = (c * x + sn * y) / cellWidth + s.periodX * (0.5 - travel.x * done);
  s.ux = c / (frame.scale * cellWidth);
  s.uy = sn / (frame.scale * cellWidth);
  s.v0 = (c * y - sn * x) / cellHeight + s.periodY * (0.5 - travel.y * done);
  s.vx = -sn / (frame.scale * cellHeight);
  s.vy = c / (frame.scale * cellHeight);
  if (degrees == 0) s.uy = s.vx = 0;
  s.octaves = context.integer("detail");
  s.roughness = context.number("roughness");
  s.churn = context.integer("churn");
  s.progress = context.progress("churn");
  s.seed = static_cast<std::uint32_t>(context.number("seed"));
  return s;
}

class NoiseRows final : public RowMaker {
 public:
  NoiseRows(const NoiseSettings& settings, int width) : noise_(settings, width) {}
  [[nodiscard]] int channels() const override { return 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override { noise_.rows(y0, y1, out, stride); }

 private:
  LatticeNoise noise_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) {
  return std::make_unique<NoiseRows>(settingsOf(context), context.frame().width);
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const NoiseSettings settings = settingsOf(context);
  return [settings](int x, int y) { return ReferencePixel{1, {LatticeNoise::reference(settings, x, y)}}; };
}

}  // namespace

const StepSpec& noiseStep() {
  static const StepSpec spec{.id = "noise",
                             .title = "Noise",
                             .group = "source",
                             .help = "Soft random shapes, from broad fog to fine grain, that evolve and travel and come home.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .source = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
