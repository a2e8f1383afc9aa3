// Shares of the way along a linear, radial or conic ramp, pixel by pixel.
#pragma once

namespace oa {

enum class RampKind { Linear, Radial, Conic };
enum class RampExtend { Hold, Again, Back };

/// Pixel (x, y) lies at a = a0 + ax x + ay y along the ramp's axis and b = b0 + bx x + by y beside it, in
/// lengths of the ramp. Linear: a; radial: the distance; conic: the angle in turns.
struct Ramp {
  RampKind kind = RampKind::Linear;
  RampExtend extend = RampExtend::Hold;
  double a0 = 0, ax = 0, ay = 0;
  double b0 = 0, bx = 0, by = 0;
  double shift = 0;  ///< added before `extend` is applied

  [[nodiscard]] bool constantInX() const { return kind == RampKind::Linear && ax * ax < 1e-24; }
};

/// The share at one pixel in [0, 1], in double precision.
double rampAt(const Ramp& ramp, int x, int y);

/// `n` pixels of row y from x0; `t` has room for n rounded up to kSpanPadding. Within 2e-5 of rampAt.
void rampSpan(const Ramp& ramp, int x0, int y, int n, float* t);

}  // namespace oa
