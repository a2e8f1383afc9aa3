// Linear, radial and conic gradients between two points.
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "fields/field_params.h"
#include "fields/lattice.h"
#include "params/stop_items.h"
#include "simd/colour_table.h"
#include "simd/ramps.h"
#include "steps/step.h"

namespace oa {
namespace {

constexpr int kEntries = 4096;

const ParamSpec kParams[] = {
    {.id = "kind",
     .label = "Kind",
     .help = "Linear runs from point to point, radial outwards from the first, conic round it.",
     .type = ParamType::Choice,
     .base = std::string("linear"),
     .rule = LoopRule::Fixed,
     .choices = {"linear", "radial", "conic"}},
    field_params::begins(field_params::place("from", "From", {0.5, 0}, "Where the first colour lies; 0 to 1 across and down the frame."),
                         MotionKind::Swing),
    field_params::place("to", "To", {0.5, 1}, "Where the last colour lies; for a conic gradient, the direction it starts in."),
    field_params::angle("Turns the gradient: a linear one about its middle, the others about their first point."),
    {.id = "extend",
     .label = "Beyond",
     .help = "What lies beyond the ends: the end's colour, the gradient again, or the gradient there and back.",
     .type = ParamType::Choice,
     .base = std::string("hold"),
     .rule = LoopRule::Fixed,
     .choices = {"hold", "again", "back"}},
    {.id = "travel",
     .label = "Travel",
     .help = "How many whole gradients it moves along itself in a lap.",
     .type = ParamType::Number,
     .base = 0.0,
     .min = -64,
     .max = 64,
     .sliderMin = -4,
     .sliderMax = 4,
     .unit = Unit::Tiles,
     .rule = LoopRule::Progress,
     .defaultLaps = 1,
     .shownWhen = ShownWhen{"extend", {"again", "back"}}},
    {.id = "mixing",
     .label = "Mixing",
     .help = "OKLab keeps the steps even to the eye; display mixes the stored values, as older programs do.",
     .type = ParamType::Choice,
     .base = std::string("oklab"),
     .rule = LoopRule::Fixed,
     .choices = {"oklab", "display"}},
};

void beginning(std::size_t i, std::span<Value> values) {
  values[kStopAt] = i == 0 ? 0.0 : 1.0;
  values[kStopColour] = i == 0 ? hexColour(0x123245) : hexColour(0xeda86d);
}

const ItemsSpec kStops{.id = "stops",
                       .single = "Colour",
                       .help = "The colours on the way, each at its share.",
                       .params = stopParams(),
                       .beginning = beginning,
                       .place = "at",
                       .alongLine = true};

struct Geometry {
  Ramp ramp;
  ColourMixing mixing;

  explicit Geometry(const StepContext& context) {
    const PlaneView& view = context.view();
    const auto placed = [&](Point p) { return Point{p.x * view.frameWidth, p.y * view.frameHeight}; };
    Point from = placed(context.point("from"));
    Point to = placed(context.point("to"));
    const double angle = context.number("angle") * std::numbers::pi / 180;
    const double c = std::cos(angle);
    const double s = std::sin(angle);
    const std::string_view kind = context.choice("kind");
    const Point pivot = kind == "linear" ? Point{(from.x + to.x) / 2, (from.y + to.y) / 2} : from;
    const auto turned = [&](Point p) {
      const double x = p.x - pivot.x;
      const double y = p.y - pivot.y;
      return Point{pivot.x + c * x - s * y, pivot.y + s * x + c * y};
    };
    from = turned(from);
    to = turned(to);
    const double dx = to.x - from.x;
    const double dy = to.y - from.y;
    // Two ends in one place: a gradient one pixel long has a defined look.
    const double length = std::max(1.0, std::hypot(dx, dy));
    const double ux = std::hypot(dx, dy) > 0 ? dx / std::hypot(dx, dy) : 1;
    const double uy = std::hypot(dx, dy) > 0 ? dy / std::hypot(dx, dy) : 0;
    // Along and across the gradient's own axis, in units of its length.
    const Axes axes = axesAlong(view, from, {ux / length, uy / length}, {-uy / length, ux / length});
    ramp.kind = kind == "linear" ? RampKind::Linear : (kind == "radial" ? RampKind::Radial : RampKind::Conic);
    setAxes(ramp, axes);
    const std::string_view extend = context.choice("extend");
    ramp.extend = extend == "hold" ? RampExtend::Hold : (extend == "again" ? RampExtend::Again : RampExtend::Back);
    // "Back" repeats after two lengths, so a travel of whole gradients must be of whole pairs.
    const double period = ramp.extend == RampExtend::Back ? 2 : 1;
    if (ramp.extend != RampExtend::Hold) ramp.shift = fract(-context.progress("travel") * context.number("travel")) * period;
    mixing = context.choice("mixing") == "oklab" ? ColourMixing::OkLab : ColourMixing::Display;
  }
};

class GradientRows final : public SpanMaker {
 public:
  explicit GradientRows(const StepContext& context) : GradientRows(context, Geometry(context)) {}
  GradientRows(const Ramp& ramp, std::shared_ptr<const ColourTable> table, int width)
      : SpanMaker(width), ramp_(ramp), table_(std::move(table)), width_(width) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return table_->opaque(); }
  [[nodiscard]] bool hides(int, int, int) const override { return table_->opaque(); }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    return std::make_shared<GradientRows>(ramp_, table_->linear(), width_);
  }
  void span(int y, int x0, int n, float* out) const override {
    if (ramp_.constantInX()) return table_->fill(static_cast<float>(rampAt(ramp_, x0, y)), n, out);
    alignas(64) float t[kSpanStep];
    rampSpan(ramp_, x0, y, n, t);
    table_->map(t, n, out);
  }

 private:
  GradientRows(const StepContext& context, const Geometry& geometry)
      : GradientRows(geometry.ramp, ColourTable::baked(stopsOf(context), geometry.mixing, kEntries), context.view().width) {}
  Ramp ramp_;
  std::shared_ptr<const ColourTable> table_;
  int width_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) { return std::make_unique<GradientRows>(context); }

ReferenceField reference(const StepContext& context, ReferenceField) {
  const Geometry geometry(context);
  return [geometry, stops = stopsOf(context)](int x, int y) {
    const Colour c = colourAt(stops, rampAt(geometry.ramp, x, y), geometry.mixing);
    return ReferencePixel{4, {c.r * c.a, c.g * c.a, c.b * c.a, c.a}};
  };
}

}  // namespace

const StepSpec& gradientStep() {
  static const StepSpec spec{.id = "gradient",
                             .title = "Gradient",
                             .group = "source",
                             .help = "Colours that run into each other along a line, from a point or round it.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .items = &kStops,
                             .varieties = "kind",
                             .shelf = {.section = "Colours", .rank = 2, .noun = "gradient"},
                             .masks = true,
                             .source = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
