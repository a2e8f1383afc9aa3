#include "image/tile_places.h"

#include <cmath>

#include "base/numbers.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/tile_places.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/counting-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;
using DI = hn::RebindToSigned<D>;

// Without a branch.
HWY_INLINE V folded(const TileFold& f, V at, V& index) {
  const D d;
  const V middle = hn::Set(d, f.middle);
  const V period = hn::Set(d, f.period);
  const V place = hn::Add(at, middle);
  index = hn::Floor(hn::Mul(place, hn::Set(d, f.perPeriod)));
  const V within = hn::NegMulAdd(index, period, place);
  const V count = hn::Add(index, hn::Set(d, f.odd));
  const V odd = hn::NegMulAdd(hn::Set(d, 2.0f), hn::Floor(hn::Mul(count, hn::Set(d, 0.5f))), count);
  const V turned = hn::MulAdd(hn::Mul(odd, hn::Set(d, f.mirror)), hn::NegMulAdd(hn::Set(d, 2.0f), within, period), within);
  return hn::Add(hn::Min(hn::Set(d, f.most), hn::Max(hn::Set(d, f.least), hn::Sub(turned, middle))),
                 hn::Set(d, static_cast<float>(kTileBorder)));
}

void foldedOn(const TileLine& line, int n, float* x, float* y) {
  const D d;
  const V by = hn::Set(d, line.by);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const V along = countingFrom(d, static_cast<float>(i));
    V u = hn::MulAdd(along, hn::Set(d, line.du), hn::Set(d, line.u));
    V v = hn::MulAdd(along, hn::Set(d, line.dv), hn::Set(d, line.v));
    V column;
    V row;
    if (line.stagger == 2) {
      u = folded(line.across, u, column);
      v = folded(line.down, hn::NegMulAdd(column, by, v), row);
    } else {
      v = folded(line.down, v, row);
      u = folded(line.across, hn::NegMulAdd(row, by, u), column);
    }
    hn::StoreU(u, d, x + i);
    hn::StoreU(v, d, y + i);
  }
}

// Counted from the pixel that the first lies in, so that they are exact however far that is.
void columnsOn(double at, double step, int size, int n, std::int32_t* columns, float* shares) {
  const D d;
  const DI di;
  const double held = std::min(1e8, std::max(-1e8, at));
  const double whole = std::floor(held);
  const V first = hn::Set(d, static_cast<float>(held - whole));
  const V least = hn::Set(d, static_cast<float>(-kTileBefore - whole));
  const V most = hn::Set(d, static_cast<float>(size + kTileBehind - whole));
  const auto origin = hn::Set(di, static_cast<std::int32_t>(whole) + kTileBorder - 1);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const V place = hn::MulAdd(countingFrom(d, static_cast<float>(i)), hn::Set(d, static_cast<float>(step)), first);
    const V here = hn::Min(most, hn::Max(least, place));
    const V floor = hn::Floor(here);
    hn::StoreU(hn::Add(hn::ConvertTo(di, floor), origin), di, columns + i);
    hn::StoreU(hn::Sub(here, floor), d, shares + i);
  }
}

template <class Tag>
HWY_INLINE void gain(Tag d, const float* factors, float* rgba) {
  const auto p = hn::LoadU(d, rgba);
  hn::StoreU(hn::Min(hn::Broadcast<3>(p), hn::Mul(p, hn::LoadDup128(d, factors))), d, rgba);
}

// Not a pixel more: another tile may begin behind the last.
void gainedOn(float* rgba, int n, float by) {
  const D d;
  const hn::FixedTag<float, 4> pixel;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  alignas(16) const float factors[4] = {by, by, by, 1};
  int i = 0;
  for (; i + lanes <= n * 4; i += lanes) gain(d, factors, rgba + i);
  for (; i < n * 4; i += 4) gain(pixel, factors, rgba + i);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(foldedOn);
HWY_EXPORT(columnsOn);
HWY_EXPORT(gainedOn);

TileFold::TileFold(const TileAxis& axis, std::int64_t tile)
    : least(-static_cast<float>(kTileBefore)),
      most(static_cast<float>(axis.size + kTileBehind)),
      odd(static_cast<float>(floorMod(tile, 2))) {
  if (!axis.tiled()) return;
  middle = static_cast<float>(axis.gap / 2 + 0.5);
  period = static_cast<float>(axis.period());
  perPeriod = static_cast<float>(1 / axis.period());
  mirror = axis.kind == TileAxis::Kind::Mirror ? 1.0f : 0.0f;
}

void foldedPlaces(const TileLine& line, int n, float* x, float* y) { HWY_DYNAMIC_DISPATCH(foldedOn)(line, n, x, y); }

void columnPlaces(double at, double step, int size, int n, std::int32_t* columns, float* shares) {
  HWY_DYNAMIC_DISPATCH(columnsOn)(at, step, size, n, columns, shares);
}

void gained(float* rgba, int n, float gain) { HWY_DYNAMIC_DISPATCH(gainedOn)(rgba, n, gain); }

}  // namespace oa
#endif
