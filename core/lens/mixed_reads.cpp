#include "lens/mixed_reads.h"

#include <algorithm>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "lens/mixed_reads.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/cache_control.h>

#include "image/bilinear-inl.h"
#include "image/counting-inl.h"
#include "image/kept_lanes-inl.h"
#include "image/lane_lookup-inl.h"
#include "image/reciprocal-inl.h"
#include "lens/lens_level-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using DI = hn::RebindToSigned<D>;
using V = hn::Vec<D>;

// Where the pixels of a vector are read.
struct PixelReads {
  V x, y;
  V level;       // in which the shorter side of what each shows, or the piece of the longer one for one point, is about one pixel
  V part;        // of it that each of its points is
  V wayX, wayY;  // how far the place moves within the pixel along its longer side, where its points lie
};

HWY_INLINE hn::Mask<D> hasTap(V part, int tap) {
  const D d;
  return hn::Lt(hn::Mul(part, hn::Set(d, static_cast<float>(tap))), hn::Set(d, 1.0f));
}

HWY_INLINE PixelReads pixelReads(const LensMap::Slopes& at, const LensCell& cell, int i) {
  const D d;
  const auto one = hn::Set(d, 1.0f);
  PixelReads r;
  r.x = hn::LoadU(d, at.x + i);
  r.y = hn::LoadU(d, at.y + i);
  r.part = one;
  r.wayX = r.wayY = hn::Zero(d);
  const auto most = hn::LoadU(d, at.most + i);
  const auto piece = hn::Set(d, 1 / static_cast<float>(cell.taps));
  const auto size = sizeRead(d, most, hn::LoadU(d, at.least + i), piece);
  r.level = levelOfSize(d, size, hn::Set(d, static_cast<float>(cell.finest)), hn::Set(d, static_cast<float>(cell.coarsest)));
  if (cell.taps == 1) return r;
  // As many points as lie little more than a pixel of the level apart: one, two or four, and no more than the cell has.
  const auto pieces = [&](float count) HWY_ATTR { return hn::Gt(most, hn::Mul(size, hn::Set(d, 1.2f * count))); };
  const auto own = hn::Max(hn::IfThenElse(pieces(2), hn::Set(d, 0.25f), hn::IfThenElse(pieces(1), hn::Set(d, 0.5f), one)), piece);
  if (hn::AllFalse(d, hasTap(own, 1))) return r;
  r.part = own;
  const auto xx = hn::LoadU(d, at.xx + i);
  const auto xy = hn::LoadU(d, at.xy + i);
  const auto yx = hn::LoadU(d, at.yx + i);
  const auto yy = hn::LoadU(d, at.yy + i);
  // The eigenvector of the larger of the two values of a symmetric matrix, from whichever row does not vanish.
  const auto across = hn::MulAdd(xx, xx, hn::Mul(yx, yx));
  const auto down = hn::MulAdd(xy, xy, hn::Mul(yy, yy));
  const auto both = hn::MulAdd(xx, xy, hn::Mul(yx, yy));
  const auto square = hn::Mul(most, most);
  const auto flat = hn::Gt(across, down);
  const auto x = hn::IfThenElse(flat, hn::Sub(square, down), both);
  const auto y = hn::IfThenElse(flat, both, hn::Sub(square, across));
  const auto inverse = nearInverseRoot(d, hn::Max(hn::MulAdd(x, x, hn::Mul(y, y)), hn::Set(d, 1e-30f)));
  r.wayX = hn::Mul(hn::MulAdd(xx, x, hn::Mul(xy, y)), inverse);
  r.wayY = hn::Mul(hn::MulAdd(yx, x, hn::Mul(yy, y)), inverse);
  return r;
}

// The share that level `k` has of each pixel.
HWY_INLINE V shareOfLevel(V level, V k) {
  const D d;
  const auto less = hn::Mul(hn::Sub(hn::Abs(hn::Sub(level, k)), hn::Set(d, kLevelAlone)), hn::Set(d, 1 / (1 - 2 * kLevelAlone)));
  return hn::Sub(hn::Set(d, 1.0f), hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), less)));
}

