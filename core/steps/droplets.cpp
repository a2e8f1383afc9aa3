// Droplets: drops that run together, drift and fall for ever, and bend what is seen through them.
//
// Drops are blobs of one field (J. F. Blinn 1982, "A generalization of algebraic surface drawing"): where it is above a threshold there is
// water, and how far it is above says how thick it is. Light is bent by how steep the water is there.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/droplets.cpp"
#include <hwy/foreach_target.h>
#include "simd/inverse-root-inl.h"
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
  double a, d;          // one by their squares
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
    const double across = radius * kReach, down = across * context.number("stretch");
    drops.push_back({fract(drawn(2) + sway / view.frameWidth) * view.frameWidth, fract(drawn(3) + passes) * view.frameHeight, across, down,
                     1 / (across * across), 1 / (down * down)});
  }
  return drops;
}

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// The field at a place, and its slopes.
template <class N>
struct Field {
  N f, x, y;
};

// What one drop adds to the field, by its shape.
template <class N>
struct DropShape {
  N a, d, sixA, sixD;
  explicit DropShape(double across, double down) : a(across), d(down), sixA(6 * across), sixD(6 * down) {}
  HWY_INLINE void addTo(Field<N>& sum, const N& dx, const N& dy) const {
    const N t = maxOf(N(0.0), N(1.0) - dx * dx * a - dy * dy * d);
    const N square = t * t;
    sum.f = sum.f + square * t;
    sum.x = sum.x - square * dx * sixA;
    sum.y = sum.y - square * dy * sixD;
  }
};

// What the field does to what is seen through it.
template <class N>
struct Water {
  N bend;   // pixels of the plane for a slope of the field
  N scale;  // of the water: its thickness for the field
  N shine, dark, bright;
  N pixel, perPixel;
  N lamp[2];
  bool alone;

  explicit Water(const StepContext& context)
      : scale(0.55 * context.number("size")),
        shine(context.number("shine")),
        dark(context.number("rim") * 0.75),
        bright(context.number("rim") * 0.45),
        pixel(1 / context.view().scale),
        perPixel(context.view().scale),
        alone(context.toggle("alone")) {
    bend = context.number("bend") * context.number("size") * scale;
    const double angle = context.number("light") * kDegree;
    lamp[0] = std::cos(angle);
    lamp[1] = std::sin(angle);
  }
  // Of doubles vectors, made once and not again for each pixel.
  template <class M>
  explicit Water(const Water<M>& o)
      : bend(o.bend),
        scale(o.scale),
        shine(o.shine),
        dark(o.dark),
        bright(o.bright),
        pixel(o.pixel),
        perPixel(o.perPixel),
        lamp{o.lamp[0], o.lamp[1]},
        alone(o.alone) {}

  // How thick the water is: flat on top, so that the middle of a large drop is clear.
  static N above(const Field<N>& field) { return maxOf(N(0.0), minOf(N(1.0), (field.f - N(kLevel)) * N(1 / (1 - kLevel)))); }
  static void slope(const Field<N>& field, N& x, N& y) {
    const N s = above(field);
    const N steep = whereLess(N(0.0), s, (N(1.0) - s) * N(2 / (1 - kLevel)), N(0.0));
    x = field.x * steep;
    y = field.y * steep;
  }
  void move(const Field<N>& field, N& px, N& py) const {
    N x, y;
    slope(field, x, y);
    px = px + x * bend;
    py = py + y * bend;
  }

