// Numbers with operators, as one double or as a vector of floats: a formula is written once for the plain path and for every
// SIMD target. Included once for each target, as Highway's -inl files are.
#if defined(OA_NUM_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_NUM_INL
#undef OA_NUM_INL
#else
#define OA_NUM_INL
#endif

#include <hwy/highway.h>
#include <hwy/contrib/math/math-inl.h>

#include <algorithm>
#include <cmath>

#include "image/counting-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

struct Num {
  using D = hn::CappedTag<float, 16>;
  hn::Vec<D> v;
  Num() = default;
  HWY_INLINE Num(hn::Vec<D> value) : v(value) {}
  HWY_INLINE Num(double value) : v(hn::Set(D(), static_cast<float>(value))) {}
  friend HWY_INLINE Num operator+(Num a, Num b) { return hn::Add(a.v, b.v); }
  friend HWY_INLINE Num operator-(Num a, Num b) { return hn::Sub(a.v, b.v); }
  friend HWY_INLINE Num operator*(Num a, Num b) { return hn::Mul(a.v, b.v); }
  friend HWY_INLINE Num operator/(Num a, Num b) { return hn::Div(a.v, b.v); }
  static HWY_INLINE Num load(const float* from) { return hn::LoadU(D(), from); }
  HWY_INLINE void store(float* to) const { hn::StoreU(v, D(), to); }
  static HWY_INLINE int lanes() { return static_cast<int>(hn::Lanes(D())); }
  /// first, first + 1, ...
  static HWY_INLINE Num counting(double first) { return countingFrom(D(), static_cast<float>(first)); }
};

/// a * b + c and c - a * b, rounded once where the target can.
HWY_INLINE Num mulAddOf(Num a, Num b, Num c) { return hn::MulAdd(a.v, b.v, c.v); }
HWY_INLINE Num negMulAddOf(Num a, Num b, Num c) { return hn::NegMulAdd(a.v, b.v, c.v); }
HWY_INLINE bool allOne(Num a) { return hn::AllTrue(Num::D(), hn::Eq(a.v, hn::Set(Num::D(), 1.0f))); }
/// 1 / a, and 0 where a is not above 0. Most are 1, as the alpha of most pixels is, and need no division.
HWY_INLINE Num inverseOrZero(Num a) {
  const Num::D d;
  const auto one = hn::Set(d, 1.0f);
  if (HWY_LIKELY(allOne(a))) return one;
  return hn::IfThenElseZero(hn::Gt(a.v, hn::Zero(d)), hn::Div(one, a.v));
}
HWY_INLINE Num minOf(Num a, Num b) { return hn::Min(a.v, b.v); }
HWY_INLINE Num maxOf(Num a, Num b) { return hn::Max(a.v, b.v); }
HWY_INLINE Num absOf(Num a) { return hn::Abs(a.v); }
HWY_INLINE Num floorOf(Num a) { return hn::Floor(a.v); }
HWY_INLINE Num nearestOf(Num a) { return hn::Round(a.v); }
HWY_INLINE Num rootOf(Num a) { return hn::Sqrt(a.v); }
HWY_INLINE Num sineOf(Num a) { return hn::Sin(Num::D(), a.v); }
HWY_INLINE Num cosineOf(Num a) { return hn::Cos(Num::D(), a.v); }
HWY_INLINE Num logOf(Num a) { return hn::Log(Num::D(), a.v); }
HWY_INLINE Num expOf(Num a) { return hn::Exp(Num::D(), a.v); }
/// `yes` where a < b, else `no`.
HWY_INLINE Num whereLess(Num a, Num b, Num yes, Num no) { return hn::IfThenElse(hn::Lt(a.v, b.v), yes.v, no.v); }

/// The direction of (x, y) in radians, -pi to pi; 0 for no direction. The arc tangent is Hastings' polynomial (Abramowitz and Stegun
/// 4.4.49, within 2e-8) of the smaller part by the larger.
HWY_INLINE Num angleOf(Num y, Num x) {
  const Num ax = absOf(x);
  const Num ay = absOf(y);
  const Num t = minOf(ax, ay) * inverseOrZero(maxOf(ax, ay));
  const Num s = t * t;
  Num p(0.0028662257);
  for (const double c : {-0.0161657367, 0.0429096138, -0.0752896400, 0.1065626393, -0.1420889944, 0.1999355085, -0.3333314528, 1.0})
    p = mulAddOf(p, s, Num(c));
  Num angle = p * t;
  angle = whereLess(ax, ay, Num(1.5707963267948966) - angle, angle);
  angle = whereLess(x, Num(0.0), Num(3.141592653589793) - angle, angle);
  return whereLess(y, Num(0.0), Num(0.0) - angle, angle);
}

inline double mulAddOf(double a, double b, double c) { return a * b + c; }
inline double negMulAddOf(double a, double b, double c) { return c - a * b; }
inline double inverseOrZero(double a) { return a > 0 ? 1 / a : 0; }
inline bool allOne(double a) { return a == 1; }
inline double minOf(double a, double b) { return std::min(a, b); }
inline double maxOf(double a, double b) { return std::max(a, b); }
inline double absOf(double a) { return std::abs(a); }
inline double floorOf(double a) { return std::floor(a); }
inline double nearestOf(double a) { return std::nearbyint(a); }
inline double rootOf(double a) { return std::sqrt(a); }
inline double sineOf(double a) { return std::sin(a); }
inline double cosineOf(double a) { return std::cos(a); }
inline double angleOf(double y, double x) { return std::atan2(y, x); }
inline double logOf(double a) { return std::log(a); }
inline double expOf(double a) { return std::exp(a); }
inline double whereLess(double a, double b, double yes, double no) { return a < b ? yes : no; }

template <class N>
HWY_INLINE N fractOf(N a) {
  return a - floorOf(a);
}
/// Held within 0 to 1 and softened at both ends: 3 t^2 - 2 t^3.
template <class N>
HWY_INLINE N softOf(N t) {
  const N held = maxOf(N(0.0), minOf(N(1.0), t));
  return held * held * (N(3.0) - N(2.0) * held);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
