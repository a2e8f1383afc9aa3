#include "support/numbers.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "support/numbers.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/power-inl.h"
#include "simd/turns-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// Whole vectors; there is room for as many.
void powers(const float* a, double p, int n, float* out) {
  for (int i = 0; i < n; i += Num::lanes()) powerOf(Num::load(a + i), p).store(out + i);
}

void turns(const float* angle, int n, float* sine, float* cosine) {
  for (int i = 0; i < n; i += Num::lanes()) {
    Num s, c;
    sineAndCosineOf(Num::load(angle + i), s, c);
    s.store(sine + i);
    c.store(cosine + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(powers);
HWY_EXPORT(turns);

namespace test {
namespace {

constexpr std::size_t kMostLanes = 16;

std::vector<float> padded(const std::vector<float>& a) {
  std::vector<float> made = a;
  made.resize(a.size() + kMostLanes, 1.0f);
  return made;
}

}  // namespace

std::vector<float> powersOf(const std::vector<float>& a, double p) {
  std::vector<float> out = padded(a);
  HWY_DYNAMIC_DISPATCH(powers)(padded(a).data(), p, static_cast<int>(a.size()), out.data());
  out.resize(a.size());
  return out;
}

Turns turnsOf(const std::vector<float>& angles) {
  Turns made{padded(angles), padded(angles)};
  HWY_DYNAMIC_DISPATCH(turns)(padded(angles).data(), static_cast<int>(angles.size()), made.sine.data(), made.cosine.data());
  made.sine.resize(angles.size());
  made.cosine.resize(angles.size());
  return made;
}

}  // namespace test
}  // namespace oa
#endif
