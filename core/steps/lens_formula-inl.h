// A step that shows each pixel another place of its picture, from one formula. Included once for each SIMD target, as Highway's -inl
// files are; steps/swirl.cpp is the example to copy.
//
// A formula is a struct made from a StepContext. It has
//   bool rests() const;                            true: nothing is changed
//   template <class N> void from(N& x, N& y) const;
//     (x, y) is a place of the plane in pixels of the scene, and becomes the place that is read there;
// and where what is read is lit, or cut out,
//   template <class N> void light(N x, N y, N (&c)[4]) const;
//     the premultiplied pixel that is shown at (x, y); a field comes as grey. What is transparent must stay so;
//   static constexpr bool kFields;                 a field stays one: it is lit as grey is
//   bool opaque() const;                           opaque pixels stay opaque; true where it is missing
//   std::array<double, 4> box() const;             left, top, right and bottom of what light() leaves to be seen, if it ends somewhere
// N being a double, a vector of floats, or one of them with its derivatives.
#if defined(OA_LENS_FORMULA_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_LENS_FORMULA_INL
#undef OA_LENS_FORMULA_INL
#else
#define OA_LENS_FORMULA_INL
#endif

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <memory>
#include <utility>

#include "base/numbers.h"
#include "base/random.h"
#include "image/plain_reading.h"
#include "lens/lens_rows.h"
#include "simd/at_hand.h"
#include "simd/dual-inl.h"
#include "steps/step.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

/// A place that is given in shares of the frame, in pixels of the plane.
inline Point placeOf(const StepContext& context, std::string_view id) {
  const Point share = context.point(id);
  return {share.x * context.view().frameWidth, share.y * context.view().frameHeight};
}

/// `a` within 0 to `period`, again and again.
template <class N>
HWY_INLINE N repeatedOf(N a, double period) {
  return a - floorOf(a * N(1 / period)) * N(period);
}
/// `a` within 0 to `length`, there and back.
template <class N>
HWY_INLINE N mirroredOf(N a, double length) {
  return N(length) - absOf(repeatedOf(a, 2 * length) - N(length));
}

/// Numbers from 0 to 1, one for each whole one: two quadratic congruences, in whole numbers that floats hold exactly, so that all paths
/// draw the same.
class Draw {
 public:
  explicit Draw(std::uint64_t seed) {
    for (int& part : by_) part = static_cast<int>((seed = mix64(seed)) % kPrime);
  }
  /// `whole` from -65000 to 65000.
  template <class N>
  HWY_INLINE N operator()(N whole) const {
    const N a = remainder(whole + N(64.0 * kPrime));
    const N b = remainder(a * (a + N(by_[0])) + N(by_[1]));
    return remainder(b * (b + N(by_[2])) + N(by_[3])) * N(1.0 / kPrime);
  }

 private:
  static constexpr int kPrime = 1021;
  // Of whole numbers up to four millions.
  template <class N>
  static HWY_INLINE N remainder(N a) {
    return a - floorOf((a + N(0.5)) * N(1.0 / kPrime)) * N(kPrime);
  }
  int by_[4];
};

template <class Formula>
constexpr bool lightsPixels() {
  return requires(const Formula& f, double(&c)[4]) { f.light(0.0, 0.0, c); };
}

template <class Formula>
constexpr bool keepsFields() {
  if constexpr (requires { Formula::kFields; })
    return Formula::kFields;
  else
    return false;
}

// A formula between the pixels of a view.
template <class Formula>
struct FormulaPlaces {
  Formula formula;
  double x0, y0;                  // where on the plane pixel (0, 0) lies
  double xx, xy, yx, yy;          // from pixels to the plane
  double toXx, toXy, toYx, toYy;  // and back

  FormulaPlaces(Formula f, const PlaneView& view)
      : formula(std::move(f)),
        x0(view.planeX(0, 0)),
        y0(view.planeY(0, 0)),
        xx(view.xx / view.scale),
        xy(view.xy / view.scale),
        yx(view.yx / view.scale),
        yy(view.yy / view.scale) {
    const double det = view.xx * view.yy - view.xy * view.yx;
    toXx = view.yy * view.scale / det;
    toXy = -view.xy * view.scale / det;
    toYx = -view.yx * view.scale / det;
    toYy = view.xx * view.scale / det;
  }

  // Where on the plane pixel px and every `step`-th behind it lie.
  HWY_INLINE void plane(int px, int py, int step, Num& u, Num& v) const {
    const Num along = Num::counting(0) * Num(static_cast<double>(step));
    u = mulAddOf(along, Num(xx), Num(x0 + px * xx + py * xy));
    v = mulAddOf(along, Num(yx), Num(y0 + px * yx + py * yy));
  }
  // From a place of the plane to the pixel that is read for it.
  HWY_INLINE void put(Num u, Num v, float* x, float* y) const {
    formula.from(u, v);
    u = u - Num(x0);
    v = v - Num(y0);
    whole(u * Num(toXx) + v * Num(toXy)).store(x);
    whole(u * Num(toYx) + v * Num(toYy)).store(y);
  }
  // Where nothing is moved pixels come back as they were to the last bit: places are told apart by 512ths of a pixel.
  static HWY_INLINE Num whole(Num a) { return floorOf(mulAddOf(a, Num(512.0), Num(0.5))) * Num(1.0 / 512); }
};

