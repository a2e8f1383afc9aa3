// Cells: pebbles, facets, cracks, patches, web, and the plain distances they are made of.
#include <algorithm>
#include <cmath>
#include <vector>

#include "fields/field_params.h"
#include "fields/lattice.h"
#include "fields/toned.h"
#include "simd/cell_field.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/cells.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#ifndef OA_CELLS_ONCE
#define OA_CELLS_ONCE
namespace oa {
namespace {

enum class Look { Pebbles, Facets, Cracks, Patches, Web, Nearest, Second, Difference, Flat };

// What a look is made of.
constexpr bool wantsNearest(Look look) { return look == Look::Pebbles || look == Look::Nearest || look == Look::Difference; }
constexpr bool wantsSecond(Look look) { return look == Look::Second || look == Look::Difference; }
constexpr bool wantsTones(Look look) { return look == Look::Facets || look == Look::Patches || look == Look::Flat; }
constexpr bool wantsEdges(Look look) { return look == Look::Pebbles || look == Look::Cracks || look == Look::Web; }

// Widths that softness stands for, in cells.
struct LookSettings {
  Look look = Look::Pebbles;
  float edge = 1;      // 1 / width of an edge or a line
  float strength = 1;  // of this layer
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

HWY_INLINE V softened(V t) {
  const D d;
  const V held = hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), t));
  return hn::Mul(hn::Mul(held, held), hn::NegMulAdd(held, hn::Set(d, 2.0f), hn::Set(d, 3.0f)));
}

// Adds strength x look to `n` pixels.
template <Look kLook>
void addLook(const LookSettings& s, const CellSpan& in, int n, float* out) {
  const D d;
  const V edge = hn::Set(d, s.edge);
  const V one = hn::Set(d, 1.0f);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const V nearest = wantsNearest(kLook) ? hn::LoadU(d, in.nearest + i) : hn::Zero(d);
    V v = nearest;
    if constexpr (kLook == Look::Second) v = hn::LoadU(d, in.second + i);
    if constexpr (kLook == Look::Difference) v = hn::Sub(hn::LoadU(d, in.second + i), nearest);
    if constexpr (kLook == Look::Flat || kLook == Look::Patches || kLook == Look::Facets) v = hn::LoadU(d, in.tone + i);
    if constexpr (kLook == Look::Cracks) v = softened(hn::Mul(hn::LoadU(d, in.edge + i), edge));
    if constexpr (kLook == Look::Web) {
      const V line = hn::Max(hn::Zero(d), hn::NegMulAdd(hn::LoadU(d, in.edge + i), edge, one));
      v = hn::Mul(hn::Mul(line, line), line);
    }
    if constexpr (kLook == Look::Pebbles) {
      // A round body between its middle and its rim.
      const V away = hn::LoadU(d, in.edge + i);
      const V across = hn::Add(nearest, nearest);
      const V rim = hn::Div(across, hn::Max(hn::Set(d, 1e-6f), hn::Add(across, away)));
      const V dome = hn::Sqrt(hn::Max(hn::Zero(d), hn::NegMulAdd(rim, rim, one)));
      v = hn::Mul(softened(hn::Mul(away, edge)), hn::MulAdd(dome, hn::Set(d, 0.8f), hn::Set(d, 0.2f)));
    }
    hn::StoreU(hn::MulAdd(v, hn::Set(d, s.strength), hn::LoadU(d, out + i)), d, out + i);
  }
}

