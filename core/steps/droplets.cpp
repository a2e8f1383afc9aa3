// Droplets: drops that run together, drift and fall for ever, and bend what is seen through them.
//
// Drops are blobs of one field (J. F. Blinn 1982, "A generalization of algebraic surface drawing"): where it is above a threshold there is
// water, and how far it is above says how thick it is. Light is bent by how steep the water is there.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/droplets.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

#include <vector>

#include "base/parallel.h"
#include "image/buffer.h"
#include "lens/shift_map.h"

#ifndef OA_DROPLETS_ONCE
#define OA_DROPLETS_ONCE
namespace oa {
namespace {

struct Drop {
  double x, y;          // within the frame, which repeats
  double across, down;  // how far its field reaches
};

// A drop's field is seen further out than its water.
constexpr double kReach = 1.6;
constexpr double kLevel = 0.2264;  // (1 - 1 / kReach^2)^3: where a drop alone ends

std::vector<Drop> dropsOf(const StepContext& context) {
  const PlaneView& view = context.view();
  std::vector<Drop> drops;
  const auto seed = static_cast<std::uint64_t>(context.number("seed"));
  const double size = context.number("size") / 2;
  const double vary = context.number("vary");
  const double fall = context.number("fall") * context.progress("fall");
  const double swayed = context.progress("sways") * context.number("sways");
  const int count = context.integer("count");
  for (int i = 0; i < count; ++i) {
    const auto drawn = [&](std::uint64_t which) { return randomUnit(seed * 8 + which, static_cast<std::uint64_t>(i)); };
    // Few are large. Every third falls twice as fast, or all would keep their places to each other.
    const double share = drawn(0);
    const double radius = size * (1 - vary + vary * (0.25 + 1.1 * share * share * share));
    const double passes = fall * (i % 3 == 0 ? 2 : 1);
    const double sway = context.number("sway") * std::sin((swayed + drawn(1)) * 2 * std::numbers::pi);
    drops.push_back({fract(drawn(2) + sway / view.frameWidth) * view.frameWidth, fract(drawn(3) + passes) * view.frameHeight,
                     radius * kReach, radius * kReach * context.number("stretch")});
  }
  return drops;
}

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Droplets {
  std::vector<Drop> drops;
  double width, height;
  double bend;   // pixels of the plane for a slope of the field
  double scale;  // of the water: its thickness for the field
  double shine, rim;
  bool alone;
  double pixel;
  double lamp[2];

  explicit Droplets(const StepContext& context)
      : drops(dropsOf(context)),
        width(context.view().frameWidth),
        height(context.view().frameHeight),
        scale(0.55 * context.number("size")),
        shine(context.number("shine")),
        rim(context.number("rim")),
        alone(context.toggle("alone")),
        pixel(1 / context.view().scale) {
    bend = context.number("bend") * context.number("size") * scale;
    const double angle = context.number("light") * kDegree;
    lamp[0] = std::cos(angle);
    lamp[1] = std::sin(angle);
  }

  [[nodiscard]] bool rests() const { return !alone && (drops.empty() || (bend == 0 && shine == 0 && rim == 0)); }
  [[nodiscard]] bool opaque() const { return !alone; }

  // The field at a place, and its slopes.
  template <class N>
  struct Field {
    N f, x, y;
  };
  template <class N>
  static void add(const N& dx, const N& dy, double across, double down, Field<N>& sum) {
    const double a = 1 / (across * across), d = 1 / (down * down);
    const N t = maxOf(N(0.0), N(1.0) - dx * dx * N(a) - dy * dy * N(d));
    const N square = t * t;
    sum.f = sum.f + square * t;
    sum.x = sum.x - square * dx * N(6 * a);
    sum.y = sum.y - square * dy * N(6 * d);
  }
  template <class N>
  Field<N> at(N px, N py) const {
    Field<N> sum{N(0.0), N(0.0), N(0.0)};
    for (const Drop& drop : drops) {
      const N dx = px - N(drop.x), dy = py - N(drop.y);
      add(dx - floorOf(dx * N(1 / width) + N(0.5)) * N(width), dy - floorOf(dy * N(1 / height) + N(0.5)) * N(height), drop.across,
          drop.down, sum);
    }
    return sum;
  }

  // How thick the water is: flat on top, so that the middle of a large drop is clear.
  template <class N>
  static N above(const Field<N>& field) {
    return maxOf(N(0.0), minOf(N(1.0), (field.f - N(kLevel)) * N(1 / (1 - kLevel))));
  }
  template <class N>
  static void slope(const Field<N>& field, N& x, N& y) {
    const N s = above(field);
    const N steep = whereLess(N(0.0), s, (N(1.0) - s) * N(2 / (1 - kLevel)), N(0.0));
    x = field.x * steep;
    y = field.y * steep;
  }
  template <class N>
  void move(const Field<N>& field, N& px, N& py) const {
    N x, y;
    slope(field, x, y);
    px = px + x * N(bend);
    py = py + y * N(bend);
  }
  template <class N>
  void from(N& px, N& py) const {
    move(at(px, py), px, py);
  }

  template <class N>
  void lit(const Field<N>& field, N (&c)[4]) const {
    // As sharp as a pixel, whatever the field's slope.
    const N steep = rootOf(field.x * field.x + field.y * field.y);
    const N cover = maxOf(N(0.0), minOf(N(1.0), (field.f - N(kLevel)) * inverseOrZero(steep * N(pixel)) + N(0.5))) *
                    whereLess(N(1e-9), field.f, N(1.0), N(0.0));
    N x, y;
    slope(field, x, y);
    x = x * N(scale);
    y = y * N(scale);
    const N length = N(1.0) / rootOf(x * x + y * y + N(1.0));
    // A bright spot towards the light, a dark edge there and a bright one on the other side, as in water.
    const N faces = (x * N(lamp[0]) + y * N(lamp[1])) * length;
    const N spot = softOf((N(0.0) - faces - N(0.5)) * N(3.2)) * softOf(above(field) * N(3.0));
    const N low = N(1.0) - above(field);
    const N edge = low * low * cover;
    const N dark = edge * softOf(N(0.5) - faces * N(0.9)) * N(rim * 0.75);
    const N bright = minOf(N(1.0), spot * N(shine) + edge * softOf(faces * N(1.2) - N(0.1)) * N(rim * 0.45)) * cover;
    for (int k = 0; k < 3; ++k) {
      const N shown = c[k] * (N(1.0) - dark);
      c[k] = shown + (c[3] - shown) * bright;
    }
    if (alone)
      for (int k = 0; k < 4; ++k) c[k] = c[k] * cover;
  }
  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    lit(at(px, py), c);
  }
};

// The field of a row at pixels [x0, x0 + n), where one drop reaches.
void addDrop(double dx, double stepX, double dy, double stepY, double across, double down, int n, float* f, float* fx, float* fy) {
  for (int i = 0; i < n; i += Num::lanes()) {
    const Num along = Num::counting(i);
    Droplets::Field<Num> sum{Num::load(f + i), Num::load(fx + i), Num::load(fy + i)};
    Droplets::add(mulAddOf(along, Num(stepX), Num(dx)), mulAddOf(along, Num(stepY), Num(dy)), across, down, sum);
    sum.f.store(f + i);
    sum.x.store(fx + i);
    sum.y.store(fy + i);
  }
}

// The field is drawn once for the view, drop by drop, not asked for pixel by pixel of all drops.
class DropletMap final : public ShiftMap {
 public:
  DropletMap(Droplets formula, const PlaneView& view) : formula_(std::move(formula)), view_(around(view)) {
    for (Plane& plane : planes_) plane = Plane(view_.width, view_.height, 1);
    const double det = view.xx * view.yy - view.xy * view.yx;
    toXx_ = view.yy * view.scale / det;
    toXy_ = -view.xy * view.scale / det;
    toYx_ = -view.yx * view.scale / det;
    toYy_ = view.xx * view.scale / det;
    const std::vector<Placed> placed = placedDrops();
    parallelBands(view_.height, [&](int y0, int y1) {
      for (int y = y0; y < y1; ++y)
        for (Plane& plane : planes_) std::fill_n(plane.row(y), plane.stride(), 0.0f);
      for (const Placed& p : placed)
        for (int y = std::max(y0, p.box.y0); y < std::min(y1, p.box.y1); ++y) {
          // Only as much of the row as the drop covers.
          const int x0 = std::max(0, p.box.x0), x1 = std::min(view_.width, p.box.x1);
          if (x0 >= x1) continue;
          const Point at = view_.place(x0, y);
          addDrop(at.x - p.x, view_.xx / view_.scale, at.y - p.y, view_.yx / view_.scale, p.across, p.down, x1 - x0, planes_[0].row(y) + x0,
                  planes_[1].row(y) + x0, planes_[2].row(y) + x0);
        }
    });
  }

