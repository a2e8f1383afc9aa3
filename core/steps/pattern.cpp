// Patterns by formula: stripes, checks, dots, rings, waves, sunburst, spiral, honeycomb, weave, scales.
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "fields/field_params.h"
#include "fields/lattice.h"
#include "simd/ramps.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/pattern.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/num-inl.h"

#ifndef OA_PATTERN_ONCE
#define OA_PATTERN_ONCE
namespace oa {
namespace {

enum class Pattern { Stripes, Checks, Dots, Rings, Waves, Sunburst, Spiral, Honeycomb, Weave, Scales };

// A pixel's place (u, v) in periods; for patterns about a centre v is the distance from it in periods and u the angle in turns.
struct PatternSettings {
  Pattern pattern = Pattern::Stripes;
  double u0 = 0, ux = 0, uy = 0;
  double v0 = 0, vx = 0, vy = 0;
  Ramp radius, angle;
  double arms = 12;      // rays, arms
  double shift = 0;      // of the angle or the distance, in periods
  double share = 0.5;    // of the period that is light
  double softness = 0;   // width of an edge, in periods
  double footprint = 0;  // of a pixel, in periods: edges are never harder
  double depth = 0.3;    // of waves, in periods
  double turnShift = 0;  // of a sunburst or spiral, in arms
  [[nodiscard]] bool central() const { return pattern == Pattern::Rings || pattern == Pattern::Sunburst || pattern == Pattern::Spiral; }
};

constexpr double kRowHeight = 0.8660254037844386;  // sqrt(3) / 2: rows of a honeycomb

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// Light where `inside`, counted in periods from the edge, is positive.
template <class N>
HWY_INLINE N edged(const PatternSettings& s, N inside, N footprint) {
  return softOf(inside / maxOf(N(s.softness), footprint) + N(0.5));
}

// Distance inside a band about the middle of the period.
template <class N>
HWY_INLINE N band(N place, N share) {
  return share * N(0.5) - absOf(fractOf(place) - N(0.5));
}

template <class N>
HWY_INLINE N hexAway(N x, N y) {
  const N ax = absOf(x);
  return maxOf(ax, ax * N(0.5) + absOf(y) * N(kRowHeight));
}

template <class N>
HWY_INLINE N weaveOf(const PatternSettings& s, N u, N v, N pixel) {
  // Two strands cross in every cell; which one lies on top changes from cell to cell.
  const N parity = N(2.0) * fractOf((floorOf(u) + floorOf(v)) * N(0.5));
  const N across = absOf(fractOf(u) - N(0.5));
  const N down = absOf(fractOf(v) - N(0.5));
  const N over = whereLess(parity, N(0.5), across, down);
  const N under = whereLess(parity, N(0.5), down, across);
  const N half = N(s.share * 0.5);
  // Between cells nothing covers, and a strand is as bright going over as going under: no step where they change places.
  const N widest = N(std::max(1e-3, 1 - s.share));
  const N width = minOf(widest, maxOf(N(s.softness), pixel));
  const auto cover = [&](N away) HWY_ATTR { return softOf((half - away) / width + N(0.5)); };
  const auto round = [&](N away) HWY_ATTR { return N(1.0) - N(0.75) * away * away / (half * half + N(1e-3)) * N(0.6); };
  const N above = cover(over);
  const N below = cover(under);
  const N rising = N(0.725) + N(0.275) * (N(1.0) - N(4.0) * under * under);
  const N diving = N(0.725) - N(0.55) * (N(1.0) - N(4.0) * over * over);
  return above * rising * round(over) + (N(1.0) - above) * below * diving * round(under);
}

template <class N>
HWY_INLINE N scalesOf(const PatternSettings& s, N u, N v, N pixel) {
  // Rows of discs half a period apart, every other one shifted; each lies over the upper half of the one below it.
  N value = N(0.0);
  for (const double below : {1.0, 0.0}) {
    const N row = floorOf(v * N(2.0)) + N(below);
    const N odd = N(2.0) * fractOf(row * N(0.5));
    const N x = fractOf(u + odd * N(0.5)) - N(0.5);
    const N y = v - row * N(0.5);
    const N body = N(0.5) - rootOf(x * x + y * y);
    const N covers = edged(s, body, pixel);
    // A dark rim, and a shadow where the scale comes out from under the next one.
    const N rim = softOf(body * N(1 / (0.02 + 0.45 * (1 - s.share))));
    const N tone = N(0.1) + rim * (N(0.3) + N(0.6) * softOf(y + N(0.5)));
    value = value * (N(1.0) - covers) + tone * covers;
  }
  return value;
}

template <Pattern kPattern, class N>
HWY_INLINE N patternOf(const PatternSettings& s, N u, N v) {
  const N pixel(s.footprint);
  const N share(s.share);
  if constexpr (kPattern == Pattern::Stripes) return edged(s, band(u, share), pixel);
  if constexpr (kPattern == Pattern::Waves) return edged(s, band(v + N(s.depth) * sineOf(u * N(2 * std::numbers::pi)), share), pixel);
  if constexpr (kPattern == Pattern::Rings) return edged(s, band(v + N(s.shift), share), pixel);
  if constexpr (kPattern == Pattern::Checks) {
    const N a = band(u, share);
    const N b = band(v, share);
    const N least = minOf(absOf(a), absOf(b));
    return edged(s, whereLess(a * b, N(0.0), N(0.0) - least, least), pixel);
  }
  if constexpr (kPattern == Pattern::Dots) {
    const N x = fractOf(u) - N(0.5);
    const N y = fractOf(v) - N(0.5);
    return edged(s, share * N(0.7071) - rootOf(x * x + y * y), pixel);
  }
  if constexpr (kPattern == Pattern::Sunburst || kPattern == Pattern::Spiral) {
    const N turn = u * N(s.arms) + N(s.turnShift) + (kPattern == Pattern::Spiral ? v : N(0.0));
    // Rays are wide far out and narrow near the centre, and a pixel is wide against them there.
    const N rays = pixel * N(s.arms / (2 * std::numbers::pi)) / maxOf(N(1e-4), v);
    return edged(s, band(turn, share), minOf(N(1.0), kPattern == Pattern::Spiral ? rays + pixel : rays));
  }
  if constexpr (kPattern == Pattern::Honeycomb) {
    // Two rectangular lattices, one in the gaps of the other; rows are two of their heights apart.
    const N x0 = fractOf(u) - N(0.5);
    const N y0 = (fractOf(v) - N(0.5)) * N(2 * kRowHeight);
    const N x1 = fractOf(u + N(0.5)) - N(0.5);
    const N y1 = (fractOf(v + N(0.5)) - N(0.5)) * N(2 * kRowHeight);
    const N away = minOf(hexAway(x0, y0), hexAway(x1, y1));
    return edged(s, N(0.5) * rootOf(share) - away, pixel);
  }
  if constexpr (kPattern == Pattern::Weave) return weaveOf(s, u, v, pixel);
  if constexpr (kPattern == Pattern::Scales) return scalesOf(s, u, v, pixel);
}

template <Pattern kPattern>
void spanOf(const PatternSettings& s, int x0, int y, int n, const float* angle, const float* radius, float* out) {
  const double rowU = s.u0 + s.ux * x0 + s.uy * y;
  const double rowV = s.v0 + s.vx * x0 + s.vy * y;
  // Whole periods are taken off in double precision; patterns that look at neighbours need pairs of them.
  const Num u0(rowU - 2 * std::floor(rowU / 2));
  const Num v0(rowV - 2 * std::floor(rowV / 2));
  for (int i = 0; i < n; i += Num::lanes()) {
    if (radius) {
      patternOf<kPattern, Num>(s, Num::load(angle + i), Num::load(radius + i)).store(out + i);
    } else {
      const Num x = Num::counting(i);
      patternOf<kPattern, Num>(s, u0 + x * Num(s.ux), v0 + x * Num(s.vx)).store(out + i);
    }
  }
}

template <class Body>
HWY_INLINE auto choosing(Pattern pattern, Body body) {
  switch (pattern) {
    case Pattern::Stripes:
      return body.template operator()<Pattern::Stripes>();
    case Pattern::Checks:
      return body.template operator()<Pattern::Checks>();
    case Pattern::Dots:
      return body.template operator()<Pattern::Dots>();
    case Pattern::Rings:
      return body.template operator()<Pattern::Rings>();
    case Pattern::Waves:
      return body.template operator()<Pattern::Waves>();
    case Pattern::Sunburst:
      return body.template operator()<Pattern::Sunburst>();
    case Pattern::Spiral:
      return body.template operator()<Pattern::Spiral>();
    case Pattern::Honeycomb:
      return body.template operator()<Pattern::Honeycomb>();
    case Pattern::Weave:
      return body.template operator()<Pattern::Weave>();
    case Pattern::Scales:
      break;
  }
  return body.template operator()<Pattern::Scales>();
}

struct SpanBody {
  const PatternSettings& s;
  int x0, y, n;
  const float* angle;
  const float* radius;
  float* out;
  template <Pattern kPattern>
  void operator()() const {
    spanOf<kPattern>(s, x0, y, n, angle, radius, out);
  }
};

struct PlainBody {
  const PatternSettings& s;
  double u, v;
  template <Pattern kPattern>
  double operator()() const {
    return patternOf<kPattern, double>(s, u, v);
  }
};

void patternSpan(const PatternSettings& s, int x0, int y, int n, const float* angle, const float* radius, float* out) {
  choosing(s.pattern, SpanBody{s, x0, y, n, angle, radius, out});
}

double patternPlain(const PatternSettings& s, double u, double v) { return choosing(s.pattern, PlainBody{s, u, v}); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(patternSpan);
HWY_EXPORT(patternPlain);

namespace {

const std::vector<std::string_view> kCentral{"rings", "sunburst", "spiral"};
const std::vector<std::string_view> kArmed{"sunburst", "spiral"};

const std::vector<ParamSpec>& params() {
  namespace fp = field_params;
  static const std::vector<ParamSpec> list{
      {.id = "kind",
       .label = "Kind",
       .help = "Stripes, checks, dots, rings, waves, a sunburst, a spiral, honeycomb, woven strands or overlapping scales.",
       .type = ParamType::Choice,
       .base = std::string("stripes"),
       .rule = LoopRule::Fixed,
       .choices = {"stripes", "checks", "dots", "rings", "waves", "sunburst", "spiral", "honeycomb", "weave", "scales"}},
      {.id = "scale",
       .label = "Scale",
       .help = "Length of a period. Rounded so that whole periods fill the frame, where the pattern is not about a centre.",
       .base = 120.0,
       .min = 2,
       .max = 8192,
       .sliderMin = 8,
       .sliderMax = 800,
       .unit = Unit::Pixels,
       .logScale = true},
      fp::angle("Turns the pattern about the middle of the frame, or about its own."),
      fp::when(fp::place("centre", "Centre", {0.5, 0.5}, "Where the pattern has its middle; 0 to 1 across and down the frame."), "kind",
               kCentral),
      fp::when({.id = "arms",
                .label = "Arms",
                .help = "How many rays or arms there are.",
                .type = ParamType::Integer,
                .base = 14.0,
                .min = 1,
                .max = 256,
                .sliderMin = 1,
                .sliderMax = 48,
                .unit = Unit::Count,
                .rule = LoopRule::Fixed},
               "kind", kArmed),
      fp::when({.id = "depth",
                .label = "Depth",
                .help = "How far the waves swing, in periods.",
                .base = 0.3,
                .min = 0,
                .max = 4,
                .sliderMin = 0,
                .sliderMax = 1,
                .unit = Unit::Share},
               "kind", {"waves"}),
      {.id = "share", .label = "Share", .help = "How much of each period is light.", .base = 0.5, .min = 0, .max = 1, .unit = Unit::Share},
      {.id = "softness",
       .label = "Softness",
       .help = "Width of the edges: none is as if cut out.",
       .base = 0.05,
       .min = 0,
       .max = 1,
       .unit = Unit::Share},
      fp::invert(),
      {.id = "travel",
       .label = "Travel",
       .help = "Whole periods that the pattern moves within a lap, across and down; about a centre: round it, and outwards.",
       .type = ParamType::Point,
       .base = Point{1, 0},
       .min = -256,
       .max = 256,
       .sliderMin = -12,
       .sliderMax = 12,
       .unit = Unit::Tiles,
       .rule = LoopRule::Progress,
       .defaultLaps = 1},
  };
  return list;
}

// Periods across and down that fill the frame.
struct Periods {
  double width, height;
};
Periods periodsOf(const StepContext& context, Pattern pattern) {
  const PlaneView& view = context.view();
  const double rest = context.baseNumber("scale");
  const double zoom = context.number("scale") / rest;
  const auto fitted = [&](double length, double period, int multiple) {
    return length / (multiple * std::max(1.0, std::round(length / (period * multiple)))) * zoom;
  };
  // Which strand lies on top repeats every other cell, so pairs must fill the frame.
  const int pairs = pattern == Pattern::Weave ? 2 : 1;
  const double wide = pattern == Pattern::Waves ? 3 : 1;
  const double high = pattern == Pattern::Honeycomb ? 2 * kRowHeight : 1;
  return {fitted(view.frameWidth, rest * wide, pairs), fitted(view.frameHeight, rest * high, pairs)};
}

PatternSettings settingsOf(const StepContext& context) {
  const PlaneView& view = context.view();
  PatternSettings s;
  const auto& kinds = params().front().choices;
  s.pattern = static_cast<Pattern>(std::find(kinds.begin(), kinds.end(), context.choice("kind")) - kinds.begin());
  s.share = context.number("share");
  s.softness = context.number("softness") * 0.5;
  s.depth = context.number("depth");
  s.arms = context.integer("arms");
  const double scale = context.number("scale");
  const double degrees = context.number("angle");
  const Point travel = context.point("travel");
  const double done = context.progress("travel");
  if (s.central()) {
    const Point centre = context.point("centre");
    const Axes axes = axesAbout(view, {centre.x * view.frameWidth, centre.y * view.frameHeight}, degrees, scale, scale);
    Ramp ramp;
    setAxes(ramp, axes);
    ramp.extend = RampExtend::Hold;
    ramp.kind = RampKind::Radial;
    s.radius = ramp;
    ramp.kind = RampKind::Conic;
    s.angle = ramp;
    s.footprint = 1 / (scale * view.scale);
    s.turnShift = -fract(travel.x * done) - fract(travel.y * done);
    s.shift = -fract(travel.x * done) - fract(travel.y * done);
    return s;
  }
  const Periods p = periodsOf(context, s.pattern);
  const Axes axes = axesAbout(view, {view.frameWidth / 2, view.frameHeight / 2}, degrees, p.width, p.height);
  // Travel is read modulo two periods: weaves repeat after a pair.
  const auto moved = [&](double periods) { return 2 * fract(periods * done * (s.pattern == Pattern::Weave ? 2 : 1) / 2); };
  s.u0 = axes.u0 + 0.5 * view.frameWidth / p.width - moved(travel.x);
  s.v0 = axes.v0 + 0.5 * view.frameHeight / p.height - moved(travel.y);
  s.ux = axes.ux;
  s.uy = axes.uy;
  s.vx = axes.vx;
  s.vy = axes.vy;
  s.footprint = 1 / (std::min(p.height, s.pattern == Pattern::Waves ? p.height : p.width) * view.scale);
  return s;
}

class PatternRows final : public SpanMaker {
 public:
  PatternRows(const PatternSettings& settings, bool invert, int width) : SpanMaker(width), settings_(settings), invert_(invert) {}
  [[nodiscard]] int channels() const override { return 1; }
  void span(int y, int x0, int n, float* out) const override {
    alignas(64) float radius[kSpanStep + kSpanPadding];
    alignas(64) float angle[kSpanStep + kSpanPadding];
    const bool central = settings_.central();
    if (central) {
      rampSpan(settings_.radius, x0, y, n, radius);
      if (settings_.pattern != Pattern::Rings) rampSpan(settings_.angle, x0, y, n, angle);
    }
    HWY_DYNAMIC_DISPATCH(patternSpan)
    (settings_, x0, y, n, settings_.pattern == Pattern::Rings ? radius : angle, central ? radius : nullptr, out);
    if (invert_)
      for (int i = 0; i < n; ++i) out[i] = 1 - out[i];
  }

 private:
  PatternSettings settings_;
  bool invert_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) {
  return std::make_unique<PatternRows>(settingsOf(context), context.toggle("invert"), context.view().width);
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const PatternSettings s = settingsOf(context);
  const bool invert = context.toggle("invert");
  return [s, invert](int x, int y) {
    double u = s.u0 + s.ux * x + s.uy * y;
    double v = s.v0 + s.vx * x + s.vy * y;
    if (s.central()) {
      u = rampAt(s.angle, x, y);
      v = std::hypot(s.radius.a0 + s.radius.ax * x + s.radius.ay * y, s.radius.b0 + s.radius.bx * x + s.radius.by * y);
    }
    const double value = HWY_DYNAMIC_DISPATCH(patternPlain)(s, u, v);
    return ReferencePixel{1, {invert ? 1 - value : value}};
  };
}

// Patterns about a centre have none.
TileSize tile(const StepContext& context) {
  const PatternSettings s = settingsOf(context);
  if (s.central()) return {};
  const double pairs = s.pattern == Pattern::Weave ? 2 : 1;
  const Periods p = periodsOf(context, s.pattern);
  return {p.width * pairs, p.height * pairs, std::remainder(context.number("angle"), 360.0)};
}

// By the softness of its edges.
double smooth(const StepContext& context, double) {
  const std::string_view kind = context.choice("kind");
  if (kind != "stripes" && kind != "rings" && kind != "waves") return 0;
  return context.number("scale") * context.number("softness") / 64;
}

}  // namespace

const StepSpec& patternStep() {
  static const StepSpec spec{.id = "pattern",
                             .title = "Pattern",
                             .group = "source",
                             .help =
                                 "Shapes by formula that repeat without an edge: stripes, checks, dots, rings, waves, rays, spirals, "
                                 "honeycomb, weave and scales.",
                             .kind = StepKind::Source,
                             .params = params(),
                             .varieties = "kind",
                             .tile = tile,
                             .source = make,
                             .smooth = smooth,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
