// Noise of several kinds, coarse and fine in one, that tiles and comes home.
#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "base/parallel.h"
#include "fields/field_params.h"
#include "fields/folded_noise.h"
#include "fields/lattice.h"
#include "fields/specks.h"
#include "fields/toned.h"
#include "image/enlarged.h"
#include "simd/lattice_noise.h"
#include "simd/speckle.h"
#include "steps/step.h"

namespace oa {
namespace {

// Streaks are so much longer than the cell says.
constexpr double kStreakStretch = 5;

const std::vector<std::string_view> kLattices{"smooth", "ridged", "billowing", "folded", "streaks"};

const std::vector<ParamSpec>& params() {
  namespace fp = field_params;
  const auto lattice = [](ParamSpec spec) { return fp::when(std::move(spec), "kind", kLattices); };
  static const std::vector<ParamSpec> list{
      {.id = "kind",
       .label = "Kind",
       .help = "Smooth fog, sharp ridges, billowing clouds, noise folded by itself, long streaks, or specks of white noise.",
       .type = ParamType::Choice,
       .base = std::string("smooth"),
       .rule = LoopRule::Fixed,
       .choices = {"smooth", "ridged", "billowing", "folded", "streaks", "speckle"}},
      lattice(fp::cell(220,
                       "Size of the largest shapes. Large ones sit quietly behind words, small ones are busy. Rounded so that "
                       "whole cells fill the frame.")),
      lattice(fp::stretch()),
      lattice(fp::angle()),
      lattice({.id = "detail",
               .label = "Detail",
               .help = "Layers of ever finer noise, each half as large as the one before.",
               .type = ParamType::Integer,
               .base = 4.0,
               .min = 1,
               .max = kMaxOctaves,
               .sliderMin = 1,
               .sliderMax = 8,
               .unit = Unit::Count,
               .rule = LoopRule::Fixed}),
      lattice({.id = "roughness",
               .label = "Roughness",
               .help = "Strength of each finer layer against the one before: low is smooth, high is gritty.",
               .base = 0.5,
               .min = 0,
               .max = 1,
               .unit = Unit::Share}),
      {.id = "fold",
       .label = "Fold",
       .help = "How many cells the field is folded over itself.",
       .base = 1.0,
       .min = 0,
       .max = 8,
       .sliderMin = 0,
       .sliderMax = 3,
       .unit = Unit::Cells,
       .shownWhen = ShownWhen{"kind", {"folded"}}},
      {.id = "foldDetail",
       .label = "Fold detail",
       .help = "Layers of the noise that folds: few make broad swirls, many ragged ones.",
       .type = ParamType::Integer,
       .base = 2.0,
       .min = 1,
       .max = kFoldedOctaves,
       .unit = Unit::Count,
       .rule = LoopRule::Fixed,
       .shownWhen = ShownWhen{"kind", {"folded"}}},
      {.id = "speck",
       .label = "Speck size",
       .help = "Width of a speck. Rounded so that whole specks fill the frame.",
       .base = 3.0,
       .min = 1,
       .max = 512,
       .sliderMin = 1,
       .sliderMax = 64,
       .unit = Unit::Pixels,
       .logScale = true,
       .rule = LoopRule::Fixed,
       .shownWhen = ShownWhen{"kind", {"speckle"}}},
      fp::when(fp::held("Frames that each picture of specks is held for; 0 leaves the first one standing."), "kind", {"speckle"}),
      fp::contrast(),
      fp::brightness(),
      fp::tone(),
      lattice(fp::churn(3, "How far the field evolves within a lap, in cells of its inner time.")),
      lattice(fp::travel()),
      lattice({.id = "grid",
               .label = "Sampling",
               .help = "The field is worked out every so many pixels and smoothly filled in between: coarser is quicker and softer.",
               .base = 1.0,
               .min = 1,
               .max = 128,
               .sliderMin = 1,
               .sliderMax = 32,
               .unit = Unit::Pixels,
               .rule = LoopRule::Fixed}),
      fp::seed(),
  };
  return list;
}

NoiseSettings settingsOf(const StepContext& context) {
  const std::string_view kind = context.choice("kind");
  const Lattice l = latticeOf(context, kind == "streaks" ? kStreakStretch : 1);
  NoiseSettings s;
  s.u0 = l.u0;
  s.ux = l.ux;
  s.uy = l.uy;
  s.v0 = l.v0;
  s.vx = l.vx;
  s.vy = l.vy;
  s.periodX = l.periodX;
  s.periodY = l.periodY;
  s.octaves = context.integer("detail");
  s.roughness = context.number("roughness");
  s.churn = context.integer("churn");
  s.progress = context.progress("churn");
  s.seed = static_cast<std::uint32_t>(context.number("seed"));
  s.shape = kind == "ridged" ? NoiseShape::Ridged : kind == "billowing" ? NoiseShape::Billowing : NoiseShape::Smooth;
  s.streaks = kind == "streaks";
  return s;
}

FoldedSettings foldedOf(const StepContext& context) { return {settingsOf(context), context.number("fold"), context.integer("foldDetail")}; }

class SpeckleRows final : public RowMaker {
 public:
  SpeckleRows(Specks specks, int width) : specks_(std::move(specks)), width_(width) {}
  [[nodiscard]] int channels() const override { return 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y) specks_.span(y, 0, width_, 0, out + (y - y0) * stride);
  }