  [[nodiscard]] Light lights() const override { return Light::Pictures; }
  [[nodiscard]] bool keepsOpaque() const override { return formula_.opaque(); }
  void light(int px, int py, int n, int /*channels*/, float* pixels) const override {
    for (int i = 0; i < n; i += Num::lanes()) {
      hn::Vec<Num::D> r, g, b, a;
      hn::LoadInterleaved4(Num::D(), pixels + i * 4, r, g, b, a);
      Num c[4] = {r, g, b, a};
      const Droplets::Field<Num> field = fieldAt(px + i, py);
      if (!formula_.alone && nowhere(field)) continue;
      formula_.lit(field, c);
      hn::StoreInterleaved4(c[0].v, c[1].v, c[2].v, c[3].v, Num::D(), pixels + i * 4);
    }
  }

 private:
  struct Placed {
    double x, y, across, down;
    PixelBox box;
  };
  // The drops as often as the frame that they repeat with lies within the view.
  std::vector<Placed> placedDrops() const {
    double left = 1e30, right = -1e30, top = 1e30, bottom = -1e30;
    for (const Point corner :
         {view_.place(0, 0), view_.place(view_.width, 0), view_.place(0, view_.height), view_.place(view_.width, view_.height)}) {
      left = std::min(left, corner.x);
      right = std::max(right, corner.x);
      top = std::min(top, corner.y);
      bottom = std::max(bottom, corner.y);
    }
    std::vector<Placed> placed;
    for (const Drop& drop : formula_.drops) {
      const double x0 = std::ceil((left - drop.across - drop.x) / formula_.width),
                   x1 = std::floor((right + drop.across - drop.x) / formula_.width);
      const double y0 = std::ceil((top - drop.down - drop.y) / formula_.height),
                   y1 = std::floor((bottom + drop.down - drop.y) / formula_.height);
      for (double v = y0; v <= y1; ++v)
        for (double u = x0; u <= x1; ++u) {
          const double x = drop.x + u * formula_.width, y = drop.y + v * formula_.height;
          placed.push_back({x, y, drop.across, drop.down, pixelsOf(view_, x - drop.across, y - drop.down, x + drop.across, y + drop.down)});
        }
    }
    return placed;
  }

