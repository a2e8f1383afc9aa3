// A point step from one formula, for fields, pictures and the plain path. Included once for each SIMD target, as Highway's -inl
// files are; steps/levels.cpp is the example to copy.
//
// A formula is a struct made from a StepContext. It has one of
//   template <class N> N tone(N v, N alpha, int channel, const N* aside) const;
//     one channel of a premultiplied pixel, `channel` 0 to 2; for a field 3, with an alpha of 1;
//   template <class N> void colour(N (&c)[3], N alpha) const;
//     the three channels of a premultiplied pixel at once; a field comes as grey and leaves as a picture; or with `const N* aside`;
// N being a double or a vector of floats. What depends on the place comes beforehand, as planes:
//   static constexpr int kAside = 2;                                       how many (none, where it is missing)
//   void aside(int x0, int y, int n, int channels, float* const* out) const;   for `n` pixels, at most kSpanStep
//   double asideAt(int plane, int x, int y) const;                         the same on the plain path
// or, which spares to put them into the order in which pixels are parted,
//   void asideAlong(Num along, int x0, int y, int n, float* const* out) const;   `along` being how far each lane's pixel is behind the
//   first
// or, where a place of the plane says it all, (x, y) in pixels of the scene and `pixel` being as large as one of the view,
//   PlanePlaces places;                                                    made from the view
//   template <class N> void beside(N x, N y, N* out) const;
// With `static constexpr bool kRestsAtZero = true` pixels stay as they are where all of their planes are 0.
#if defined(OA_POINT_FORMULA_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_POINT_FORMULA_INL
#undef OA_POINT_FORMULA_INL
#else
#define OA_POINT_FORMULA_INL
#endif

#include <algorithm>
#include <memory>
#include <utility>

#include "base/numbers.h"
#include "image/colour.h"
#include "image/pixel_planes-inl.h"
#include "simd/at_hand.h"
#include "simd/num-inl.h"
#include "steps/step.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

/// Where on the plane the pixels of a view lie.
struct PlanePlaces {
  double x0, y0, xx, xy, yx, yy;
  double pixel;  ///< the width of one
  explicit PlanePlaces(const PlaneView& view)
      : x0(view.planeX(0, 0)),
        y0(view.planeY(0, 0)),
        xx(view.xx / view.scale),
        xy(view.xy / view.scale),
        yx(view.yx / view.scale),
        yy(view.yy / view.scale),
        pixel(1 / view.scale) {}
};

template <class Formula>
constexpr bool tellsByPlace() {
  return requires(const Formula& f, double* out) { f.beside(0.0, 0.0, out); };
}
template <class Formula>
constexpr bool tellsAlong() {
  return requires(const Formula& f, Num along, float* const* out) { f.asideAlong(along, 0, 0, 0, out); };
}
// True if planes come in any order that is asked for.
template <class Formula>
constexpr bool tellsInOrder() {
  return tellsByPlace<Formula>() || tellsAlong<Formula>();
}
template <class Formula>
void asideOf(const Formula& f, Num along, int x0, int y, int n, int channels, float* const* out) {
  if constexpr (tellsAlong<Formula>()) {
    f.asideAlong(along, x0, y, n, out);
  } else if constexpr (!tellsByPlace<Formula>()) {
    f.aside(x0, y, n, channels, out);
  } else {
    AtHand<Formula> formula = f;
    const PlanePlaces& at = formula.places;
    for (int i = 0; i < n; i += Num::lanes()) {
      Num made[Formula::kAside];
      formula.beside(mulAddOf(along, Num(at.xx), Num(at.x0 + (x0 + i) * at.xx + y * at.xy)),
                     mulAddOf(along, Num(at.yx), Num(at.y0 + (x0 + i) * at.yx + y * at.yy)), made);
      for (int k = 0; k < Formula::kAside; ++k) made[k].store(out[k] + i);
    }
  }
}
template <class Formula>
double asideAtOf(const Formula& f, int plane, int x, int y) {
  if constexpr (!tellsByPlace<Formula>()) {
    return f.asideAt(plane, x, y);
  } else {
    double made[Formula::kAside];
    f.beside(f.places.x0 + x * f.places.xx + y * f.places.xy, f.places.y0 + x * f.places.yx + y * f.places.yy, made);
    return made[plane];
  }
}