// The level that each lane reads.
struct LanesPlaces : LevelPlacing<D> {
  hn::Vec<DI> which;
  HWY_INLINE LanesPlaces(const LevelTable& levels, hn::Vec<DI> w) : which(w) {
    const LaneLookup own(w);
    scale = own.of(levels.scale);
    shiftX = own.of(levels.shiftX);
    shiftY = own.of(levels.shiftY);
    lastX = own.of(levels.lastX);
    lastY = own.of(levels.lastY);
    stride = own.of(levels.stride);
    channels = hn::Set(DI(), levels.channels);
  }
};

// Points that are read, one after the other.
template <int kMost>
struct Reads {
  alignas(64) std::int32_t level[kMost + kSpanPadding];
  alignas(64) std::int32_t offset[kMost + kSpanPadding];
  alignas(64) float tx[kMost + kSpanPadding];
  alignas(64) float ty[kMost + kSpanPadding];
  alignas(64) float share[kMost + kSpanPadding];
  const float* upper[kMost + kSpanPadding];
  const float* lower[kMost + kSpanPadding];

  // Asks memory for what is read: it lies anywhere, and to wait for it would take longer than all else.
  HWY_INLINE void ask(const LevelTable& levels, int from, int to) {
    for (int k = from; k < to; ++k) {
      upper[k] = levels.first[level[k]] + offset[k];
      lower[k] = upper[k] + levels.stride[level[k]];
      hwy::Prefetch(upper[k]);
      hwy::Prefetch(lower[k]);
    }
  }
};

// The first point of each pixel, in the finer level that it reads; and all others, of those pixels that have them.
using FirstReads = Reads<kLensRoom>;
struct MoreReads : Reads<kLensRoom*(2 * kMostTaps - 1)> {
  alignas(64) std::int32_t pixel[kLensRoom * (2 * kMostTaps - 1) + kSpanPadding];
  int count = 0;

  HWY_INLINE void add(const LanesPlaces& places, V x, V y, V part, hn::Mask<D> here, hn::Vec<DI> pixels) {
    V left;
    V down;
    const auto from = findPlace(D(), places, x, y, left, down);
    const KeptLanes<D> kept(here);
    kept.store(places.which, level + count);
    kept.store(from, offset + count);
    kept.store(left, tx + count);
    kept.store(down, ty + count);
    kept.store(part, share + count);
    kept.store(pixels, pixel + count);
    count += kept.count();
  }
};

// Adds pixels side by side each to its own.
template <class Some>
HWY_INLINE void addEach(Some d, hn::Vec<Some> pixels, const std::int32_t* pixel, const float* share, float* out) {
  if constexpr (hn::MaxLanes(Some()) == 4) {
    float* const to = out + std::ptrdiff_t{*pixel} * 4;
    hn::StoreU(hn::MulAdd(pixels, hn::Set(d, *share), hn::LoadU(d, to)), d, to);
  } else {
    const hn::Half<Some> half;
    constexpr int kHalf = static_cast<int>(hn::MaxLanes(half)) / 4;
    addEach(half, hn::LowerHalf(half, pixels), pixel, share, out);
    addEach(half, hn::UpperHalf(half, pixels), pixel + kHalf, share + kHalf, out);
  }
}

void readFirst(const FirstReads& reads, int channels, int from, int to, float* out) {
  const D d;
  int k = from;
  if (channels == 1) {
    for (; k < to; k += 4) {
      alignas(16) float four[4];
      fourOfField(reads.upper + k, reads.lower + k, reads.tx + k, reads.ty + k, four);
      for (int i = 0; i < std::min(4, to - k); ++i) out[k - from + i] = four[i] * reads.share[k + i];
    }
    return;
  }
  const ColoursBetween colours;
  for (; k + ColoursBetween::kAtOnce <= to; k += ColoursBetween::kAtOnce, out += std::ptrdiff_t{ColoursBetween::kAtOnce} * 4)
    hn::StoreU(hn::Mul(colours.read(reads.upper + k, reads.lower + k, reads.tx + k, reads.ty + k), colours.each(reads.share + k)), d, out);
  for (; k < to; ++k, out += 4) {
    const D4 d4;
    const auto read = betweenColours(reads.upper[k], reads.upper[k] + 4, reads.lower[k], reads.lower[k] + 4, reads.tx[k], reads.ty[k]);
    hn::StoreU(hn::Mul(read, hn::Set(d4, reads.share[k])), d4, out);
  }
}