  Droplets::Field<Num> fieldAt(int px, int py) const {
    const int y = std::clamp(py + kAround, 0, view_.height - 1);
    const int x = std::clamp(px + kAround, 0, view_.width - 1);
    return {Num::load(planes_[0].row(y) + x), Num::load(planes_[1].row(y) + x), Num::load(planes_[2].row(y) + x)};
  }
  static bool nowhere(const Droplets::Field<Num>& field) { return hn::AllTrue(Num::D(), hn::Eq(field.f.v, hn::Zero(Num::D()))); }
  void shifts(int px, int py, int n, float* x, float* y) const override {
    for (int i = 0; i < n; i += Num::lanes()) {
      const Droplets::Field<Num> field = fieldAt(px + i, py);
      Num u(0.0), v(0.0);
      if (!nowhere(field)) formula_.move(field, u, v);
      (u * Num(toXx_) + v * Num(toXy_)).store(x + i);
      (u * Num(toYx_) + v * Num(toYy_)).store(y + i);
    }
  }

  Droplets formula_;
  PlaneView view_;
  Plane planes_[3];
  double toXx_, toXy_, toYx_, toYy_;
};

std::shared_ptr<const RowMaker> makeDroplets(const StepContext& context, const Input& input) {
  Droplets formula(context);
  if (formula.rests()) return input.pull(context.view());
  return lensRows(std::make_unique<DropletMap>(std::move(formula), context.view()), input, context.view());
}
OA_PLAIN_LENS(Droplets)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Droplets)

