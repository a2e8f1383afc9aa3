// One plain shape: a rectangle, an ellipse, a polygon or a star, filled or as an outline.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "image/colour.h"
#include "image/grey.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/shape.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "shapes/outline_distance-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// How much of a pixel is covered whose middle lies at (x, y); `dx` and `dy` are its sides on the plane.
template <class N>
HWY_INLINE N coverAt(const OutlineShape& s, N x, N y, Point dx, Point dy) {
  const N d = distanceTo(s, x, y);
  // The distance's change from pixel to pixel: how wide the edge is that one pixel sees.
  const N across = distanceTo(s, x + N(dx.x), y + N(dx.y)) - d;
  const N down = distanceTo(s, x + N(dy.x), y + N(dy.y)) - d;
  const N pixel = maxOf(rootOf(across * across + down * down), N(1e-6));
  return coverOf(s, d, pixel);
}

// How much a distance may change for a pixel's way: that of ellipses is not quite exact where they are soft, and a guess where not.
double steepestOf(const OutlineShape& s) {
  if (s.kind != OutlineShape::Kind::Ellipse || s.a == s.b) return 1;
  return s.softness > 0 ? 1.05 : 8;
}

// How far off a distance may be at the end of a soft edge: that of ellipses is found in few rounds.
double doubtOf(const OutlineShape& s) { return steepestOf(s) > 1 && s.softness > 0 ? 0.006 * s.softness : 0; }

constexpr int kBlock = 16;  // pixels that are looked at as one where no edge is near

// How much a distance can change from a pixel to the next.
double widestStep(const OutlineShape& s, Point dx, Point dy) {
  const double steepest = steepestOf(s);
  return std::sqrt(dx.x * dx.x + dx.y * dx.y + dy.x * dy.x + dy.y * dy.y) * steepest * 1.001;
}

// Blocks far from any edge are told by their middles, vectors by their distances alone: those of places change by no more than the way
// between them (exactly but for ellipses).
void coverSpan(const OutlineShape& s, Point at, Point dx, Point dy, int n, float* out) {
  const double step = std::sqrt(dx.x * dx.x + dx.y * dx.y);
  const double steepest = steepestOf(s);
  const double widest = widestStep(s, dx, dy);
  const double edge = std::max(s.softness, widest) / 2;
  const bool soft = s.softness > widest;
  const Num inside(1.0);
  const Num outside(0.0);
  alignas(64) float middles[16];
  const int lanes = Num::lanes();
  for (int from = 0; from < n; from += lanes * kBlock) {
    const Num centre = mulAddOf(Num::counting(0), Num(kBlock), Num(from + (kBlock - 1) / 2.0));
    distanceTo<Num>(s, Num(at.x) + centre * Num(dx.x), Num(at.y) + centre * Num(dx.y)).store(middles);
    const double far = edge + step * steepest * kBlock / 2 + 2 * doubtOf(s);
    for (int k = 0; k < lanes; ++k) {
      const int begin = from + k * kBlock;
      const int end = std::min(n, begin + kBlock);
      const bool plain = std::abs(static_cast<double>(middles[k])) > far;
      for (int i = begin; i < end; i += lanes) {
        if (plain) {
          (middles[k] < 0 ? inside : outside).store(out + i);
          continue;
        }
        const Num along = Num::counting(i);
        const Num x = Num(at.x) + along * Num(dx.x);
        const Num y = Num(at.y) + along * Num(dx.y);
        if (soft) {
          coverOf(s, distanceTo<Num>(s, x, y), Num(0.0)).store(out + i);
          continue;
        }
        const Num d = distanceTo<Num>(s, x, y);
        if (hn::AllTrue(Num::D(), hn::Lt(Num(edge).v, absOf(d).v)))
          whereLess(d, Num(0.0), inside, outside).store(out + i);
        else
          coverAt<Num>(s, x, y, dx, dy).store(out + i);
      }
    }
  }
}

// Further inside than any edge reaches, and than floats are exact.
bool withinPlain(const OutlineShape& s, Point at, Point dx, Point dy) {
  const double widest = widestStep(s, dx, dy);
  const double unsure = 0.02 * widest + 1e-6 * (std::abs(at.x) + std::abs(at.y)) + 2 * doubtOf(s);
  return distanceTo<double>(s, at.x, at.y) < -(std::max(s.softness, widest) / 2 + unsure);
}

