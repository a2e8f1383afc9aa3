// Sine and cosine of one angle, for half of what the two take. Included once for each target, as Highway's -inl files are.
#if defined(OA_TURNS_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_TURNS_INL
#undef OA_TURNS_INL
#else
#define OA_TURNS_INL
#endif

#include "simd/dual-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

/// Both of an angle of less than some thousand turns, within 2e-7: the parts of a quarter turn and the polynomials are those of the
/// Cephes library (S. L. Moshier, sinf.c), worked out once for the two.
HWY_INLINE void sineAndCosineOf(Num a, Num& sine, Num& cosine) {
  const Num::D d;
  const hn::RebindToSigned<Num::D> di;
  const Num quarters = nearestOf(a * Num(0.6366197723675814));
  Num r = negMulAddOf(quarters, Num(1.5703125), a);
  r = negMulAddOf(quarters, Num(4.837512969970703125e-4), r);
  r = negMulAddOf(quarters, Num(7.549789948768648e-8), r);
  const Num s = r * r;
  Num odd = mulAddOf(mulAddOf(s, Num(-1.9515295891e-4), Num(8.3321608736e-3)), s, Num(-1.6666654611e-1));
  odd = mulAddOf(odd * s, r, r);
  Num even = mulAddOf(mulAddOf(s, Num(2.443315711809948e-5), Num(-1.388731625493765e-3)), s, Num(4.166664568298827e-2));
  even = mulAddOf(even * s, s, negMulAddOf(s, Num(0.5), Num(1.0)));
  // In every second quarter they change places; in two of four each is below zero.
  const auto quarter = hn::ConvertTo(di, quarters.v);
  const auto one = hn::Set(di, 1);
  const auto second = hn::RebindMask(d, hn::Eq(hn::And(quarter, one), one));
  const auto signOf = [&](auto of) HWY_ATTR { return hn::BitCast(d, hn::ShiftLeft<30>(hn::And(of, hn::Set(di, 2)))); };
  sine = hn::Xor(hn::IfThenElse(second, even.v, odd.v), signOf(quarter));
  cosine = hn::Xor(hn::IfThenElse(second, odd.v, even.v), signOf(hn::Add(quarter, one)));
}
inline void sineAndCosineOf(double a, double& sine, double& cosine) {
  sine = std::sin(a);
  cosine = std::cos(a);
}
template <class N>
HWY_INLINE void sineAndCosineOf(Dual<N> a, Dual<N>& sine, Dual<N>& cosine) {
  N s, c;
  sineAndCosineOf(a.v, s, c);
  sine = a.along(s, c);
  cosine = a.along(c, N(0.0) - s);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