namespace {

const ParamSpec kParams[] = {
    {.id = "count",
     .label = "Count",
     .help = "How many drops there are in a frame.",
     .type = ParamType::Integer,
     .base = 110.0,
     .min = 0,
     .max = 2000,
     .sliderMin = 0,
     .sliderMax = 400,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "size",
     .label = "Size",
     .help = "Width of a drop.",
     .base = 120.0,
     .min = 2,
     .max = 2048,
     .sliderMin = 10,
     .sliderMax = 500,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "vary", .label = "Vary", .help = "How much they differ in size.", .base = 0.8, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "stretch",
     .label = "Stretch",
     .help = "How much higher than wide they are.",
     .base = 1.15,
     .min = 0.2,
     .max = 6,
     .sliderMin = 0.5,
     .sliderMax = 3,
     .unit = Unit::Ratio,
     .logScale = true},
    field_params::goneBy("fall", "Fall", 1.0, 4,
                         "How often they fall through the frame within a lap, every third twice as often; negative ones rise."),
    {.id = "sway",
     .label = "Sway",
     .help = "How far they drift to and fro.",
     .base = 26.0,
     .min = 0,
     .max = 4096,
     .sliderMin = 0,
     .sliderMax = 200,
     .unit = Unit::Pixels},
    {.id = "sways",
     .label = "Sways",
     .help = "How often they do within a lap.",
     .base = 1.0,
     .min = 0,
     .max = 64,
     .sliderMin = 0,
     .sliderMax = 8,
     .unit = Unit::Count,
     .rule = LoopRule::Progress,
     .defaultLaps = 1},
    {.id = "bend",
     .label = "Bend",
     .help = "How much they bend what is seen through them; negative ones make it larger, not smaller.",
     .base = 0.5,
     .min = -4,
     .max = 4,
     .sliderMin = -1.5,
     .sliderMax = 1.5,
     .unit = Unit::Ratio},
    {.id = "shine",
     .label = "Shine",
     .help = "How bright the spot is where they mirror the light.",
     .base = 0.75,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "rim", .label = "Rim", .help = "How clearly they end.", .base = 0.6, .min = 0, .max = 1, .unit = Unit::Share},
    field_params::turned("light", "Light", -120.0, "Where the light comes from.", Grip{.kind = Grip::Kind::Way}),
    {.id = "alone",
     .label = "Drops alone",
     .help = "Leaves out what lies between them.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed},
    field_params::seed("Another number, other drops."),
};

const StepVariant kVariants[] = {
    {"Window in the rain", "Many small drops, some of which run.", {{"count", 320.0}, {"size", 64.0}, {"vary", 1.0}, {"stretch", 1.4}}},
    {"Lamp of oil",
     "A few large blobs that rise and run together.",
     {{"count", 22.0}, {"size", 330.0}, {"fall", -1.0}, {"stretch", 1.0}, {"sway", 90.0}, {"vary", 0.5}, {"bend", 0.3}}},
    {"Dew",
     "Round, at rest, alone.",
     {{"count", 260.0}, {"size", 70.0}, {"fall", 0.0}, {"sway", 0.0}, {"stretch", 1.0}, {"bend", -0.4}, {"alone", true}}},
};

}  // namespace

const StepSpec& dropletsStep() {
  static const StepSpec spec{.id = "droplets",
                             .title = "Droplets",
                             .group = "body",
                             .help = "Lets drops fall and run together over the picture, which is bent within them.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