double coverPlain(const OutlineShape& s, Point at, Point dx, Point dy) { return coverAt<double>(s, at.x, at.y, dx, dy); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(coverSpan);
HWY_EXPORT(coverPlain);
HWY_EXPORT(withinPlain);

namespace {

const ParamSpec kParams[] = {
    {.id = "kind",
     .label = "Kind",
     .help = "A rectangle, whose corners may be round, an ellipse, a polygon, or a star.",
     .type = ParamType::Choice,
     .base = std::string("rectangle"),
     .rule = LoopRule::Fixed,
     .choices = {"rectangle", "ellipse", "polygon", "star"}},
    {.id = "width",
     .label = "Width",
     .help = "How wide it is.",
     .base = 880.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 10,
     .sliderMax = 1920,
     .unit = Unit::Pixels},
    {.id = "height",
     .label = "Height",
     .help = "How high it is.",
     .base = 520.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 10,
     .sliderMax = 1080,
     .unit = Unit::Pixels},
    field_params::begins(field_params::place("centre", "Centre", {0.5, 0.5}, "Where its middle lies; 0 to 1 across and down the frame."),
                         MotionKind::Swing),
    {.id = "sides",
     .label = "Sides",
     .help = "How many sides the polygon, or points the star has.",
     .type = ParamType::Integer,
     .base = 6.0,
     .min = 3,
     .max = kMostSides,
     .sliderMin = 3,
     .sliderMax = 12,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed,
     .shownWhen = ShownWhen{"kind", {"polygon", "star"}}},
    {.id = "depth",
     .label = "Depth",
     .help = "How far the star is cut in between its points.",
     .base = 0.5,
     .min = 0,
     .max = 0.95,
     .unit = Unit::Share,
     .shownWhen = ShownWhen{"kind", {"star"}}},
    {.id = "corner",
     .label = "Corner",
     .help = "Radius of its corners.",
     .base = 28.0,
     .min = 0,
     .max = 4096,
     .sliderMin = 0,
     .sliderMax = 240,
     .unit = Unit::Pixels,
     .shownWhen = ShownWhen{"kind", {"rectangle", "polygon", "star"}}},
    {.id = "softness",
     .label = "Softness",
     .help = "Width of its edge.",
     .base = 0.0,
     .min = 0,
     .max = 2048,
     .sliderMin = 0,
     .sliderMax = 240,
     .unit = Unit::Pixels},
    {.id = "line",
     .label = "Outline",
     .help = "Width of an outline along the inside of its edge; 0 fills it.",
     .base = 0.0,
     .min = 0,
     .max = 2048,
     .sliderMin = 0,
     .sliderMax = 60,
     .unit = Unit::Pixels},
    {.id = "colour", .label = "Colour", .help = "What it is filled with.", .type = ParamType::Colour, .base = hexColour(0xeda86d)},
};

OutlineShape outlineOf(const StepContext& context) {
  OutlineShape s;
  const std::string_view kind = context.choice("kind");
  const double a = context.number("width") / 2;
  const double b = context.number("height") / 2;
  s.line = context.number("line");
  s.softness = context.number("softness");
  if (kind == "ellipse") {
    s.kind = OutlineShape::Kind::Ellipse;
    s.a = a;
    s.b = b;
    return s;
  }
  s.round = std::min(context.number("corner"), std::min(a, b));
  s.a = a - s.round;
  s.b = b - s.round;
  if (kind == "rectangle") return s;
  const bool star = kind == "star";
  placeCorners(s, context.integer("sides"), star, star ? 1 - context.number("depth") : 1);
  return s;
}

// A shape where it lies in a view.
class Placed {
 public:
  explicit Placed(const StepContext& context)
      : view_(context.view()), outline_(outlineOf(context)), star_(context.choice("kind") == "star") {
    const Point centre = context.point("centre");
    centre_ = {centre.x * view_.frameWidth, centre.y * view_.frameHeight};
    dx_ = {view_.xx / view_.scale, view_.yx / view_.scale};
    dy_ = {view_.xy / view_.scale, view_.yy / view_.scale};
    // All that can be covered, with a pixel to spare.
    const double beyond = outline_.softness / 2;
    const double w = context.number("width") / 2 + beyond;
    const double h = context.number("height") / 2 + beyond;
    box_ = pixelsOf(view_, centre_.x - w, centre_.y - h, centre_.x + w, centre_.y + h).grown(1);
  }
  [[nodiscard]] int width() const { return view_.width; }
  [[nodiscard]] const PixelBox& box() const { return box_; }
  // What lies between two places that are inside is inside, but for stars. The plane's middle and its edges may be off by what a float
  // leaves out.
  [[nodiscard]] bool covers(int y, int x0, int n) const {
    if (outline_.line > 0 || star_ || y < box_.y0 || y >= box_.y1 || x0 < box_.x0 || x0 + n > box_.x1) return false;
    return isWithin(x0, y) && isWithin(x0 + n - 1, y);
  }
  // The nearest place of an ellipse is looked for, for each pixel of a soft edge.
  [[nodiscard]] bool costly() const {
    return outline_.kind == OutlineShape::Kind::Ellipse && outline_.softness > 0 && outline_.a != outline_.b;
  }
  // How much of each of `n` pixels is covered; false where none of them is.
  bool cover(int y, int x0, int n, float* out) const {
    if (y < box_.y0 || y >= box_.y1 || x0 + n <= box_.x0 || x0 >= box_.x1) return false;
    const Point p = view_.place(x0, y);
    HWY_DYNAMIC_DISPATCH(coverSpan)(outline_, {p.x - centre_.x, p.y - centre_.y}, dx_, dy_, n, out);
    return true;
  }
  [[nodiscard]] double coverOf(int x, int y) const {
    const Point p = view_.place(x, y);
    return HWY_DYNAMIC_DISPATCH(coverPlain)(outline_, {p.x - centre_.x, p.y - centre_.y}, dx_, dy_);
  }

 private:
  [[nodiscard]] bool isWithin(int x, int y) const {
    const Point p = view_.place(x, y);
    return HWY_DYNAMIC_DISPATCH(withinPlain)(outline_, {p.x - centre_.x, p.y - centre_.y}, dx_, dy_);
  }

  PlaneView view_;
  OutlineShape outline_;
  bool star_;
  Point centre_;
  Point dx_;
  Point dy_;
  PixelBox box_;
};

class ShapeRows final : public SpanMaker {
 public:
  // The colour is premultiplied.
  ShapeRows(const Placed& shape, const std::array<float, 4>& colour) : SpanMaker(shape.width()), shape_(shape), colour_(colour) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return colour_[3] >= 1 && shape_.covers(y, x0, n); }
  [[nodiscard]] PixelBox bounds() const override { return shape_.box(); }
  [[nodiscard]] bool costly() const override { return shape_.costly(); }
  [[nodiscard]] std::optional<Tint> tint() const override { return tintOf(colour_); }
  [[nodiscard]] bool alphas(int y, int x0, int n, float* out) const override {
    if (shape_.cover(y, x0, n, out))
      coverShares(out, n, colour_[3]);
    else
      std::fill_n(out, n, 0.0f);
    return true;
  }
  void span(int y, int x0, int n, float* out) const override {
    alignas(64) float cover[kSpanStep + kSpanPadding];
    if (shape_.cover(y, x0, n, cover))
      tintCover(cover, n, 1, colour_.data(), out);
    else
      std::fill_n(out, static_cast<std::ptrdiff_t>(n) * 4, 0.0f);
  }

 private:
  Placed shape_;
  std::array<float, 4> colour_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) {
  const Colour c = context.colour("colour");
  return std::make_unique<ShapeRows>(Placed(context), std::array{c.r * c.a, c.g * c.a, c.b * c.a, c.a});
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const auto shape = std::make_shared<Placed>(context);
  const Colour c = context.colour("colour");
  return [shape, c](int x, int y) {
    const double cover = shape->coverOf(x, y) * static_cast<double>(c.a);
    return ReferencePixel{4, {static_cast<double>(c.r) * cover, static_cast<double>(c.g) * cover, static_cast<double>(c.b) * cover, cover}};
  };
}

std::optional<std::array<double, 4>> extent(const StepContext& context) {
  const Point centre = context.point("centre");
  const double x = centre.x * context.view().frameWidth;
  const double y = centre.y * context.view().frameHeight;
  const double w = context.number("width") / 2;
  const double h = context.number("height") / 2;
  return std::array{x - w, y - h, x + w, y + h};
}

double beyond(const StepContext& context) { return context.number("softness") / 2; }

}  // namespace

const StepSpec& shapeStep() {
  static const StepSpec spec{.id = "shape",
                             .title = "Shape",
                             .group = "source",
                             .help = "A rectangle with round corners, an ellipse, a polygon or a star, filled or as an outline.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .varieties = "kind",
                             .shelf = {.section = "Shapes", .rank = 3},
                             .extent = extent,
                             .beyond = beyond,
                             .masks = true,
                             .source = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
