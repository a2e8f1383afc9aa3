#include "simd/ramps.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/numbers.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/ramps.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

// atan2(b, a) in turns, [0, 1). Minimax polynomial for atan on [0, 1]: error below 2e-6 turns.
HWY_INLINE V turns(V a, V b) {
  const D d;
  const V ma = hn::Abs(a);
  const V mb = hn::Abs(b);
  const V q = hn::Div(hn::Min(ma, mb), hn::Max(hn::Max(ma, mb), hn::Set(d, 1e-30f)));
  const V z = hn::Mul(q, q);
  V p = hn::Set(d, -0.01172120f);
  p = hn::MulAdd(p, z, hn::Set(d, 0.05265332f));
  p = hn::MulAdd(p, z, hn::Set(d, -0.11643287f));
  p = hn::MulAdd(p, z, hn::Set(d, 0.19354346f));
  p = hn::MulAdd(p, z, hn::Set(d, -0.33262347f));
  p = hn::MulAdd(p, z, hn::Set(d, 0.99997726f));
  V t = hn::Mul(hn::Mul(p, q), hn::Set(d, 0.15915494f));
  t = hn::IfThenElse(hn::Gt(mb, ma), hn::Sub(hn::Set(d, 0.25f), t), t);
  t = hn::IfThenElse(hn::Lt(a, hn::Zero(d)), hn::Sub(hn::Set(d, 0.5f), t), t);
  return hn::IfThenElse(hn::Lt(b, hn::Zero(d)), hn::Sub(hn::Set(d, 1.0f), t), t);
}

HWY_INLINE V extended(V t, RampExtend extend) {
  const D d;
  if (extend == RampExtend::Again) return hn::Sub(t, hn::Floor(t));
  if (extend == RampExtend::Back) {
    const V half = hn::Mul(t, hn::Set(d, 0.5f));
    const V saw = hn::Mul(hn::Sub(half, hn::Floor(half)), hn::Set(d, 2.0f));
    return hn::Min(saw, hn::Sub(hn::Set(d, 2.0f), saw));
  }
  return t;
}

void rampSpanOn(const Ramp& ramp, int x0, int y, int n, float* t) {
  const D d;
  const V within = hn::Iota(d, 0.0f);
  // The part that does not depend on x stays in double precision.
  const V a0 = hn::Set(d, static_cast<float>(ramp.a0 + ramp.ay * y + ramp.ax * x0));
  const V b0 = hn::Set(d, static_cast<float>(ramp.b0 + ramp.by * y + ramp.bx * x0));
  const V ax = hn::Set(d, static_cast<float>(ramp.ax));
  const V bx = hn::Set(d, static_cast<float>(ramp.bx));
  const V shift = hn::Set(d, static_cast<float>(ramp.shift));
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const V x = hn::Add(hn::Set(d, static_cast<float>(i)), within);
    const V a = hn::MulAdd(x, ax, a0);
    V share = a;
    if (ramp.kind != RampKind::Linear) {
      const V b = hn::MulAdd(x, bx, b0);
      share = ramp.kind == RampKind::Radial ? hn::Sqrt(hn::MulAdd(a, a, hn::Mul(b, b))) : turns(a, b);
    }
    hn::StoreU(extended(hn::Add(share, shift), ramp.extend), d, t + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(rampSpanOn);

double rampAt(const Ramp& ramp, int x, int y) {
  const double a = ramp.a0 + ramp.ax * x + ramp.ay * y;
  const double b = ramp.b0 + ramp.bx * x + ramp.by * y;
  double t = a;
  if (ramp.kind == RampKind::Radial) t = std::hypot(a, b);
  if (ramp.kind == RampKind::Conic) t = fract(std::atan2(b, a) / (2 * std::numbers::pi));
  t += ramp.shift;
  if (ramp.extend == RampExtend::Again) return fract(t);
  if (ramp.extend == RampExtend::Back) {
    const double saw = 2 * fract(t / 2);
    return std::min(saw, 2 - saw);
  }
  return std::clamp(t, 0.0, 1.0);
}

void rampSpan(const Ramp& ramp, int x0, int y, int n, float* t) { HWY_DYNAMIC_DISPATCH(rampSpanOn)(ramp, x0, y, n, t); }

}  // namespace oa
#endif
