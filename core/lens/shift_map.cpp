#include "lens/shift_map.h"

#include <algorithm>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "lens/shift_map.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/counting-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

// From `n` places, those one to the right and those one below: what lies between them, and its singular values.
void slopesBetween(const float* const* x, const float* const* y, int n, const LensMap::Slopes& out) {
  const hn::CappedTag<float, 16> d;
  const auto half = hn::Set(d, 0.5f);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const auto atX = hn::LoadU(d, x[0] + i);
    const auto atY = hn::LoadU(d, y[0] + i);
    const auto xx = hn::Sub(hn::LoadU(d, x[0] + i + 1), atX);
    const auto xy = hn::Sub(hn::LoadU(d, x[1] + i), atX);
    const auto yx = hn::Sub(hn::LoadU(d, y[0] + i + 1), atY);
    const auto yy = hn::Sub(hn::LoadU(d, y[1] + i), atY);
    const auto sum = hn::MulAdd(xx, xx, hn::MulAdd(xy, xy, hn::MulAdd(yx, yx, hn::Mul(yy, yy))));
    const auto det = hn::Abs(hn::MulSub(xx, yy, hn::Mul(xy, yx)));
    const auto apart = hn::Max(hn::Zero(d), hn::NegMulAdd(hn::Mul(hn::Set(d, 4.0f), det), det, hn::Mul(sum, sum)));
    const auto longer = hn::Sqrt(hn::Mul(half, hn::Add(sum, hn::Sqrt(apart))));
    hn::StoreU(atX, d, out.x + i);
    hn::StoreU(atY, d, out.y + i);
    hn::StoreU(longer, d, out.most + i);
    hn::StoreU(hn::IfThenElseZero(hn::Gt(longer, hn::Zero(d)), hn::Div(det, longer)), d, out.least + i);
    hn::StoreU(xx, d, out.xx + i);
    hn::StoreU(xy, d, out.xy + i);
    hn::StoreU(yx, d, out.yx + i);
    hn::StoreU(yy, d, out.yy + i);
  }
}

void addPlaces(float px, float py, int n, float* x, float* y) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    hn::StoreU(hn::Add(hn::LoadU(d, x + i), countingFrom(d, px + static_cast<float>(i))), d, x + i);
    hn::StoreU(hn::Add(hn::LoadU(d, y + i), hn::Set(d, py)), d, y + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(slopesBetween);
HWY_EXPORT(addPlaces);

void ShiftMap::places(int px, int py, int n, float* x, float* y) const {
  for (int begin = 0; begin < n; begin += kSpanStep) {
    const int count = std::min(kSpanStep, n - begin);
    shifts(px + begin, py, count, x + begin, y + begin);
    HWY_DYNAMIC_DISPATCH(addPlaces)(static_cast<float>(px + begin), static_cast<float>(py), count, x + begin, y + begin);
  }
}

// From pixel to pixel: what a formula would say of its own slopes would miss where it ends.
void ShiftMap::slopes(int px, int py, int step, int n, const Slopes& out) const {
  constexpr int kRoom = kSpanStep + 2 * kSpanPadding;
  alignas(64) float x[2][kRoom];
  alignas(64) float y[2][kRoom];
  const float* const across[2] = {x[0], x[1]};
  const float* const down[2] = {y[0], y[1]};
  const auto from = [](const Slopes& s, int i) {
    return Slopes{s.x + i, s.y + i, s.most + i, s.least + i, s.xx + i, s.xy + i, s.yx + i, s.yy + i};
  };
  if (step == 1) {
    for (int begin = 0; begin < n; begin += kSpanStep) {
      const int count = std::min(kSpanStep, n - begin);
      places(px + begin, py, count + 1, x[0], y[0]);
      places(px + begin, py + 1, count, x[1], y[1]);
      HWY_DYNAMIC_DISPATCH(slopesBetween)(across, down, count, from(out, begin));
    }
    return;
  }
  // Those between them, too, where they lie so close that this is quicker.
  if (step <= kSpanPadding) {
    const int atOnce = (kSpanStep - 1) / step;
    alignas(64) float made[8][kRoom];
    const Slopes all{made[0], made[1], made[2], made[3], made[4], made[5], made[6], made[7]};
    for (int begin = 0; begin < n; begin += atOnce) {
      const int count = std::min(atOnce, n - begin);
      slopes(px + begin * step, py, 1, (count - 1) * step + 1, all);
      const Slopes to = from(out, begin);
      float* const kept[8] = {to.x, to.y, to.most, to.least, to.xx, to.xy, to.yx, to.yy};
      for (int k = 0; k < 8; ++k)
        for (int i = 0; i < count; ++i) kept[k][i] = made[k][i * step];
    }
    return;
  }
  // Pairs of them, one after the other.
  alignas(64) float made[8][kSpanPadding];
  const Slopes one{made[0], made[1], made[2], made[3], made[4], made[5], made[6], made[7]};
  float* const to[8] = {out.x, out.y, out.most, out.least, out.xx, out.xy, out.yx, out.yy};
  for (int i = 0; i < n; ++i) {
    places(px + i * step, py, 2, x[0], y[0]);
    places(px + i * step, py + 1, 1, x[1], y[1]);
    HWY_DYNAMIC_DISPATCH(slopesBetween)(across, down, 1, one);
    for (int k = 0; k < 8; ++k) to[k][i] = made[k][0];
  }
}

}  // namespace oa
#endif