void addLookOf(const LookSettings& s, const CellSpan& in, int n, float* out) {
  switch (s.look) {
    case Look::Pebbles:
      return addLook<Look::Pebbles>(s, in, n, out);
    case Look::Facets:
      return addLook<Look::Facets>(s, in, n, out);
    case Look::Cracks:
      return addLook<Look::Cracks>(s, in, n, out);
    case Look::Patches:
      return addLook<Look::Patches>(s, in, n, out);
    case Look::Web:
      return addLook<Look::Web>(s, in, n, out);
    case Look::Nearest:
      return addLook<Look::Nearest>(s, in, n, out);
    case Look::Second:
      return addLook<Look::Second>(s, in, n, out);
    case Look::Difference:
      return addLook<Look::Difference>(s, in, n, out);
    case Look::Flat:
      return addLook<Look::Flat>(s, in, n, out);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(addLookOf);

namespace {

constexpr int kMaxLayersOfCells = 5;
constexpr double kFinestCell = 4;  // pixels of the scene

const std::vector<std::string_view> kEdged{"pebbles", "facets", "cracks", "patches", "web"};

const std::vector<ParamSpec>& params() {
  namespace fp = field_params;
  static const std::vector<ParamSpec> list = [] {
    std::vector<ParamSpec> made{
        {.id = "look",
         .label = "Look",
         .help = "Round pebbles, slanted facets, dark cracks, flat patches, a bright web; or the plain numbers: distance to the nearest "
                 "and second nearest point, their difference, one flat tone for each cell.",
         .type = ParamType::Choice,
         .base = std::string("pebbles"),
         .rule = LoopRule::Fixed,
         .choices = {"pebbles", "facets", "cracks", "patches", "web", "nearest", "second", "difference", "flat"}},
        fp::cell(160, "Size of a cell. Rounded so that whole cells fill the frame."),
        fp::stretch(),
        fp::angle(),
        {.id = "scatter",
         .label = "Scatter",
         .help = "How far the points lie off a regular lattice.",
         .base = 0.9,
         .min = 0,
         .max = 1,
         .unit = Unit::Share},
        {.id = "roundness",
         .label = "Roundness",
         .help = "How distance is measured: fully round, or with corners.",
         .base = 1.0,
         .min = 0,
         .max = 1,
         .unit = Unit::Share},
        {.id = "corners",
         .label = "Corners",
         .help = "The shape that shows where cells are not fully round.",
         .type = ParamType::Choice,
         .base = std::string("square"),
         .rule = LoopRule::Fixed,
         .choices = {"square", "diamond"}},
        fp::when({.id = "softness",
                  .label = "Soft edges",
                  .help = "Width of edges and lines.",
                  .base = 0.25,
                  .min = 0,
                  .max = 1,
                  .unit = Unit::Share},
                 "look", kEdged),
        {.id = "layers",
         .label = "Layers",
         .help = "Layers of cells over each other, each half as large as the one before.",
         .type = ParamType::Integer,
         .base = 1.0,
         .min = 1,
         .max = kMaxLayersOfCells,
         .unit = Unit::Count,
         .rule = LoopRule::Fixed},
        {.id = "roughness",
         .label = "Roughness",
         .help = "Strength of each finer layer against the one before.",
         .base = 0.5,
         .min = 0,
         .max = 1,
         .unit = Unit::Share,
         .shownWhen = ShownWhen{"layers", {}, 2}},
        fp::invert(),
        fp::contrast(),
        fp::brightness(),
        fp::tone(),
        {.id = "orbit",
         .label = "Orbit",
         .help = "Radius of the small circle that every point goes round on.",
         .base = 0.15,
         .min = 0,
         .max = 0.5,
         .unit = Unit::Cells},
        {.id = "turns",
         .label = "Turns",
         .help = "Whole turns of the quickest points in a lap; each has its own number, direction and beginning.",
         .type = ParamType::Number,
         .base = 1.0,
         .min = 0,
         .max = 64,
         .sliderMin = 0,
         .sliderMax = 6,
         .unit = Unit::Count,
         .rule = LoopRule::Progress,
         .defaultLaps = 1},
        {.id = "churn",
         .label = "Churn",
         .help = "Places that every point wanders through within a lap.",
         .type = ParamType::Number,
         .base = 0.0,
         .min = 0,
         .max = 64,
         .sliderMin = 0,
         .sliderMax = 12,
         .unit = Unit::Count,
         .rule = LoopRule::Progress,
         .defaultLaps = 1},
        fp::travel(),
        fp::seed(),
    };
    // Points are kept for the whole tile: cells of fewer pixels would be millions.
    made[1].min = 8;
    return made;
  }();
  return list;
}

Look lookOf(const StepContext& context) {
  const auto name = context.choice("look");
  const auto& choices = params().front().choices;
  return static_cast<Look>(std::find(choices.begin(), choices.end(), name) - choices.begin());
}

struct Layers {
  std::vector<CellField> fields;
  std::vector<LookSettings> looks;
  FieldTone tone;

  explicit Layers(const StepContext& context) : tone(FieldTone::of(context)) {
    tone.invert = context.toggle("invert");
    const Lattice l = latticeOf(context);
    const Look look = lookOf(context);
    const double soft = context.number("softness");
    const int count = context.integer("layers");
    const double roughness = context.number("roughness");
    double strength = 1;
    double total = 0;
    for (int i = 0; i < count; ++i, strength *= roughness) {
      const double f = std::ldexp(1.0, i);
      // Finer cells than a few pixels show nothing, and their points would be too many.
      if (strength <= 0 || (i > 0 && context.baseNumber("cell") / f < kFinestCell)) break;
      CellSettings s;
      s.ux = l.ux * f;
      s.uy = l.uy * f;
      s.vx = l.vx * f;
      s.vy = l.vy * f;
      s.periodX = l.periodX << i;
      s.periodY = l.periodY << i;
      // Cells smaller than a pixel show nothing that is not noise: they are kept at one, so that the work is bounded by the
      // picture's pixels whatever a value swings to.
      const auto held = [](double& u, double& v) {
        const double least = std::min(1.0, 1 / std::max(1e-9, std::max(std::abs(u), std::abs(v))));
        u *= least;
        v *= least;
      };
      held(s.ux, s.vx);
      held(s.uy, s.vy);
      s.width = context.view().width;
      s.height = context.view().height;
      const double shift = i * 0.37;  // layers must not share their lattice lines
      const auto inTile = [](double place, int period) { return place - std::floor(place / period) * period; };
      s.u0 = inTile(l.u0 * f + shift, s.periodX);
      s.v0 = inTile(l.v0 * f + shift, s.periodY);
      s.scatter = context.number("scatter");
      s.orbit = context.number("orbit");
      s.turns = context.integer("turns");
      s.turned = context.progress("turns");
      s.churn = context.integer("churn");
      s.churned = context.progress("churn");
      s.roundness = context.number("roundness");
      s.corners = context.choice("corners") == "square" ? CellCorners::Square : CellCorners::Diamond;
      if (look == Look::Facets || look == Look::Patches) s.melt = 0.01 + 0.5 * soft;
      s.seed = static_cast<std::uint32_t>(context.number("seed")) * 8 + static_cast<std::uint32_t>(i);
      const double width = look == Look::Web ? 0.12 + 0.9 * soft : look == Look::Pebbles ? 0.03 + 0.6 * soft : 0.02 + 0.5 * soft;
      // A pebble's body goes on rising far behind its edge.
      s.edgeReach = look == Look::Pebbles ? 1.25 : width;
      fields.emplace_back(s, look == Look::Facets);
      looks.push_back({look, static_cast<float>(1 / width), static_cast<float>(strength)});
      total += strength;
    }
    for (LookSettings& each : looks) each.strength /= static_cast<float>(total);
  }
};

class CellRows final : public RowMaker {
 public:
  CellRows(Layers layers, int width) : layers_(std::move(layers)), width_(width) {}
  [[nodiscard]] int channels() const override { return 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y) std::fill_n(out + (y - y0) * stride, width_ + kSpanPadding, 0.0f);
    for (std::size_t i = 0; i < layers_.fields.size(); ++i) add(layers_.fields[i], layers_.looks[i], y0, y1, out, stride);
  }

 private:
  // A block's planes stay in the L1 cache.
  static constexpr int kPlane = (64 + kSpanPadding) * 16;

  void add(const CellField& field, const LookSettings& look, int y0, int y1, float* out, std::ptrdiff_t stride) const {
    alignas(64) float planes[4][kPlane];
    constexpr int kStride = 64 + kSpanPadding;
    const auto size = field.blockSize();
    const CellSpan span{wantsNearest(look.look) ? planes[0] : nullptr, wantsSecond(look.look) ? planes[1] : nullptr,
                        wantsTones(look.look) ? planes[2] : nullptr, wantsEdges(look.look) ? planes[3] : nullptr};
    // Blocks begin at the same rows whichever band asks, so that bands of any size give the same bits.
    for (int top = y0; top < y1;) {
      const int bottom = std::min(y1, (top / size.height + 1) * size.height);
      for (int x = 0; x < width_; x += size.width) {
        const int n = std::min(size.width, width_ - x);
        field.block(x, n, top, bottom, span, kStride);
        for (int y = top; y < bottom; ++y) {
          const std::ptrdiff_t from = (y - top) * kStride;
          const CellSpan row{planes[0] + from, planes[1] + from, planes[2] + from, planes[3] + from};
          HWY_DYNAMIC_DISPATCH(addLookOf)(look, row, n, out + (y - y0) * stride + x);
        }
      }
      top = bottom;
    }
  }

  Layers layers_;
  int width_;
};

// Points are kept for the picture's neighbourhood, at most one for each pixel and layer.
double tableBytes(const StepContext& context) {
  const PlaneView& view = context.view();
  const Lattice l = latticeOf(context);
  const double tile = static_cast<double>(l.periodX) * l.periodY * std::pow(4, context.integer("layers") - 1);
  return sizeof(CellPoint) * std::min(tile, (view.width + 80.0) * (view.height + 32.0) * context.integer("layers"));
}

std::unique_ptr<RowMaker> make(const StepContext& context) {
  Layers layers(context);
  const FieldTone tone = layers.tone;
  return toned(std::make_unique<CellRows>(std::move(layers), context.view().width), tone, context.view().width);
}

double softenedPlain(double t) {
  t = std::clamp(t, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

double lookPlain(const LookSettings& s, const CellPixel& p) {
  const auto edge = static_cast<double>(s.edge);
  switch (s.look) {
    case Look::Second:
      return p.second;
    case Look::Difference:
      return p.second - p.nearest;
    case Look::Flat:
    case Look::Patches:
    case Look::Facets:
      return p.tone;
    case Look::Cracks:
      return softenedPlain(p.edge * edge);
    case Look::Web:
      return std::pow(std::max(0.0, 1 - p.edge * edge), 3);
    case Look::Pebbles: {
      const double rim = 2 * p.nearest / std::max(1e-6, 2 * p.nearest + p.edge);
      return softenedPlain(p.edge * edge) * (0.2 + 0.8 * std::sqrt(std::max(0.0, 1 - rim * rim)));
    }
    case Look::Nearest:
      break;
  }
  return p.nearest;
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const auto layers = std::make_shared<Layers>(context);
  return [layers](int x, int y) {
    double sum = 0;
    for (std::size_t i = 0; i < layers->fields.size(); ++i)
      sum += static_cast<double>(layers->looks[i].strength) * lookPlain(layers->looks[i], cellReference(layers->fields[i], x, y));
    return ReferencePixel{1, {layers->tone.at(sum)}};
  };
}

}  // namespace

const StepSpec& cellsStep() {
  static const StepSpec spec{
      .id = "cells",
      .title = "Cells",
      .group = "source",
      .help = "Scattered points divide the plane: pebbles, facets, cracks, patches or a web, that move and come home.",
      .kind = StepKind::Source,
      .params = params(),
      .varieties = "look",
      .tile = latticeTile,
      .bytes = tableBytes,
      .source = make,
      .reference = reference};
  return spec;
}

}  // namespace oa
#endif
