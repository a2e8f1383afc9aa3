#include "simd/tone_table.h"

#include <algorithm>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/tone_table.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

void scaleValues(float* v, int n, float scale, float offset) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::StoreU(hn::MulAdd(hn::LoadU(d, v + i), hn::Set(d, scale), hn::Set(d, offset)), d, v + i);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(scaleValues);

namespace {

constexpr int kEntries = 1024;

inline float lookUp(const float* entries, float v) {
  const float place = std::clamp(v, 0.0f, 1.0f) * (kEntries - 1);
  const int i = std::min(static_cast<int>(place), kEntries - 2);
  return entries[i] + (entries[i + 1] - entries[i]) * (place - static_cast<float>(i));
}

}  // namespace

ToneTable::ToneTable(const Curve& curve) : entries_(bakeCurve(curve, kEntries)) {}

void ToneTable::apply(float* v, int n) const {
  const float* entries = entries_.data();
  for (int i = 0; i < n; ++i) v[i] = lookUp(entries, v[i]);
}

void ToneTable::applyTo(float* rgba, int n, int firstChannel, int lastChannel) const {
  const float* entries = entries_.data();
  for (int i = 0; i < n; ++i) {
    float* p = rgba + i * 4;
    if (p[3] <= 0) continue;
    for (int c = firstChannel; c <= lastChannel; ++c) p[c] = lookUp(entries, p[c] / p[3]) * p[3];
  }
}

void scaleSpan(float* v, int n, float scale, float offset) { HWY_DYNAMIC_DISPATCH(scaleValues)(v, n, scale, offset); }

}  // namespace oa
#endif