template <class Formula>
class FormulaMap final : public LensMap {
 public:
  FormulaMap(Formula formula, const PlaneView& view) : there_(std::move(formula), view) {
    if constexpr (requires { there_.formula.box(); }) {
      const auto [left, top, right, bottom] = there_.formula.box();
      seen_ = pixelsOf(view, left, top, right, bottom);
    }
  }

  void places(int px, int py, int n, float* x, float* y) const override {
    AtHand<FormulaPlaces<Formula>> at = there_;
    for (int i = 0; i < n; i += Num::lanes()) {
      Num u, v;
      at.plane(px + i, py, 1, u, v);
      at.put(u, v, x + i, y + i);
    }
  }

  void slopes(int px, int py, int step, int n, const Slopes& out) const override {
    using D = Dual<Num>;
    AtHand<FormulaPlaces<Formula>> at = there_;
    for (int i = 0; i < n; i += Num::lanes()) {
      Num u, v;
      at.plane(px + i * step, py, step, u, v);
      D a(u, Num(at.xx), Num(at.xy));
      D b(v, Num(at.yx), Num(at.yy));
      at.formula.from(a, b);
      a = a - D(at.x0);
      b = b - D(at.y0);
      const D x = a * D(at.toXx) + b * D(at.toXy);
      const D y = a * D(at.toYx) + b * D(at.toYy);
      // Singular values of a matrix of two by two.
      const Num sum = x.dx * x.dx + x.dy * x.dy + y.dx * y.dx + y.dy * y.dy;
      const Num det = absOf(x.dx * y.dy - x.dy * y.dx);
      const Num longer = rootOf(Num(0.5) * (sum + rootOf(maxOf(Num(0.0), sum * sum - Num(4.0) * det * det))));
      x.v.store(out.x + i);
      y.v.store(out.y + i);
      longer.store(out.most + i);
      (det * inverseOrZero(longer)).store(out.least + i);
      x.dx.store(out.xx + i);
      x.dy.store(out.xy + i);
      y.dx.store(out.yx + i);
      y.dy.store(out.yy + i);
    }
  }

  [[nodiscard]] Light lights() const override {
    if constexpr (!lightsPixels<Formula>()) return Light::None;
    return keepsFields<Formula>() ? Light::Both : Light::Pictures;
  }
  [[nodiscard]] PixelBox seen() const override { return seen_; }
  [[nodiscard]] bool keepsOpaque() const override {
    if constexpr (requires(const Formula& f) { f.opaque(); })
      return there_.formula.opaque();
    else
      return true;
  }
  void light(int px, int py, int n, int channels, float* pixels) const override {
    if constexpr (lightsPixels<Formula>()) {
      AtHand<FormulaPlaces<Formula>> at = there_;
      for (int i = 0; i < n; i += Num::lanes()) {
        Num u, v;
        at.plane(px + i, py, 1, u, v);
        if (channels == 1) {
          const Num value = Num::load(pixels + i);
          Num c[4] = {value, value, value, Num(1.0)};
          at.formula.light(u, v, c);
          c[0].store(pixels + i);
          continue;
        }
        hn::Vec<Num::D> r, g, b, a;
        hn::LoadInterleaved4(Num::D(), pixels + i * 4, r, g, b, a);
        Num c[4] = {r, g, b, a};
        at.formula.light(u, v, c);
        hn::StoreInterleaved4(c[0].v, c[1].v, c[2].v, c[3].v, Num::D(), pixels + i * 4);
      }
    }
  }

 private:
  FormulaPlaces<Formula> there_;
  PixelBox seen_;
};

template <class Formula>
std::shared_ptr<const RowMaker> formulaRows(Formula formula, const StepContext& context, const Input& input) {
  if (formula.rests()) return input.pull(context.view());
  return lensRows(std::make_unique<FormulaMap<Formula>>(std::move(formula), context.view()), input, context.view());
}