  void lit(const Field<N>& field, N (&c)[4]) const {
    // As sharp as a pixel, whatever the field's slope.
    const N flatness = inverseRootOf(maxOf(N(1e-30), field.x * field.x + field.y * field.y));
    const N cover =
        maxOf(N(0.0), minOf(N(1.0), (field.f - N(kLevel)) * flatness * perPixel + N(0.5))) * whereLess(N(1e-9), field.f, N(1.0), N(0.0));
    N x, y;
    slope(field, x, y);
    x = x * scale;
    y = y * scale;
    const N length = inverseRootOf(x * x + y * y + N(1.0));
    // A bright spot towards the light, a dark edge there and a bright one on the other side, as in water.
    const N faces = (x * lamp[0] + y * lamp[1]) * length;
    const N thick = above(field);
    const N spot = softOf((N(0.0) - faces - N(0.5)) * N(3.2)) * softOf(thick * N(3.0));
    const N low = N(1.0) - thick;
    const N edge = low * low * cover;
    const N shade = N(1.0) - edge * softOf(N(0.5) - faces * N(0.9)) * dark;
    const N glint = minOf(N(1.0), spot * shine + edge * softOf(faces * N(1.2) - N(0.1)) * bright) * cover;
    for (int k = 0; k < 3; ++k) {
      const N shown = c[k] * shade;
      c[k] = shown + (c[3] - shown) * glint;
    }
    if (alone)
      for (int k = 0; k < 4; ++k) c[k] = c[k] * cover;
  }

  // Of all lanes: there is no water, and no edge of it within half a pixel.
  [[nodiscard]] bool unlit(const Field<Num>& field) const {
    const Num below = maxOf(Num(0.0), Num(kLevel) - field.f);
    const Num edge = (field.x * field.x + field.y * field.y) * (pixel * pixel * Num(0.26));
    return hn::AllTrue(Num::D(), hn::Or(hn::Gt((below * below).v, edge.v), hn::Eq(field.f.v, hn::Zero(Num::D()))));
  }
};

struct Droplets {
  Water<double> water;
  std::vector<Drop> drops;
  double width, height;

  explicit Droplets(const StepContext& context)
      : water(context), drops(dropsOf(context)), width(context.view().frameWidth), height(context.view().frameHeight) {}

  [[nodiscard]] bool rests() const { return !water.alone && (drops.empty() || (water.bend == 0 && water.shine == 0 && water.dark == 0)); }
  [[nodiscard]] bool opaque() const { return !water.alone; }

  template <class N>
  Field<N> at(N px, N py) const {
    Field<N> sum{N(0.0), N(0.0), N(0.0)};
    for (const Drop& drop : drops) {
      const N dx = px - N(drop.x), dy = py - N(drop.y);
      DropShape<N>(drop.a, drop.d)
          .addTo(sum, dx - floorOf(dx * N(1 / width) + N(0.5)) * N(width), dy - floorOf(dy * N(1 / height) + N(0.5)) * N(height));
    }
    return sum;
  }
  template <class N>
  void from(N& px, N& py) const {
    Water<N>(water).move(at(px, py), px, py);
  }
  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    Water<N>(water).lit(at(px, py), c);
  }
};

// The drops of a view, as often as the frame that they repeat with lies within it.
struct DropsOfView {
  struct Placed {
    double dx, dy;  // from its middle to the first pixel of its box
    double a, d;
    PixelBox box;
  };
  Droplets formula;
  double xx, xy, yx, yy;          // from pixels to the plane
  double toXx, toXy, toYx, toYy;  // and back
  std::vector<Placed> placed;
  // All of them, and those of each two bands of rows one below the other: a box no higher than one band lies within two.
  using Some = std::vector<const Placed*>;
  static constexpr int kBand = 64;
  int above;
  Some everywhere;
  std::vector<Some> bands;

