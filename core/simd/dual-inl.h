// Numbers that know how they change: a formula that is written for numbers also says how its result grows across and down (forward
// differentiation, R. E. Wengert 1964). Included once for each target, as Highway's -inl files are.
#if defined(OA_DUAL_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_DUAL_INL
#undef OA_DUAL_INL
#else
#define OA_DUAL_INL
#endif

#include "simd/num-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

template <class N>
struct Dual {
  N v;
  N dx = N(0.0);
  N dy = N(0.0);
  Dual() = default;
  HWY_INLINE Dual(double value) : v(value) {}
  HWY_INLINE Dual(N value, N x, N y) : v(value), dx(x), dy(y) {}
  friend HWY_INLINE Dual operator+(Dual a, Dual b) { return {a.v + b.v, a.dx + b.dx, a.dy + b.dy}; }
  friend HWY_INLINE Dual operator-(Dual a, Dual b) { return {a.v - b.v, a.dx - b.dx, a.dy - b.dy}; }
  friend HWY_INLINE Dual operator*(Dual a, Dual b) { return {a.v * b.v, a.dx * b.v + a.v * b.dx, a.dy * b.v + a.v * b.dy}; }
  friend HWY_INLINE Dual operator/(Dual a, Dual b) {
    const N part = N(1.0) / b.v;
    const N whole = a.v * part;
    return {whole, (a.dx - whole * b.dx) * part, (a.dy - whole * b.dy) * part};
  }
  /// The same with a derivative of `by` times this one's.
  HWY_INLINE Dual along(N value, N by) const { return {value, dx * by, dy * by}; }
};

template <class N>
HWY_INLINE Dual<N> mulAddOf(Dual<N> a, Dual<N> b, Dual<N> c) {
  return a * b + c;
}
template <class N>
HWY_INLINE Dual<N> minOf(Dual<N> a, Dual<N> b) {
  // Of equal ones the smaller is the second and the larger the first: together they are both.
  return {minOf(a.v, b.v), whereLess(a.v, b.v, a.dx, b.dx), whereLess(a.v, b.v, a.dy, b.dy)};
}
template <class N>
HWY_INLINE Dual<N> maxOf(Dual<N> a, Dual<N> b) {
  return {maxOf(a.v, b.v), whereLess(a.v, b.v, b.dx, a.dx), whereLess(a.v, b.v, b.dy, a.dy)};
}
template <class N>
HWY_INLINE Dual<N> absOf(Dual<N> a) {
  return a.along(absOf(a.v), whereLess(a.v, N(0.0), N(-1.0), N(1.0)));
}
template <class N>
HWY_INLINE Dual<N> floorOf(Dual<N> a) {
  return {floorOf(a.v), N(0.0), N(0.0)};
}
template <class N>
HWY_INLINE Dual<N> rootOf(Dual<N> a) {
  const N root = rootOf(a.v);
  return a.along(root, N(0.5) * inverseOrZero(root));
}
template <class N>
HWY_INLINE Dual<N> sineOf(Dual<N> a) {
  return a.along(sineOf(a.v), cosineOf(a.v));
}
template <class N>
HWY_INLINE Dual<N> cosineOf(Dual<N> a) {
  return a.along(cosineOf(a.v), N(0.0) - sineOf(a.v));
}
template <class N>
HWY_INLINE Dual<N> logOf(Dual<N> a) {
  return a.along(logOf(a.v), inverseOrZero(a.v));
}
template <class N>
HWY_INLINE Dual<N> expOf(Dual<N> a) {
  const N e = expOf(a.v);
  return a.along(e, e);
}
/// The direction of (x, y).
template <class N>
HWY_INLINE Dual<N> angleOf(Dual<N> y, Dual<N> x) {
  const N part = inverseOrZero(x.v * x.v + y.v * y.v);
  return {angleOf(y.v, x.v), (x.v * y.dx - y.v * x.dx) * part, (x.v * y.dy - y.v * x.dy) * part};
}
template <class N>
HWY_INLINE Dual<N> inverseOrZero(Dual<N> a) {
  const N part = inverseOrZero(a.v);
  return a.along(part, N(0.0) - part * part);
}
template <class N>
HWY_INLINE Dual<N> whereLess(Dual<N> a, Dual<N> b, Dual<N> yes, Dual<N> no) {
  return {whereLess(a.v, b.v, yes.v, no.v), whereLess(a.v, b.v, yes.dx, no.dx), whereLess(a.v, b.v, yes.dy, no.dy)};
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
