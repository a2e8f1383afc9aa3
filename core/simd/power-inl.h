// Powers, without a division. Included once for each target, as Highway's -inl files are.
#if defined(OA_POWER_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_POWER_INL
#undef OA_POWER_INL
#else
#define OA_POWER_INL
#endif

#include "simd/dual-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

/// The power `p` of a number that is above 0, neither of which makes |p log2 a| larger than 120: 2^(p log2 a), within some millionths of
/// itself. The polynomials are those of the Cephes library (S. L. Moshier, logf.c and exp2f.c).
HWY_INLINE Num powerOf(Num a, double p) {
  const Num::D d;
  const hn::RebindToSigned<Num::D> di;
  // A whole number of doublings of what lies between the root of a half and that of 2.
  const auto bits = hn::BitCast(di, a.v);
  const auto doublings = hn::ShiftRight<23>(hn::Sub(bits, hn::Set(di, 0x3f3504f3)));
  const Num x = Num(hn::BitCast(d, hn::Sub(bits, hn::ShiftLeft<23>(doublings)))) - Num(1.0);
  Num log(7.0376836292e-2);
  for (const double c : {-1.1514610310e-1, 1.1676998740e-1, -1.2420140846e-1, 1.4249322787e-1, -1.6668057665e-1, 2.0000714765e-1,
                         -2.4999993993e-1, 3.3333331174e-1})
    log = mulAddOf(log, x, Num(c));
  const Num square = x * x;
  log = mulAddOf(log * square, x, negMulAddOf(square, Num(0.5), x));
  const Num power = mulAddOf(log, Num(1.4426950408889634), Num(hn::ConvertTo(d, doublings))) * Num(p);
  const Num whole = nearestOf(power);
  const Num f = power - whole;
  Num exp(1.535336188319500e-4);
  for (const double c : {1.339887440266574e-3, 9.618437357674640e-3, 5.550332471162809e-2, 2.402264791363012e-1, 6.931472028550421e-1, 1.0})
    exp = mulAddOf(exp, f, Num(c));
  return hn::BitCast(d, hn::Add(hn::BitCast(di, exp.v), hn::ShiftLeft<23>(hn::ConvertTo(di, whole.v))));
}
inline double powerOf(double a, double p) { return std::pow(a, p); }
template <class N>
HWY_INLINE Dual<N> powerOf(Dual<N> a, double p) {
  const N less = powerOf(a.v, p - 1);
  return a.along(less * a.v, less * N(p));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