  DropsOfView(Droplets f, const PlaneView& view, int around)
      : formula(std::move(f)),
        xx(view.xx / view.scale),
        xy(view.xy / view.scale),
        yx(view.yx / view.scale),
        yy(view.yy / view.scale),
        above(around) {
    const double det = view.xx * view.yy - view.xy * view.yx;
    toXx = view.yy * view.scale / det;
    toXy = -view.xy * view.scale / det;
    toYx = -view.yx * view.scale / det;
    toYy = view.xx * view.scale / det;
    const int right = view.width + around, bottom = view.height + around;
    double x0 = 1e30, x1 = -1e30, y0 = 1e30, y1 = -1e30;
    for (const Point corner :
         {view.place(-around, -around), view.place(right, -around), view.place(-around, bottom), view.place(right, bottom)}) {
      x0 = std::min(x0, corner.x);
      x1 = std::max(x1, corner.x);
      y0 = std::min(y0, corner.y);
      y1 = std::max(y1, corner.y);
    }
    for (const Drop& drop : formula.drops) {
      const auto first = [](double from, double reach, double period) { return static_cast<int>(std::ceil((from - reach) / period)); };
      const auto last = [](double to, double reach, double period) { return static_cast<int>(std::floor((to + reach) / period)); };
      const int lastColumn = last(x1 - drop.x, drop.across, formula.width), lastRow = last(y1 - drop.y, drop.down, formula.height);
      for (int row = first(y0 - drop.y, drop.down, formula.height); row <= lastRow; ++row)
        for (int column = first(x0 - drop.x, drop.across, formula.width); column <= lastColumn; ++column) {
          const double x = drop.x + column * formula.width, y = drop.y + row * formula.height;
          const PixelBox box = pixelsOf(view, x - drop.across, y - drop.down, x + drop.across, y + drop.down);
          const Point at = view.place(box.x0, box.y0);
          placed.push_back({at.x - x, at.y - y, drop.a, drop.d, box});
        }
    }
    bands.resize(static_cast<std::size_t>(view.height + 2 * around) / kBand + 1);
    for (const Placed& p : placed) {
      everywhere.push_back(&p);
      for (std::size_t k = 0; k < bands.size(); ++k) {
        const int top = static_cast<int>(k) * kBand - above;
        if (p.box.rows(top, top + 2 * kBand)) bands[k].push_back(&p);
      }
    }
  }
  DropsOfView(const DropsOfView&) = delete;
  DropsOfView& operator=(const DropsOfView&) = delete;

  // Drops that may be seen within a box, in their order.
  [[nodiscard]] const Some& near(const PixelBox& box) const {
    const int row = box.y0 + above;
    const int band = row / kBand;
    return row < 0 || band >= static_cast<int>(bands.size()) || box.y1 - box.y0 > kBand ? everywhere
                                                                                        : bands[static_cast<std::size_t>(band)];
  }
};

// The field, and its slopes: their rows side by side.
enum Part { kField, kAcross, kDown, kParts };

// Adds one drop's field to rows of `n` pixels, of which the first is the drop's pixel (column, row). Pixels are counted from the drop's own
// first one wherever a row is cut, so that all cuts round alike.
void addDrop(const DropsOfView& all, const DropsOfView::Placed& p, int column, int row, int n, int rows, float* field,
             std::ptrdiff_t stride) {
  const Num stepX(all.xx), stepY(all.yx);
  const DropShape<Num> shape(p.a, p.d);
  for (int y = row; y < row + rows; ++y, field += kParts * stride) {
    const Num dx(p.dx + y * all.xy), dy(p.dy + y * all.yy);
    for (int i = 0; i < n; i += Num::lanes()) {
      const Num along = Num::counting(column + i);
      float* const at = field + i;
      Field<Num> sum{Num::load(at), Num::load(at + kAcross * stride), Num::load(at + kDown * stride)};
      shape.addTo(sum, mulAddOf(along, stepX, dx), mulAddOf(along, stepY, dy));
      sum.f.store(at);
      sum.x.store(at + kAcross * stride);
      sum.y.store(at + kDown * stride);
    }
  }
}

// The field is drawn drop by drop for the pixels that are asked for, not asked for pixel by pixel of all drops.
class DropletMap final : public ShiftMap {
 public:
  DropletMap(Droplets formula, const PlaneView& view) : all_(std::make_shared<DropsOfView>(std::move(formula), view, kAround)) {}

  [[nodiscard]] std::unique_ptr<const LensMap> within(const PixelBox& box) const override { return drawn(box); }