template <class Formula>
constexpr int asidePlanes() {
  if constexpr (requires { Formula::kAside; })
    return Formula::kAside;
  else
    return 0;
}

template <class Formula>
constexpr bool restsAtZero() {
  if constexpr (requires { Formula::kRestsAtZero; })
    return Formula::kRestsAtZero;
  else
    return false;
}

template <class Formula>
constexpr bool mixesByPlace() {
  return requires(const Formula& f, double(&c)[3], const double* aside) { f.colour(c, 1.0, aside); };
}
template <class Formula>
constexpr bool mixesChannels() {
  return mixesByPlace<Formula>() || requires(const Formula& f, double(&c)[3]) { f.colour(c, 1.0); };
}
template <class Formula, class N>
HWY_INLINE void mixedOf(const Formula& f, N (&c)[3], N alpha, const N* aside) {
  if constexpr (mixesByPlace<Formula>())
    f.colour(c, alpha, aside);
  else
    f.colour(c, alpha);
}

template <class Formula>
class PointSpans final : public PointKernel {
 public:
  PointSpans(Formula formula, int channels) : formula_(std::move(formula)), channels_(channels) {}
  [[nodiscard]] int outChannels() const override { return mixesChannels<Formula>() ? 4 : channels_; }
  void apply(const float* in, float* out, int n, int x0, int y) const override {
    // Whole rows come here too: made piece by piece, so that no buffer depends on the width.
    for (int at = 0; at < n; at += kSpanStep) {
      const int count = std::min(kSpanStep, n - at);
      constexpr int kPlanes = asidePlanes<Formula>();
      alignas(64) float planes[kPlanes + 1][kPlanes > 0 ? kSpanStep + kSpanPadding : 1];
      const float* aside[kPlanes + 1] = {};
      if constexpr (kPlanes > 0) {
        float* filled[kPlanes];
        for (int k = 0; k < kPlanes; ++k) aside[k] = filled[k] = planes[k];
        const bool parted = mixesChannels<Formula>() || channels_ != 1;
        const Num along = parted ? Num(PixelOrder<Num::D>().of(Num::counting(0).v)) : Num::counting(0);
        asideOf(formula_, along, x0 + at, y, count, channels_, filled);
      }
      channels_ == 1 ? field(in + at, aside, out + static_cast<std::ptrdiff_t>(at) * outChannels(), count)
                     : picture(in + at * 4, aside, out + at * 4, count);
    }
  }

 private:
  static void load(const float* const* aside, int i, Num* here) {
    for (int k = 0; k < asidePlanes<Formula>(); ++k) here[k] = Num::load(aside[k] + i);
  }
  static void load(const float* const* aside, int i, const PixelOrder<Num::D>& order, Num* here) {
    for (int k = 0; k < asidePlanes<Formula>(); ++k) {
      here[k] = Num::load(aside[k] + i);
      if constexpr (!tellsInOrder<Formula>()) here[k] = order.of(here[k].v);
    }
  }

  static bool rests(const Num* here) {
    if constexpr (!restsAtZero<Formula>()) return false;
    Num most = absOf(here[0]);
    for (int k = 1; k < asidePlanes<Formula>(); ++k) most = maxOf(most, absOf(here[k]));
    return hn::AllTrue(Num::D(), hn::Eq(most.v, hn::Zero(Num::D())));
  }

  void field(const float* in, const float* const* aside, float* out, int n) const {
    AtHand<Formula> formula = formula_;
    const Num one(1.0);
    const PixelOrder<Num::D> order;
    Num here[asidePlanes<Formula>() + 1];
    for (int i = 0; i < n; i += Num::lanes()) {
      if constexpr (mixesChannels<Formula>()) {
        load(aside, i, order, here);
        const Num grey = minOf(one, maxOf(Num(0.0), Num(order.of(Num::load(in + i).v))));
        Num c[3] = {grey, grey, grey};
        mixedOf(formula, c, one, here);
        joinPixels(Num::D(), c[0].v, c[1].v, c[2].v, one.v, out + i * 4);
      } else {
        load(aside, i, here);
        if (rests(here)) {
          if (out != in) Num::load(in + i).store(out + i);
          continue;
        }
        formula.tone(Num::load(in + i), one, 3, here).store(out + i);
      }
    }
  }

