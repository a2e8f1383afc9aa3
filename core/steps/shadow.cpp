// Shadow: what the layer throws on what lies below it, or its own edges throw into it.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "fields/softened.h"
#include "image/combined.h"
#include "image/grow.h"
#include "image/plain_blur.h"
#include "image/plain_reading.h"
#include "image/sampling.h"
#include "image/stacked.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "offset",
     .label = "Offset",
     .help = "How far off it falls, to the right and down.",
     .type = ParamType::Point,
     .base = Point{14, 22},
     .min = -8192,
     .max = 8192,
     .sliderMin = -120,
     .sliderMax = 120,
     .unit = Unit::Pixels,
     .grip = Grip{.kind = Grip::Kind::Step}},
    {.id = "softness",
     .label = "Softness",
     .help = "How soft its edges are.",
     .base = 36.0,
     .min = 0,
     .max = 4000,
     .sliderMin = 0,
     .sliderMax = 200,
     .unit = Unit::Pixels},
    {.id = "spread",
     .label = "Spread",
     .help = "How much wider than the layer it is; negative makes it narrower.",
     .base = 0.0,
     .min = -500,
     .max = 500,
     .sliderMin = -60,
     .sliderMax = 60,
     .unit = Unit::Pixels},
    {.id = "colour", .label = "Colour", .help = "Of the shadow.", .type = ParamType::Colour, .base = hexColour(0x04121a)},
    {.id = "strength", .label = "Strength", .help = "How dark it is.", .base = 0.55, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "inside",
     .label = "Inside",
     .help = "Falls into the layer from its edges, which then lies deeper.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed},
};

const StepVariant kVariants[] = {
    {"Long", "Far off and soft, as in the evening.", {{"offset", Point{90, 60}}, {"softness", 90.0}, {"strength", 0.45}}},
    {"Paper", "Close and clear, as under a sheet.", {{"offset", Point{3, 6}}, {"softness", 12.0}, {"strength", 0.5}}},
    {"Cut out", "Into the layer, which lies deeper.", {{"inside", true}, {"offset", Point{8, 14}}, {"softness", 30.0}, {"strength", 0.7}}},
};

struct Shade {
  double sigma, spread;
  Point offset;
  float colour[4];
  bool inside;
  explicit Shade(const StepContext& context)
      : sigma(context.number("softness") / 2 * context.view().scale),
        spread(context.number("spread") * context.view().scale),
        offset(context.point("offset")),
        inside(context.toggle("inside")) {
    const Colour c = context.colour("colour");
    const auto strength = static_cast<float>(context.number("strength")) * c.a;
    const float parts[4] = {c.r, c.g, c.b, 1};
    for (int k = 0; k < 4; ++k) colour[k] = parts[k] * strength;
  }
  [[nodiscard]] bool rests() const { return colour[3] == 0; }
};

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const Shade shade(context);
  auto rows = input.pull(view);
  // What is opaque everywhere throws its shadow on nothing.
  if (shade.rests() || rows->channels() == 1) return rows;
  PlaneView off = view;
  off.left -= shade.offset.x;
  off.top -= shade.offset.y;
  const auto soft = softened(
      input, off, shade.sigma,
      [&](std::shared_ptr<const RowMaker> pulled, int width, int height, double coarser) {
        if (pulled->channels() == 1) return pulled;
        std::shared_ptr<const RowMaker> alpha = alphaRows(std::move(pulled), width);
        if (shade.spread == 0) return alpha;
        const double by = (shade.inside ? -shade.spread : shade.spread) / coarser;
        return std::shared_ptr<const RowMaker>(planeRows(grown(wholePlane(*alpha, width, height), by), false));
      },
      std::abs(shade.spread) + 1);
  return combinedRows({rows, soft}, view.width, {4, rows->opaque()}, [shade](const float* const* in, int, int, int n, float* out) {
    for (int i = 0; i < n; ++i) {
      const float* const p = in[0] + i * 4;
      const float there = std::min(1.0f, std::max(0.0f, in[1][i]));
      if (shade.inside) {
        const float share = (1 - there) * p[3];
        for (int c = 0; c < 3; ++c) out[i * 4 + c] = p[c] + share * (shade.colour[c] - p[c] / std::max(1e-6f, p[3]) * shade.colour[3]);
        out[i * 4 + 3] = p[3];
      } else {
        for (int c = 0; c < 4; ++c) out[i * 4 + c] = p[c] + (1 - p[3]) * there * shade.colour[c];
      }
    }
  });
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Shade shade(context);
  if (shade.rests()) return input;
  const Point off{shade.offset.x * context.view().scale, shade.offset.y * context.view().scale};
  const auto alphaAt = [input](int x, int y) {
    const ReferencePixel p = input(x, y);
    return p.channels == 1 ? 1.0 : p.v[3];
  };
  // Grown by a disc, whose fractions lie between whole ones.
  const double radius = std::abs(shade.spread);
  const bool less = (shade.spread < 0) != shade.inside;
  const auto disc = [=](int x, int y, int r) {
    double most = less ? 1 : 0;
    for (int dy = -r; dy <= r; ++dy)
      for (int dx = -r; dx <= r; ++dx)
        if (dx * dx + dy * dy <= r * r) most = less ? std::min(most, alphaAt(x + dx, y + dy)) : std::max(most, alphaAt(x + dx, y + dy));
    return most;
  };
  const auto spreadAt = [=](int x, int y) {
    if (radius == 0) return alphaAt(x, y);
    const int whole = static_cast<int>(radius);
    const double rest = radius - whole;
    const double one = disc(x, y, whole);
    return rest == 0 ? one : one + (disc(x, y, whole + 1) - one) * rest;
  };
  const auto soft = plainBlur(
      [=](int x, int y) {
        double sum = 0;
        eachOfFour(x - off.x, y - off.y, [&](double weight, int u, int v) { sum += weight * spreadAt(u, v); });
        return PlainPixel{sum};
      },
      shade.sigma);
  return [=](int x, int y) {
    ReferencePixel p = input(x, y);
    if (p.channels == 1) return p;
    const double there = std::clamp(soft(x, y)[0], 0.0, 1.0);
    if (shade.inside) {
      const double share = (1 - there) * p.v[3];
      for (std::size_t c = 0; c < 3; ++c)
        p.v[c] += share * (static_cast<double>(shade.colour[c]) - p.v[c] / std::max(1e-6, p.v[3]) * static_cast<double>(shade.colour[3]));
    } else {
      const double open = 1 - p.v[3];
      for (std::size_t c = 0; c < 4; ++c) p.v[c] += open * there * static_cast<double>(shade.colour[c]);
    }
    return p;
  };
}

}  // namespace

const StepSpec& shadowStep() {
  static const StepSpec spec{.id = "shadow",
                             .title = "Shadow",
                             .group = "light",
                             .help = "Throws a soft shadow on what lies below, or into the layer itself, as into a hole.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
