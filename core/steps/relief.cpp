// Relief: light and dark taken for high and low, lit from a side.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "fields/softened.h"
#include "image/colour.h"
#include "image/combined.h"
#include "image/plain_blur.h"
#include "image/sampling.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "height",
     .label = "Height",
     .help = "How high it rises; negative turns high and low round.",
     .base = 70.0,
     .min = -2000,
     .max = 2000,
     .sliderMin = -300,
     .sliderMax = 300,
     .unit = Unit::Pixels},
    field_params::turned("direction", "Direction", -125.0, "Where the light comes from.", Grip{.kind = Grip::Kind::Way}),
    {.id = "steepness",
     .label = "Steepness",
     .help = "How high the light stands: low light throws long shades.",
     .type = ParamType::Angle,
     .base = 48.0,
     .min = 5,
     .max = 89,
     .unit = Unit::Degrees},
    {.id = "rounded",
     .label = "Rounded",
     .help = "How far edges are rounded off.",
     .base = 5.0,
     .min = 0,
     .max = 500,
     .sliderMin = 0,
     .sliderMax = 60,
     .unit = Unit::Pixels},
    {.id = "shine",
     .label = "Shine",
     .help = "How much it shines where it looks towards the light.",
     .base = 0.25,
     .min = 0,
     .max = 2,
     .sliderMin = 0,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "keep",
     .label = "Own tones",
     .help = "How much of the picture's own tones is kept; none is bare plaster.",
     .base = 0.5,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

const StepVariant kVariants[] = {
    {"Plaster", "None of its own tones, softly lit.", {{"keep", 0.0}, {"height", 60.0}, {"rounded", 12.0}, {"shine", 0.0}}},
    {"Beaten metal", "High, with a hard shine.", {{"height", 130.0}, {"shine", 0.9}, {"keep", 0.35}, {"rounded", 8.0}}},
    {"Day of sun", "The light goes round.", {{"steepness", 32.0}}, {{"direction", MotionKind::Turn, 0.0, 1}}},
};

constexpr float kPlaster = 0.62f;

struct Lamp {
  double height;  // in pixels of the view, for what goes from dark to light
  double x, y, z;
  double half[3];  // between the light and the eye above
  double shine, keep, sigma;
  explicit Lamp(const StepContext& context)
      : height(context.number("height") * context.view().scale),
        shine(context.number("shine")),
        keep(context.number("keep")),
        sigma(context.number("rounded") / 2 * context.view().scale) {
    const PlaneView& view = context.view();
    const double angle = context.number("direction") * kDegree;
    const double up = context.number("steepness") * kDegree;
    // In directions of the view, which may be turned.
    const double px = std::cos(angle) * std::cos(up), py = std::sin(angle) * std::cos(up);
    const double det = view.xx * view.yy - view.xy * view.yx;
    x = (view.yy * px - view.xy * py) / det;
    y = (view.xx * py - view.yx * px) / det;
    z = std::sin(up);
    const double length = std::sqrt(x * x + y * y + (z + 1) * (z + 1));
    half[0] = x / length;
    half[1] = y / length;
    half[2] = (z + 1) / length;
  }
};

// How bright a place is whose height rises so much from pixel to pixel, a level one being 1; and how much it shines.
template <class T>
void litBy(const Lamp& lamp, T riseX, T riseY, T& light, T& shine) {
  const T nx = -riseX * static_cast<T>(lamp.height), ny = -riseY * static_cast<T>(lamp.height);
  const T length = T(1) / std::sqrt(nx * nx + ny * ny + T(1));
  const T falls = (nx * static_cast<T>(lamp.x) + ny * static_cast<T>(lamp.y) + static_cast<T>(lamp.z)) * length / static_cast<T>(lamp.z);
  // Something comes from everywhere, so that no side is black.
  light = T(0.28) + T(0.72) * std::max(T(0), falls);
  T s = std::max(T(0), (nx * static_cast<T>(lamp.half[0]) + ny * static_cast<T>(lamp.half[1]) + static_cast<T>(lamp.half[2])) * length);
  // Blinn's model (J. F. Blinn 1977), to the 32nd power; what is level does not shine, or all would.
  T level = static_cast<T>(lamp.half[2]);
  for (int k = 0; k < 5; ++k) {
    s *= s;
    level *= level;
  }
  shine = static_cast<T>(lamp.shine) * std::max(T(0), s - level);
}

template <class T>
T shown(const Lamp& lamp, T v, T alpha, T light, T shine) {
  const T body = T(kPlaster) * alpha + (v - T(kPlaster) * alpha) * static_cast<T>(lamp.keep);
  const T bright = body * light;
  return bright + std::max(T(0), alpha - bright) * std::min(T(1), shine);
}

double lumaOf(const float* p) { return static_cast<double>(p[0] * kLuma[0] + p[1] * kLuma[1] + p[2] * kLuma[2]); }

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const Lamp lamp(context);
  auto rows = input.pull(view);
  if (lamp.height == 0) return rows;
  const PlaneView wide = view.grown(1);
  const auto soft = softened(input, wide, lamp.sigma, [](std::shared_ptr<const RowMaker> from, int width, int, double) {
    if (from->channels() == 1) return from;
    return combinedRows({std::move(from)}, width, {1, true}, [](const float* const* in, int, int, int n, float* out) {
      for (int i = 0; i < n; ++i) out[i] = static_cast<float>(lumaOf(in[0] + static_cast<std::ptrdiff_t>(i) * 4));
    });
  });
  const auto heights = std::make_shared<const Plane>(wholePlane(*soft, wide.width, wide.height));
  const int channels = rows->channels();
  return combinedRows({rows}, view.width, {channels, rows->opaque()},
                      [lamp, heights, channels](const float* const* in, int x0, int y, int n, float* out) {
                        const float* const above = heights->row(y) + x0 + 1;
                        const float* const here = heights->row(y + 1) + x0 + 1;
                        const float* const below = heights->row(y + 2) + x0 + 1;
                        float light[kSpanStep];
                        float shine[kSpanStep];
                        for (int i = 0; i < n; ++i)
                          litBy(lamp, (here[i + 1] - here[i - 1]) * 0.5f, (below[i] - above[i]) * 0.5f, light[i], shine[i]);
                        if (channels == 1) {
                          for (int i = 0; i < n; ++i) out[i] = shown(lamp, in[0][i], 1.0f, light[i], shine[i]);
                          return;
                        }
                        for (int i = 0; i < n; ++i) {
                          const float alpha = in[0][i * 4 + 3];
                          for (int c = 0; c < 3; ++c)
                            out[i * 4 + c] = std::min(alpha, shown(lamp, in[0][i * 4 + c], alpha, light[i], shine[i]));
                          out[i * 4 + 3] = alpha;
                        }
                      });
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Lamp lamp(context);
  if (lamp.height == 0) return input;
  const auto heights = plainBlur(
      [input](int x, int y) {
        const ReferencePixel p = input(x, y);
        if (p.channels == 1) return PlainPixel{p.v[0]};
        double sum = 0;
        for (std::size_t c = 0; c < 3; ++c) sum += static_cast<double>(kLuma[c]) * p.v[c];
        return PlainPixel{sum};
      },
      lamp.sigma);
  return [=](int x, int y) {
    ReferencePixel p = input(x, y);
    double light = 0;
    double shine = 0;
    litBy(lamp, (heights(x + 1, y)[0] - heights(x - 1, y)[0]) / 2, (heights(x, y + 1)[0] - heights(x, y - 1)[0]) / 2, light, shine);
    for (std::size_t c = 0; c < (p.channels == 1 ? 1 : 3); ++c) {
      p.v[c] = shown(lamp, p.v[c], p.channels == 1 ? 1.0 : p.v[3], light, shine);
      if (p.channels == 4) p.v[c] = std::min(p.v[3], p.v[c]);
    }
    return p;
  };
}

}  // namespace

const StepSpec& reliefStep() {
  static const StepSpec spec{
      .id = "relief",
      .title = "Relief",
      .group = "light",
      .help = "Takes what is light for high and what is dark for low, and lights it from a side, as plaster or metal.",
      .kind = StepKind::Area,
      .params = kParams,
      .variants = kVariants,
      .area = make,
      .reference = reference};
  return spec;
}

}  // namespace oa