  void picture(const float* in, const float* const* aside, float* out, int n) const {
    AtHand<Formula> formula = formula_;
    const PixelOrder<Num::D> order;
    Num here[asidePlanes<Formula>() + 1];
    for (int i = 0; i < n; i += Num::lanes()) {
      load(aside, i, order, here);
      if (rests(here)) {
        for (int k = 0; out != in && k < 4 * Num::lanes(); k += Num::lanes()) Num::load(in + i * 4 + k).store(out + i * 4 + k);
        continue;
      }
      hn::Vec<Num::D> r, g, b, a;
      partPixels(Num::D(), in + i * 4, r, g, b, a);
      Num c[3] = {r, g, b};
      if constexpr (mixesChannels<Formula>())
        mixedOf(formula, c, Num(a), here);
      else
        for (int k = 0; k < 3; ++k) c[k] = formula.tone(c[k], Num(a), k, here);
      joinPixels(Num::D(), c[0].v, c[1].v, c[2].v, a, out + i * 4);
    }
  }

  Formula formula_;
  int channels_;
};

template <class Formula>
std::unique_ptr<PointKernel> pointSpansOf(const StepContext& context, int channels) {
  return std::make_unique<PointSpans<Formula>>(Formula(context), channels);
}

template <class Formula>
ReferenceField plainPoint(Formula formula, ReferenceField input) {
  return [formula = std::move(formula), input = std::move(input)](int x, int y) {
    ReferencePixel p = input(x, y);
    double here[asidePlanes<Formula>() + 1] = {};
    if constexpr (asidePlanes<Formula>() > 0)
      for (int k = 0; k < asidePlanes<Formula>(); ++k) here[k] = asideAtOf(formula, k, x, y);
    if constexpr (mixesChannels<Formula>()) {
      if (p.channels == 1) {
        const double grey = std::clamp(p.v[0], 0.0, 1.0);
        p = {4, {grey, grey, grey, 1}};
      }
      double c[3] = {p.v[0], p.v[1], p.v[2]};
      mixedOf(formula, c, p.v[3], here);
      return ReferencePixel{4, {c[0], c[1], c[2], p.v[3]}};
    } else {
      if (p.channels == 1)
        p.v[0] = formula.tone(p.v[0], 1.0, 3, here);
      else
        for (std::size_t k = 0; k < 3; ++k) p.v[k] = formula.tone(p.v[k], p.v[3], static_cast<int>(k), here);
      return p;
    }
  };
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

// The plain path is the same for all targets: it is compiled for one.
#undef OA_PLAIN_POINT
#if HWY_TARGET == HWY_STATIC_TARGET
#define OA_PLAIN_POINT(Formula)                                                     \
  ReferenceField plain##Formula(const StepContext& context, ReferenceField input) { \
    Formula formula(context);                                                       \
    return plainPoint(std::move(formula), std::move(input));                        \
  }
#else
#define OA_PLAIN_POINT(Formula)
#endif

// Behind the formula, within the target's namespace.
#define OA_POINT_FORMULA(Formula)                                                        \
  std::unique_ptr<PointKernel> make##Formula(const StepContext& context, int channels) { \
    return pointSpansOf<Formula>(context, channels);                                     \
  }                                                                                      \
  OA_PLAIN_POINT(Formula)

// Once, in front of the table: `make` and `reference` for the StepSpec.
#define OA_POINT_STEP(Formula)                                                         \
  HWY_EXPORT(make##Formula);                                                           \
  static std::unique_ptr<PointKernel> make(const StepContext& context, int channels) { \
    return HWY_DYNAMIC_DISPATCH(make##Formula)(context, channels);                     \
  }                                                                                    \
  static ReferenceField reference(const StepContext& context, ReferenceField input) {  \
    return HWY_STATIC_DISPATCH(plain##Formula)(context, std::move(input));             \
  }

#endif