  // At its edge a drop shows a picture many times smaller, in the shade of its rim.
  [[nodiscard]] int points() const override { return 2; }
  [[nodiscard]] Light lights() const override { return Light::Pictures; }
  [[nodiscard]] bool keepsOpaque() const override { return all_->formula.opaque(); }
  void light(int px, int py, int n, int channels, float* pixels) const override {
    if (!has(px, py, n)) return drawn({px, py, px + n, py + 1})->light(px, py, n, channels, pixels);
    const Water<Num> water(all_->formula.water);
    for (int i = 0; i < n; i += Num::lanes()) {
      const Field<Num> field = fieldAt(px + i, py);
      if (!water.alone && water.unlit(field)) continue;
      hn::Vec<Num::D> r, g, b, a;
      hn::LoadInterleaved4(Num::D(), pixels + i * 4, r, g, b, a);
      Num c[4] = {r, g, b, a};
      water.lit(field, c);
      hn::StoreInterleaved4(c[0].v, c[1].v, c[2].v, c[3].v, Num::D(), pixels + i * 4);
    }
  }

 private:
  DropletMap(std::shared_ptr<const DropsOfView> all, const DropsOfView::Some& of, const PixelBox& box) : all_(std::move(all)), box_(box) {
    for (const DropsOfView::Placed* const p : of)
      if (!p->box.within(box).empty()) drops_.push_back(p);
  }
  // Slopes are asked of the pixels to the right and below, too.
  std::unique_ptr<const DropletMap> drawn(const PixelBox& box) const {
    const PixelBox wider{box.x0, box.y0, box.x1 + 1, box.y1 + 1};
    const bool inside = wider.x0 >= box_.x0 && wider.y0 >= box_.y0 && wider.x1 <= box_.x1 && wider.y1 <= box_.y1;
    return std::unique_ptr<const DropletMap>(new DropletMap(all_, inside ? drops_ : all_->near(wider), wider));
  }
  // Drawn when it is first looked at: it may be there to be parted further.
  void draw() const {
    parts_ = Plane(box_.x1 - box_.x0, kParts * (box_.y1 - box_.y0), 1);
    std::fill_n(parts_.row(0), parts_.height() * parts_.stride(), 0.0f);
    for (const DropsOfView::Placed* const p : drops_) {
      const PixelBox both = p->box.within(box_);
      addDrop(*all_, *p, both.x0 - p->box.x0, both.y0 - p->box.y0, both.x1 - both.x0, both.y1 - both.y0,
              parts_.row((both.y0 - box_.y0) * kParts) + (both.x0 - box_.x0), parts_.stride());
    }
  }
  bool has(int px, int py, int n) const {
    if (px < box_.x0 || px + n > box_.x1 || py < box_.y0 || py >= box_.y1) return false;
    if (parts_.height() == 0) draw();
    return true;
  }

  const float* row(Part part, int y) const { return parts_.row((y - box_.y0) * kParts + part); }
  Field<Num> fieldAt(int px, int py) const {
    const int column = px - box_.x0;
    return {Num::load(row(kField, py) + column), Num::load(row(kAcross, py) + column), Num::load(row(kDown, py) + column)};
  }
  void shifts(int px, int py, int n, float* x, float* y) const override {
    if (!has(px, py, n)) return drawn({px, py, px + n, py + 1})->shifts(px, py, n, x, y);
    const Water<Num> water(all_->formula.water);
    const Num toXx(all_->toXx), toXy(all_->toXy), toYx(all_->toYx), toYy(all_->toYy);
    for (int i = 0; i < n; i += Num::lanes()) {
      const Field<Num> field = fieldAt(px + i, py);
      Num u(0.0), v(0.0);
      water.move(field, u, v);
      (u * toXx + v * toXy).store(x + i);
      (u * toYx + v * toYy).store(y + i);
    }
  }

  std::shared_ptr<const DropsOfView> all_;
  PixelBox box_{0, 0, 0, 0};
  DropsOfView::Some drops_;
  mutable Plane parts_;
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
