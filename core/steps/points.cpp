// Colour points that melt into each other.
#include <algorithm>
#include <cmath>
#include <iterator>
#include <string>
#include <vector>

#include "base/numbers.h"
#include "base/parallel.h"
#include "fields/field_params.h"
#include "image/colour.h"
#include "image/enlarged.h"
#include "image/oklab.h"
#include "image/transfer.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/points.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/num-inl.h"

#ifndef OA_POINTS_ONCE
#define OA_POINTS_ONCE
namespace oa {
namespace {

// Points whose weights are held at a time.
constexpr int kGroup = 16;

struct Mixture {
  bool okLab = true;
  bool fields = true;  // normalised Gaussians; else spots
  struct One {
    double x, y;       // on the plane, in steps as wide as the view's pixels, from the middle of its first
    double power;      // how quickly the colour gives way to its neighbours
    double perReach2;  // 1 / reach^2, in pixels
    double a, b, c;    // OKLab, or linear red, green, blue
    double alpha;
  };
  std::vector<One> points;
};

// Near its own place a point's weight ends growing here: a soft core instead of a spike.
constexpr double kCore = 0.02;

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

template <class N>
struct Mixed {
  N r, g, b, alpha;  // straight, linear light
};

// Spots: weights 1 / (d^2 / reach^2 + core)^power, each point with a power of its own, normalised (after D. Shepard, "A
// two-dimensional interpolation function for irregularly-spaced data", ACM 1968); far away from all points their mean is left.
// Fields: weights exp(-d^2 / 2 r^2), normalised (after J. Moody & C. Darken, "Fast learning in networks of locally-tuned
// processing units", Neural Computation 1989); far away the nearest point is left.
template <class N>
HWY_INLINE Mixed<N> mixedAt(const Mixture& m, N x, N y) {
  // Against the strongest weight, or far from all points all of them would vanish. What was summed before a stronger one came is
  // made smaller with it.
  N strongest(-1e30);
  N sum(0.0), a(0.0), b(0.0), c(0.0), alpha(0.0);
  const int count = static_cast<int>(m.points.size());
  for (int first = 0; first < count; first += kGroup) {
    const int n = std::min(kGroup, count - first);
    N logs[kGroup];
    N most = strongest;
    for (int i = 0; i < n; ++i) {
      const Mixture::One& p = m.points[static_cast<std::size_t>(first) + static_cast<std::size_t>(i)];
      const N dx = x - N(p.x);
      const N dy = y - N(p.y);
      if (m.fields)
        logs[i] = (dx * dx + dy * dy) * N(-0.5 * p.perReach2);
      else
        logs[i] = N(-p.power) * logOf((dx * dx + dy * dy) * N(p.perReach2) + N(kCore));
      most = maxOf(most, logs[i]);
    }
    if (first > 0) {
      const N less = expOf(strongest - most);
      sum = sum * less;
      alpha = alpha * less;
      a = a * less;
      b = b * less;
      c = c * less;
    }
    strongest = most;
    for (int i = 0; i < n; ++i) {
      const Mixture::One& p = m.points[static_cast<std::size_t>(first) + static_cast<std::size_t>(i)];
      const N weight = expOf(logs[i] - strongest);
      const N covered = weight * N(p.alpha);
      sum = sum + weight;
      alpha = alpha + covered;
      a = a + covered * N(p.a);
      b = b + covered * N(p.b);
      c = c + covered * N(p.c);
    }
  }
  const N whole = N(1.0) / maxOf(alpha, N(1e-30));
  a = a * whole;
  b = b * whole;
  c = c * whole;
  alpha = alpha / sum;
  if (!m.okLab) return {a, b, c, alpha};
  N lms[3];
  for (int i = 0; i < 3; ++i) {
    const N root = a + N(kRootsFromAb[i][0]) * b + N(kRootsFromAb[i][1]) * c;
    lms[i] = root * root * root;
  }
  N rgb[3];
  for (int i = 0; i < 3; ++i) {
    const N linear = N(kRgbFromLms[i][0]) * lms[0] + N(kRgbFromLms[i][1]) * lms[1] + N(kRgbFromLms[i][2]) * lms[2];
    rgb[i] = minOf(N(1.0), maxOf(N(0.0), linear));
  }
  return {rgb[0], rgb[1], rgb[2], alpha};
}

// `n` premultiplied pixels in linear light, `step` apart from `at`.
void mixRow(const Mixture& m, Point at, Point step, int n, float* out) {
  for (int i = 0; i < n; i += Num::lanes()) {
    const Num along = Num::counting(i);
    const auto p = mixedAt<Num>(m, Num(at.x) + along * Num(step.x), Num(at.y) + along * Num(step.y));
    hn::StoreInterleaved4((p.r * p.alpha).v, (p.g * p.alpha).v, (p.b * p.alpha).v, p.alpha.v, Num::D(), out + i * 4);
  }
}

void mixPlain(const Mixture& m, double x, double y, double* rgba) {
  const auto p = mixedAt<double>(m, x, y);
  rgba[0] = p.r;
  rgba[1] = p.g;
  rgba[2] = p.b;
  rgba[3] = p.alpha;
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(mixRow);
HWY_EXPORT(mixPlain);

namespace {

// Pixels between mixtures: few where reaches are short or colours are parted by edges.
double smoothPixels(const Mixture& m, const PlaneView& view) {
  double reach = 1e30;
  double power = 0;
  for (const Mixture::One& p : m.points) {
    reach = std::min(reach, 1 / std::sqrt(p.perReach2));
    power = std::max(power, p.power);
  }
  // Between two fields L apart the colour turns over within about r^2 / L.
  if (m.fields) return reach * reach / (std::hypot(view.frameWidth, view.frameHeight) * view.scale) * 0.25;
  return std::min(reach * 0.02, power > 4 ? 4.0 : 1e9);
}
double gridPixels(const Mixture& m, const PlaneView& view) { return std::clamp(smoothPixels(m, view), m.fields ? 1.0 : 2.0, 8.0); }

// The first points a new step shows; the others wait in a second ring.
struct Beginning {
  unsigned colour;
  Point place;
};
constexpr Beginning kBeginnings[] = {
    {0x12324a, {0.12, 0.18}}, {0x1f7672, {0.34, 0.82}}, {0xe08a55, {0.72, 0.28}}, {0xf3cf9b, {0.9, 0.78}},
    {0x7a3550, {0.5, 0.48}},  {0x0b1a22, {0.05, 0.9}},  {0x4f8fa3, {0.55, 0.06}}, {0xc8472b, {0.95, 0.1}},
    {0x2d5f4c, {0.2, 0.5}},   {0xf7e7c8, {0.68, 0.62}}, {0x39465e, {0.42, 0.3}},  {0xa8701a, {0.8, 0.5}},
    {0x9bc4bf, {0.08, 0.55}}, {0x5a2f3f, {0.6, 0.95}},  {0xd9a679, {0.28, 0.05}}, {0x16404a, {0.98, 0.45}}};

// Colours come round again after sixteen; places go on by the golden angle, each somewhere else (after H. Vogel, "A better way to
// construct the sunflower head", Mathematical Biosciences 1979).
void beginning(std::size_t i, std::span<Value> values) {
  const Beginning& start = kBeginnings[i % std::size(kBeginnings)];
  Point place = start.place;
  if (i >= std::size(kBeginnings)) {
    const double turn = static_cast<double>(i) * 2.399963229728653;
    const double far = 0.48 * std::sqrt(fract(static_cast<double>(i) * 0.6180339887498949));
    place = {std::round((0.5 + far * std::cos(turn)) * 1000) / 1000, std::round((0.5 + far * std::sin(turn)) * 1000) / 1000};
  }
  values[0] = hexColour(start.colour);
  values[1] = place;
}

const ParamSpec kPointParams[] = {
    {.id = "colour", .label = "Colour", .help = "The point's colour.", .type = ParamType::Colour, .base = hexColour(0x1f7672)},
    {.id = "place",
     .label = "Place",
     .help = "Where the point lies; 0 to 1 across and down the frame. Drag it in the picture.",
     .type = ParamType::Point,
     .base = Point{0.5, 0.5},
     .min = -2,
     .max = 3,
     .sliderMin = 0,
     .sliderMax = 1,
     .beginsWith = MotionKind::Wander},
    {.id = "reach",
     .label = "Reach",
     .help = "How far the colour goes against the others.",
     .base = 400.0,
     .min = 1,
     .max = 8192,
     .sliderMin = 40,
     .sliderMax = 1600,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "softer",
     .label = "Softer",
     .help = "How much softer than the others the colour ends; negative: harder, like a disc as wide as its reach.",
     .base = 0.0,
     .min = -1,
     .max = 1,
     .unit = Unit::Share},
};

const ItemsSpec kPoints{.id = "points",
                        .single = "Point",
                        .help = "The points, each with its colour and its place.",
                        .params = kPointParams,
                        .first = 5,
                        .beginning = beginning,
                        .place = "place",
                        .numberedUntil = 2};

const ParamSpec kParams[] = {
    {.id = "melting",
     .label = "Melting",
     .help = "Fields run evenly from point to point, and far out the nearest one is left; spots lie on the mean of all colours.",
     .type = ParamType::Choice,
     .base = std::string("fields"),
     .rule = LoopRule::Fixed,
     .choices = {"fields", "spots"},
     .whenAbsent = Value(std::string("spots"))},
    {.id = "softness",
     .label = "Softness",
     .help = "How far all colours run into each other: none parts them like panes of glass, all makes one haze.",
     .base = 0.65,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "mixing",
     .label = "Mixing",
     .help = "OKLab keeps mixed colours clear and their steps even to the eye; linear mixes as light does.",
     .type = ParamType::Choice,
     .base = std::string("oklab"),
     .rule = LoopRule::Fixed,
     .choices = {"oklab", "linear"}},
};

Mixture mixtureOf(const StepContext& context) {
  const PlaneView& view = context.view();
  Mixture m;
  m.okLab = context.choice("mixing") == "oklab";
  m.fields = context.choice("melting") == "fields";
  m.points.reserve(context.items().size());
  for (const Values& item : context.items()) {
    const Point place = item.point("place");
    const double softness = std::clamp(context.number("softness") + item.number("softer"), 0.0, 1.0);
    const double reach = item.number("reach") * view.scale * (m.fields ? 0.15 + 1.3 * softness : 1);
    const Colour colour = item.colour("colour");
    Mixture::One& p = m.points.emplace_back();
    p.x = (place.x * view.frameWidth - view.left) * view.scale - 0.5;
    p.y = (place.y * view.frameHeight - view.top) * view.scale - 0.5;
    p.perReach2 = 1 / (reach * reach);
    const double hard = 1 - softness;
    p.power = 0.7 + 9 * hard * hard * hard + 1.5 * hard;
    p.alpha = static_cast<double>(colour.a);
    if (m.okLab) {
      const OkLab lab = toOkLab(colour);
      p.a = lab.L;
      p.b = lab.a;
      p.c = lab.b;
    } else {
      p.a = srgbDecode(static_cast<double>(colour.r));
      p.b = srgbDecode(static_cast<double>(colour.g));
      p.c = srgbDecode(static_cast<double>(colour.b));
    }
  }
  return m;
}

// Where a pixel lies in the mixture's own measure.
Point measured(const PlaneView& view, double px, double py) {
  return {(px + 0.5) * view.xx + (py + 0.5) * view.xy - 0.5, (px + 0.5) * view.yx + (py + 0.5) * view.yy - 0.5};
}

bool opaque(const Mixture& m) {
  return std::all_of(m.points.begin(), m.points.end(), [](const Mixture::One& p) { return p.alpha >= 1; });
}

// Colours change slowly: they are mixed every few pixels and enlarged.
std::unique_ptr<RowMaker> make(const StepContext& context) {
  const Mixture m = mixtureOf(context);
  const PlaneView& view = context.view();
  SampleGrid grid(view, gridPixels(m, view), 4);
  const int columns = grid.plane.width();
  parallelBands(grid.plane.height(), [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y) {
      float* row = grid.plane.row(y);
      HWY_DYNAMIC_DISPATCH(mixRow)
      (m, measured(view, grid.firstX(), grid.firstY() + y * grid.stepY), {grid.stepX * view.xx, grid.stepX * view.yx}, columns, row);
      encodeSpan(row, columns);
    }
  });
  return enlarged(std::move(grid), opaque(m));
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const Mixture m = mixtureOf(context);
  return [m, view = context.view()](int x, int y) {
    double c[4];
    const Point at = measured(view, x, y);
    HWY_DYNAMIC_DISPATCH(mixPlain)(m, at.x, at.y, c);
    return ReferencePixel{4, {srgbEncode(c[0]) * c[3], srgbEncode(c[1]) * c[3], srgbEncode(c[2]) * c[3], c[3]}};
  };
}

double smooth(const StepContext& context, double) {
  const PlaneView& view = context.view();
  return smoothPixels(mixtureOf(context), view) / view.scale;
}

}  // namespace

const StepSpec& pointsStep() {
  static const StepSpec spec{.id = "points",
                             .title = "Colour points",
                             .group = "source",
                             .help = "Points of colour that melt into each other; each can be dragged in the picture and set moving.",
                             .version = 3,
                             .kind = StepKind::Source,
                             .params = kParams,
                             .items = &kPoints,
                             .shelf = {.section = "Colours", .rank = 2},
                             .source = make,
                             .smooth = smooth,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
