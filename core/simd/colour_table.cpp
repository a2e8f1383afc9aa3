#include "simd/colour_table.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <mutex>
#include <utility>

#include "image/grey.h"
#include "image/rows.h"
#include "image/transfer.h"
#include "simd/offset_pair.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/colour_table.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

// Indices of many pixels first, then their colours: what is read is long on its way to memory by then.
void mapTable(const float* entries, int count, const float* t, int n, float* out) {
  const D d;
  const hn::RebindToSigned<D> di;
  const hn::FixedTag<float, 4> pixel;
  const auto top = hn::Set(d, static_cast<float>(count - 1));
  const auto half = hn::Set(d, 0.5f);
  const auto lanes = static_cast<int>(hn::Lanes(d));
  constexpr int kRun = 256;
  alignas(64) std::int32_t offset[kRun];
  for (int from = 0; from < n; from += kRun) {
    const int here = std::min(kRun, n - from);
    for (int i = 0; i < here; i += lanes) {
      // Min and Max in this order also bring not-a-number into range.
      const auto place = hn::Max(hn::Zero(d), hn::Min(top, hn::MulAdd(hn::LoadU(d, t + from + i), top, half)));
      hn::Store(hn::ShiftLeft<2>(hn::ConvertTo(di, place)), di, offset + i);
    }
    float* to = out + static_cast<std::ptrdiff_t>(from) * 4;
    int i = 0;
#if HWY_MAX_BYTES >= 32 && !HWY_HAVE_SCALABLE
    // As wide as can be written at once: there is one such write in a step, however little it writes.
    const hn::FixedTag<float, 8> two;
    const auto entriesOf = [&](const std::int32_t* at) HWY_ATTR {
      const OffsetPair both(at);
      return hn::Combine(two, hn::LoadU(pixel, entries + both.second()), hn::LoadU(pixel, entries + both.first()));
    };
    for (; i + 4 <= here; i += 4, to += 16) {
      const auto first = entriesOf(offset + i);
      const auto second = entriesOf(offset + i + 2);
      hn::StoreU(first, two, to);
      hn::StoreU(second, two, to + 8);
    }
#endif
    for (; i < here; ++i, to += 4) hn::StoreU(hn::LoadU(pixel, entries + offset[i]), pixel, to);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(mapTable);

ColourTable::ColourTable(std::vector<std::array<float, 4>> entries) : entries_(std::move(entries)) {
  opaque_ = std::all_of(entries_.begin(), entries_.end(), [](const auto& e) { return e[3] >= 1; });
}

std::shared_ptr<const ColourTable> ColourTable::baked(const Stops& stops, ColourMixing mixing, int count) {
  struct Made {
    Stops stops;
    ColourMixing mixing;
    int count;
    std::shared_ptr<const ColourTable> table;
  };
  constexpr std::size_t kRemembered = 64;
  static std::mutex mutex;
  static std::deque<Made> made;
  {
    const std::scoped_lock lock(mutex);
    for (const Made& m : made)
      if (m.count == count && m.mixing == mixing && m.stops == stops) return m.table;
  }
  auto table = std::make_shared<const ColourTable>(bakeStops(stops, mixing, count));
  const std::scoped_lock lock(mutex);
  made.push_front({stops, mixing, count, table});
  if (made.size() > kRemembered) made.pop_back();
  return table;
}

void ColourTable::map(const float* t, int n, float* out) const {
  HWY_DYNAMIC_DISPATCH(mapTable)(entries_.front().data(), static_cast<int>(entries_.size()), t, n, out);
}

std::shared_ptr<const ColourTable> ColourTable::linear() const {
  std::call_once(decoded_, [this] {
    std::vector<std::array<float, 4>> entries = entries_;
    // Buffers of pixels are longer than what is in them.
    entries.resize(entries.size() + kSpanPadding);
    decodeSpan(entries.front().data(), static_cast<int>(entries_.size()));
    entries.resize(entries_.size());
    linear_ = std::make_shared<const ColourTable>(std::move(entries));
  });
  return linear_;
}

void ColourTable::fill(float t, int n, float* out) const {
  const auto last = static_cast<float>(entries_.size() - 1);
  // Rounded as map() does it.
  const float place = std::clamp(t, 0.0f, 1.0f) * last + 0.5f;
  fillRgba(entries_[static_cast<std::size_t>(place)].data(), n, out);
}

}  // namespace oa
#endif