void addMore(const MoreReads& reads, int channels, float* out) {
  const D d;
  int k = 0;
  if (channels == 1) {
    for (; k < reads.count; k += 4) {
      alignas(16) float four[4];
      fourOfField(reads.upper + k, reads.lower + k, reads.tx + k, reads.ty + k, four);
      for (int i = 0; i < std::min(4, reads.count - k); ++i) out[reads.pixel[k + i]] += four[i] * reads.share[k + i];
    }
    return;
  }
  const ColoursBetween colours;
  for (; k + ColoursBetween::kAtOnce <= reads.count; k += ColoursBetween::kAtOnce)
    addEach(d, colours.read(reads.upper + k, reads.lower + k, reads.tx + k, reads.ty + k), reads.pixel + k, reads.share + k, out);
  for (; k < reads.count; ++k)
    addEach(D4(), betweenColours(reads.upper[k], reads.upper[k] + 4, reads.lower[k], reads.lower[k] + 4, reads.tx[k], reads.ty[k]),
            reads.pixel + k, reads.share + k, out);
}

void readMixedOf(const LevelTable& levels, const CellsOfRow& cells, const LensMap::Slopes& at, int skipped, int n, float* out) {
  const D d;
  const DI di;
  FirstReads first;
  MoreReads more;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const LensCell& cell = *cells[i / kLensCellWidth];
    const PixelReads own = pixelReads(at, cell, i);
    // Each pixel reads one level, or two where it is between them.
    const auto finer = hn::Floor(hn::Add(own.level, hn::Set(d, kLevelAlone)));
    const auto which = hn::Sub(hn::ConvertTo(di, finer), hn::Set(di, LensLevels::kFinest));
    const LanesPlaces places(levels, which);
    const auto share = hn::Mul(shareOfLevel(own.level, finer), own.part);
    const auto pointAt = [&](int tap, V& x, V& y) HWY_ATTR {
      const auto along = hn::MulSub(hn::Set(d, static_cast<float>(tap) + 0.5f), own.part, hn::Set(d, 0.5f));
      x = hn::MulAdd(own.wayX, along, own.x);
      y = hn::MulAdd(own.wayY, along, own.y);
    };
    V x;
    V y;
    V tx;
    V ty;
    pointAt(0, x, y);
    hn::Store(findPlace(D(), places, x, y, tx, ty), di, first.offset + i);
    hn::Store(which, di, first.level + i);
    hn::Store(tx, d, first.tx + i);
    hn::Store(ty, d, first.ty + i);
    hn::Store(share, d, first.share + i);
    const auto pixel = countingFrom(di, i - skipped);
    const auto within = hn::RebindMask(d, hn::And(hn::Gt(pixel, hn::Set(di, -1)), hn::Lt(pixel, hn::Set(di, n - skipped))));
    for (int tap = 1; tap < cell.taps; ++tap) {
      const auto here = hn::And(within, hasTap(own.part, tap));
      if (hn::AllFalse(d, here)) break;
      pointAt(tap, x, y);
      more.add(places, x, y, share, here, pixel);
    }
    const auto coarser = hn::Add(finer, hn::Set(d, 1.0f));
    const auto rest = shareOfLevel(own.level, coarser);
    const auto there = hn::And(within, hn::Gt(rest, hn::Zero(d)));
    if (hn::AllFalse(d, there)) continue;
    const LanesPlaces next(levels, hn::Min(hn::Add(which, hn::Set(di, 1)), hn::Set(di, LensLevels::kLevels - 1)));
    for (int tap = 0; tap < cell.taps; ++tap) {
      const auto here = hn::And(there, hasTap(own.part, tap));
      if (hn::AllFalse(d, here)) break;
      pointAt(tap, x, y);
      more.add(next, x, y, hn::Mul(rest, own.part), here, pixel);
    }
  }
  first.ask(levels, skipped, n);
  more.ask(levels, 0, more.count);
  // Fields are read four at a time, whatever lies behind the last one.
  for (int k = 0; k < 3; ++k) {
    first.upper[n + k] = first.lower[n + k] = levels.first[-LensLevels::kFinest];
    more.upper[more.count + k] = more.lower[more.count + k] = levels.first[-LensLevels::kFinest];
  }
  readFirst(first, levels.channels, skipped, n, out);
  addMore(more, levels.channels, out);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(readMixedOf);

void readMixed(const LevelTable& levels, const CellsOfRow& cells, const LensMap::Slopes& at, int skipped, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(readMixedOf)(levels, cells, at, skipped, n, out);
}

}  // namespace oa
#endif