// The definition: the mean of what a pixel covers, read bilinearly in the picture as fine as the view.
template <class Formula>
ReferenceField plainLens(Formula formula, const PlaneView& view, ReferenceField input) {
  if (formula.rests()) return input;
  return [formula = std::move(formula), view, input = std::move(input)](int px, int py) {
    using D = Dual<double>;
    D u(view.planeX(px, py), view.xx / view.scale, view.xy / view.scale);
    D v(view.planeY(px, py), view.yx / view.scale, view.yy / view.scale);
    formula.from(u, v);
    const double longest = std::max(std::hypot(u.dx, v.dx), std::hypot(u.dy, v.dy)) * view.scale;
    const int side = longest < 1.3 ? 1 : static_cast<int>(std::min(24.0, std::ceil(longest * 2)));
    ReferencePixel sum;
    sum.v = {};
    for (int k = 0; k < side * side; ++k) {
      const int column = k % side, row = k / side;
      const double partX = px + (column + 0.5) / side - 0.5, partY = py + (row + 0.5) / side - 0.5;
      double x = view.planeX(partX, partY);
      double y = view.planeY(partX, partY);
      formula.from(x, y);
      const Point at = view.pixel({std::clamp(x, -1e8, 1e8), std::clamp(y, -1e8, 1e8)});
      eachOfFour(at.x, at.y, [&](double weight, int fromX, int fromY) {
        const ReferencePixel p = input(fromX, fromY);
        sum.channels = std::max(sum.channels, p.channels);
        for (std::size_t c = 0; c < 4; ++c) sum.v[c] += weight / (side * side) * p.v[c];
      });
    }
    if constexpr (lightsPixels<Formula>()) {
      const double grey = std::clamp(sum.v[0], 0.0, 1.0);
      double c[4] = {sum.v[0], sum.v[1], sum.v[2], sum.v[3]};
      if (sum.channels == 1) {
        c[0] = c[1] = c[2] = keepsFields<Formula>() ? sum.v[0] : grey;
        c[3] = 1;
      }
      formula.light(view.planeX(px, py), view.planeY(px, py), c);
      sum = {keepsFields<Formula>() ? sum.channels : 4, {c[0], c[1], c[2], c[3]}};
    }
    return sum;
  };
}

// How many times the picture is reduced where a view is looked at here and there, but for the twentieth where that is most.
inline double mostOf(const LensMap& map, const PlaneView& view) {
  constexpr int kLooks = 32;
  alignas(64) float at[8][kLooks + kSpanPadding];
  const LensMap::Slopes slopes{at[0], at[1], at[2], at[3], at[4], at[5], at[6], at[7]};
  const int step = std::max(1, view.width / (kLooks - 1));
  std::array<float, std::size_t{kLooks} * kLooks> all;
  for (int k = 0; k < kLooks; ++k) {
    map.slopes(0, static_cast<int>(std::int64_t{view.height - 1} * k / (kLooks - 1)), step, kLooks, slopes);
    std::copy_n(at[2], kLooks, all.begin() + std::ptrdiff_t{k} * kLooks);
  }
  const auto nearlyMost = all.begin() + std::ptrdiff_t{kLooks} * kLooks * 19 / 20;
  std::nth_element(all.begin(), nearlyMost, all.end());
  return static_cast<double>(*nearlyMost);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

// The plain path is the same for all targets: it is compiled for one.
#undef OA_PLAIN_LENS
#if HWY_TARGET == HWY_STATIC_TARGET
#define OA_PLAIN_LENS(Formula)                                                      \
  ReferenceField plain##Formula(const StepContext& context, ReferenceField input) { \
    Formula formula(context);                                                       \
    return plainLens(std::move(formula), context.view(), std::move(input));         \
  }
#else
#define OA_PLAIN_LENS(Formula)
#endif

// Behind the formula, within the target's namespace.
#define OA_LENS_FORMULA(Formula)                                                                  \
  std::shared_ptr<const RowMaker> make##Formula(const StepContext& context, const Input& input) { \
    return formulaRows(Formula(context), context, input);                                         \
  }                                                                                               \
  OA_PLAIN_LENS(Formula)

// Once, in front of the table, for formulas that are smooth: `smooth` for the StepSpec. Their
//   double bends() const;
// is how many pixels of the scene apart the map itself may be known.
#define OA_SMOOTH_LENS(Formula)                                                           \
  double smooth##Formula(const StepContext& context, double input) {                      \
    const Formula formula(context);                                                       \
    if (formula.rests() || input <= 0) return input;                                      \
    const FormulaMap<Formula> map(formula, context.view());                               \
    return std::min(input / std::max(1.0, mostOf(map, context.view())), formula.bends()); \
  }
#define OA_SMOOTH_STEP(Formula) \
  HWY_EXPORT(smooth##Formula);  \
  static double smooth(const StepContext& context, double input) { return HWY_DYNAMIC_DISPATCH(smooth##Formula)(context, input); }

// Once, in front of the table: `make` and `reference` for the StepSpec.
#define OA_LENS_STEP(Formula)                                                                   \
  HWY_EXPORT(make##Formula);                                                                    \
  static std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) { \
    return HWY_DYNAMIC_DISPATCH(make##Formula)(context, input);                                 \
  }                                                                                             \
  static ReferenceField reference(const StepContext& context, ReferenceField input) {           \
    return HWY_STATIC_DISPATCH(plain##Formula)(context, std::move(input));                      \
  }

#endif
