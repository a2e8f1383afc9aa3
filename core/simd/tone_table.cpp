#include "simd/tone_table.h"

#include <algorithm>
#include <cstring>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/tone_table.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/pixel_planes-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

void scaleValues(float* v, int n, float scale, float offset) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::StoreU(hn::MulAdd(hn::LoadU(d, v + i), hn::Set(d, scale), hn::Set(d, offset)), d, v + i);
}

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;
using DI = hn::RebindToSigned<D>;

constexpr int kRun = 256;                       // values at a time, so that all that is known of them stays in the L1 cache
constexpr int kLast = ToneTable::kEntries - 2;  // from which the last step goes

// The same for values that lie somewhere: `load(i)` takes a vector of them, `store(i, v)` puts it back. In three sweeps, so that nothing is
// read while it is still on its way to memory.
template <class Load, class Store>
HWY_INLINE void lookUp(const float* pairs, int n, Load load, Store store) {
  const D d;
  const DI di;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  alignas(64) std::int32_t index[kRun];
  alignas(64) float part[kRun];
  alignas(64) float found[2 * kRun];
  for (int from = 0; from < n; from += kRun) {
    const int count = std::min(kRun, n - from);
    for (int i = 0; i < count; i += lanes) {
      // Min and Max in this order also bring not-a-number into range.
      const V v = hn::Max(hn::Zero(d), hn::Min(hn::Set(d, 1.0f), load(from + i)));
      const V place = hn::Mul(v, hn::Set(d, static_cast<float>(kLast + 1)));
      const auto whole = hn::Min(hn::ConvertTo(di, place), hn::Set(di, kLast));
      hn::Store(whole, di, index + i);
      hn::Store(hn::Sub(place, hn::ConvertTo(d, whole)), d, part + i);
    }
    for (int i = 0; i < count; ++i) std::memcpy(found + 2 * i, pairs + 2 * index[i], 2 * sizeof(float));
    for (int i = 0; i < count; i += lanes) {
      V value;
      V step;
      hn::LoadInterleaved2(d, found + 2 * i, value, step);
      store(from + i, hn::MulAdd(step, hn::Load(d, part + i), value));
    }
  }
}

void toneValues(const float* pairs, float* v, int n) {
  const D d;
  lookUp(
      pairs, n, [&](int i) HWY_ATTR { return hn::LoadU(d, v + i); }, [&](int i, V made) HWY_ATTR { hn::StoreU(made, d, v + i); });
}

void toneChannel(const float* pairs, float* rgba, int n, int channel) {
  const D d;
  lookUp(
      pairs, n,
      [&](int i) HWY_ATTR {
        V c[4];
        partPixels(d, rgba + i * 4, c[0], c[1], c[2], c[3]);
        return hn::IfThenElseZero(hn::Gt(c[3], hn::Zero(d)), hn::Div(c[channel], c[3]));
      },
      [&](int i, V made) HWY_ATTR {
        V c[4];
        partPixels(d, rgba + i * 4, c[0], c[1], c[2], c[3]);
        c[channel] = hn::IfThenElse(hn::Gt(c[3], hn::Zero(d)), hn::Mul(made, c[3]), c[channel]);
        joinPixels(d, c[0], c[1], c[2], c[3], rgba + i * 4);
      });
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(scaleValues);

HWY_EXPORT(toneValues);
HWY_EXPORT(toneChannel);

ToneTable::ToneTable(const Curve& curve) {
  const std::vector<float> entries = bakeCurve(curve, kEntries);
  for (std::size_t i = 0; i < entries.size(); ++i) {
    pairs_.push_back(entries[i]);
    pairs_.push_back(i + 1 < entries.size() ? entries[i + 1] - entries[i] : 0);
  }
}

void ToneTable::apply(float* v, int n) const { HWY_DYNAMIC_DISPATCH(toneValues)(pairs_.data(), v, n); }

void ToneTable::applyTo(float* rgba, int n, int firstChannel, int lastChannel) const {
  for (int c = firstChannel; c <= lastChannel; ++c) HWY_DYNAMIC_DISPATCH(toneChannel)(pairs_.data(), rgba, n, c);
}

void scaleSpan(float* v, int n, float scale, float offset) { HWY_DYNAMIC_DISPATCH(scaleValues)(v, n, scale, offset); }

}  // namespace oa
#endif