 private:
  Specks specks_;
  int width_;
};

class NoiseRows final : public RowMaker {
 public:
  NoiseRows(const NoiseSettings& settings, int width) : noise_(settings, width) {}
  [[nodiscard]] int channels() const override { return 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override { noise_.rows(y0, y1, out, stride); }

 private:
  LatticeNoise noise_;
};

Specks specksOf(const StepContext& context) {
  return {context.view(), context.number("speck"),
          stillSeed(static_cast<std::uint32_t>(context.number("seed")), static_cast<std::uint32_t>(context.progress("held")))};
}

// Pixels between samples; 1 or less: every pixel is worked out.
double gridStep(const StepContext& context) { return context.number("grid") * context.view().scale; }

std::unique_ptr<RowMaker> sampledNoise(NoiseSettings s, const PlaneView& view, double step) {
  SampleGrid grid(view, step, 1);
  grid.place(s);
  const LatticeNoise noise(s, grid.plane.width());
  parallelBands(grid.plane.height(), [&](int y0, int y1) { noise.rows(y0, y1, grid.plane.row(y0), grid.plane.stride()); });
  return enlarged(std::move(grid), true);
}

std::unique_ptr<RowMaker> field(const StepContext& context) {
  const PlaneView& view = context.view();
  const std::string_view kind = context.choice("kind");
  if (kind == "speckle") return std::make_unique<SpeckleRows>(specksOf(context), view.width);
  const double step = gridStep(context);
  if (kind == "folded") {
    const FoldedSettings folded = foldedOf(context);
    return foldedNoise(folded, view, std::max(step, foldedStep(folded)));
  }
  const NoiseSettings settings = settingsOf(context);
  if (step >= 2) return sampledNoise(settings, view, step);
  return std::make_unique<NoiseRows>(settings, view.width);
}

std::unique_ptr<RowMaker> make(const StepContext& context) { return toned(field(context), FieldTone::of(context), context.view().width); }

ReferenceField reference(const StepContext& context, ReferenceField) {
  const FieldTone tone = FieldTone::of(context);
  const std::string_view kind = context.choice("kind");
  if (kind == "speckle") {
    const Specks specks = specksOf(context);
    return [specks, tone](int x, int y) { return ReferencePixel{1, {tone.at(specks.tone(x, y))}}; };
  }
  if (kind == "folded") {
    const FoldedSettings folded = foldedOf(context);
    return [folded, tone](int x, int y) { return ReferencePixel{1, {tone.at(foldedReference(folded, x, y))}}; };
  }
  const NoiseSettings settings = settingsOf(context);
  return [settings, tone](int x, int y) { return ReferencePixel{1, {tone.at(LatticeNoise::reference(settings, x, y))}}; };
}

TileSize tile(const StepContext& context) {
  if (context.choice("kind") != "speckle") return latticeTile(context);
  return {context.view().frameWidth, context.view().frameHeight, 0};
}

// By its finest cells.
double smooth(const StepContext& context, double) {
  const FieldTone tone = FieldTone::of(context);
  if (context.choice("kind") != "smooth" || !tone.curve.empty()) return 0;
  const Lattice lattice = latticeOf(context);
  return std::min(lattice.cellWidth, lattice.cellHeight) / std::exp2(context.integer("detail") - 1) / 16 /
         std::cbrt(std::max(1.0, tone.contrast));
}

}  // namespace

const StepSpec& noiseStep() {
  static const StepSpec spec{
      .id = "noise",
      .title = "Noise",
      .group = "source",
      .help = "Random shapes, from broad fog, ridges and folds to streaks and fine specks, that evolve and travel and come home.",
      .kind = StepKind::Source,
      .params = params(),
      .varieties = "kind",
      .shelf = {.rank = 0},
      .tile = tile,
      .source = make,
      .smooth = smooth,
      .reference = reference};
  return spec;
}

}  // namespace oa
