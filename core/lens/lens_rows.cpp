#include "lens/lens_rows.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "image/grey.h"
#include "lens/lens_levels.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "lens/lens_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/cache_control.h>

#include "image/bilinear-inl.h"
#include "image/counting-inl.h"
#include "image/kept_lanes-inl.h"
#include "lens/lens_level-inl.h"

#ifndef OA_LENS_ROWS_ONCE
#define OA_LENS_ROWS_ONCE
namespace oa {
namespace {

// Pixels of a row that are worked on at a time, and room for as many: cells stick out on both sides.
constexpr int kRun = 256;
constexpr int kRoom = kRun + 2 * kLensCellWidth + kSpanPadding;

// Places of a level, in pixels of the view, as its pixels: those beyond it are those at its edge.
struct LevelPlaces {
  PlanePixels pixels;
  float scale = 1, shiftX = 0, shiftY = 0;
  float lastX = 0, lastY = 0;
  std::int32_t stride = 0, channels = 0;

  LevelPlaces() = default;
  explicit LevelPlaces(const LensLevel& level)
      : pixels(level.plane.pixels()),
        scale(level.scale),
        shiftX(level.shiftX),
        shiftY(level.shiftY),
        lastX(static_cast<float>(pixels.width - 1)),
        lastY(static_cast<float>(pixels.height - 1)),
        stride(static_cast<std::int32_t>(pixels.stride)),
        channels(pixels.channels) {}
};

// Cells side by side.
struct CellsOf {
  const LensCell* cells[kRoom / kLensCellWidth];
  int finest = LensLevels::kCoarsest;
  int coarsest = LensLevels::kFinest;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

// How many floats from the plane's first the upper left of four neighbours begins, and how far the place lies between them.
HWY_INLINE hn::Vec<hn::RebindToSigned<D>> findPlace(const LevelPlaces& of, hn::Vec<D> x, hn::Vec<D> y, hn::Vec<D>& tx, hn::Vec<D>& ty) {
  const D d;
  const hn::RebindToSigned<D> di;
  const auto axis = [&](hn::Vec<D> at, float shift, float last, hn::Vec<D>& rest) HWY_ATTR {
    // What is no number is read at the end: of the two the second is taken then.
    const auto held = hn::Min(hn::MulAdd(at, hn::Set(d, of.scale), hn::Set(d, shift)), hn::Set(d, last));
    const auto v = hn::Max(held, hn::Zero(d));
    const auto whole = hn::Min(hn::Floor(v), hn::Set(d, last - 1));
    rest = hn::Sub(v, whole);
    return hn::ConvertTo(di, whole);
  };
  const auto column = axis(x, of.shiftX, of.lastX, tx);
  const auto row = axis(y, of.shiftY, of.lastY, ty);
  return hn::Add(hn::Mul(row, hn::Set(di, of.stride)), hn::Mul(column, hn::Set(di, of.channels)));
}

// Asks memory for what is read: it lies anywhere, and to wait for it would take longer than all else.
HWY_INLINE void ask(const PlanePixels& pixels, const std::int32_t* offset, int n) {
  for (int k = 0; k < n; ++k) {
    hwy::Prefetch(pixels.first + offset[k]);
    hwy::Prefetch(pixels.first + offset[k] + pixels.stride);
  }
}

// Places of a level that are worked out together.
constexpr int kSpots = 64;
struct Spots {
  alignas(64) std::int32_t offset[kSpots];  // floats from the plane's first
  alignas(64) float tx[kSpots + 4];
  alignas(64) float ty[kSpots + 4];
};

void findSpots(const LevelPlaces& places, const float* x, const float* y, int n, Spots& out) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  for (int i = 0; i < n; i += lanes) {
    hn::Vec<D> tx;
    hn::Vec<D> ty;
    hn::Store(findPlace(places, hn::LoadU(d, x + i), hn::LoadU(d, y + i), tx, ty), hn::RebindToSigned<D>(), out.offset + i);
    hn::Store(tx, d, out.tx + i);
    hn::Store(ty, d, out.ty + i);
    ask(places.pixels, out.offset + i, lanes);
  }
}

void readSpots(const PlanePixels& plane, const Spots& at, int n, float* out) {
  const hn::FixedTag<float, 4> d4;
  if (plane.channels == 1) {
    for (int k = 0; k < n; k += 4) fourOfField(plane.first, plane.first + plane.stride, at.offset + k, at.tx + k, at.ty + k, out + k);
    return;
  }
  const D d;
  const ColoursBetween colours;
  int k = 0;
  for (; k + ColoursBetween::kAtOnce <= n; k += ColoursBetween::kAtOnce)
    hn::StoreU(colours.read(plane.first, plane.stride, at.offset + k, at.tx + k, at.ty + k), d, out + k * 4);
  for (; k < n; ++k) {
    const float* const from = plane.first + at.offset[k];
    hn::StoreU(betweenColours(from, from + 4, from + plane.stride, from + plane.stride + 4, at.tx[k], at.ty[k]), d4, out + k * 4);
  }
}

void readAlone(const LevelPlaces& places, const float* x, const float* y, int n, float* out) {
  Spots spots[2];
  findSpots(places, x, y, std::min(n, kSpots), spots[0]);
  for (int i = 0, k = 0; i < n; i += kSpots, k = 1 - k) {
    if (i + kSpots < n) findSpots(places, x + i + kSpots, y + i + kSpots, std::min(n - i - kSpots, kSpots), spots[1 - k]);
    readSpots(places.pixels, spots[k], std::min(n - i, kSpots), out + std::ptrdiff_t{i} * places.pixels.channels);
  }
}

// How the pixels of a vector are read.
struct PixelReads {
  hn::Vec<D> x, y;
  hn::Vec<D> level;       // in which the shorter side of what each shows, or the piece of the longer one for one point, is about one pixel
  hn::Vec<D> part;        // of it that each of its points is
  hn::Vec<D> wayX, wayY;  // how far the place moves within the pixel along its longer side, where its points lie
  int finest, coarsest;   // levels of any
  int taps;               // the most points of any
};

HWY_INLINE PixelReads pixelReads(const LensMap::Slopes& at, const LensCell& cell, int i) {
  const D d;
  const auto one = hn::Set(d, 1.0f);
  PixelReads r;
  r.x = hn::LoadU(d, at.x + i);
  r.y = hn::LoadU(d, at.y + i);
  r.part = one;
  r.wayX = r.wayY = hn::Zero(d);
  r.taps = 1;
  const auto most = hn::LoadU(d, at.most + i);
  const auto piece = hn::Set(d, 1 / static_cast<float>(cell.taps));
  const auto size = sizeRead(d, most, hn::LoadU(d, at.least + i), piece);
  r.level = levelOfSize(d, size, hn::Set(d, static_cast<float>(cell.finest)), hn::Set(d, static_cast<float>(cell.coarsest)));
  const float alone = 1 - kLevelAlone;
  r.finest = static_cast<int>(std::ceil(hn::GetLane(hn::MinOfLanes(d, r.level)) - alone));
  r.coarsest = static_cast<int>(std::floor(hn::GetLane(hn::MaxOfLanes(d, r.level)) + alone));
  if (cell.taps == 1) return r;
  // As many points as lie little more than a pixel of the level apart: one, two or four, and no more than the cell has.
  const auto pieces = [&](float count) HWY_ATTR { return hn::Gt(most, hn::Mul(size, hn::Set(d, 1.2f * count))); };
  const auto own = hn::Max(hn::IfThenElse(pieces(2), hn::Set(d, 0.25f), hn::IfThenElse(pieces(1), hn::Set(d, 0.5f), one)), piece);
  r.taps = static_cast<int>(1 / hn::GetLane(hn::MinOfLanes(d, own)));
  if (r.taps == 1) return r;
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
  const auto inverse = hn::Div(one, hn::Max(hn::Sqrt(hn::MulAdd(x, x, hn::Mul(y, y))), hn::Set(d, 1e-30f)));
  r.wayX = hn::Mul(hn::MulAdd(xx, x, hn::Mul(xy, y)), inverse);
  r.wayY = hn::Mul(hn::MulAdd(yx, x, hn::Mul(yy, y)), inverse);
  return r;
}

// The share that level `k` has of each pixel.
HWY_INLINE hn::Vec<D> shareOfLevel(hn::Vec<D> level, int k) {
  const D d;
  const auto off = hn::Abs(hn::Sub(level, hn::Set(d, static_cast<float>(k))));
  const auto less = hn::Mul(hn::Sub(off, hn::Set(d, kLevelAlone)), hn::Set(d, 1 / (1 - 2 * kLevelAlone)));
  return hn::Sub(hn::Set(d, 1.0f), hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), less)));
}

// Pixels whose places are found before any of them is read.
constexpr int kMixed = kRun;

// What is read of a level, and whose share it is: only of pixels that have one.
struct Reads {
  static constexpr int kMost = kMixed * kMostTaps + kSpanPadding;
  alignas(64) std::int32_t offset[kMost];
  alignas(64) float tx[kMost];
  alignas(64) float ty[kMost];
  alignas(64) float share[kMost];
  alignas(64) std::int32_t pixel[kMost];
  int count;
};

// Adds point `tap` of those pixels that are there and have so many.
HWY_INLINE void findReads(const LevelPlaces& places, const PixelReads& at, hn::Vec<D> ofLevel, hn::Mask<D> there, int tap,
                          hn::Vec<hn::RebindToSigned<D>> pixel, Reads& out) {
  const D d;
  const auto here = hn::And(there, hn::Lt(hn::Mul(at.part, hn::Set(d, static_cast<float>(tap))), hn::Set(d, 1.0f)));
  if (hn::AllFalse(d, here)) return;
  const auto along = hn::MulSub(hn::Set(d, static_cast<float>(tap) + 0.5f), at.part, hn::Set(d, 0.5f));
  hn::Vec<D> tx;
  hn::Vec<D> ty;
  const auto offset = findPlace(places, hn::MulAdd(at.wayX, along, at.x), hn::MulAdd(at.wayY, along, at.y), tx, ty);
  const int first = out.count;
  const KeptLanes<D> kept(here);
  out.count = first + kept.count();
  kept.store(offset, out.offset + first);
  kept.store(tx, out.tx + first);
  kept.store(ty, out.ty + first);
  kept.store(hn::Mul(ofLevel, at.part), out.share + first);
  kept.store(pixel, out.pixel + first);
}

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

void addReads(const PlanePixels& plane, Reads& reads, float* out) {
  int k = 0;
  if (plane.channels == 1) {
    // Four are read at a time, whatever lies behind the last one.
    std::fill_n(reads.offset + reads.count, 3, 0);
    for (; k < reads.count; k += 4) {
      alignas(16) float four[4];
      fourOfField(plane.first, plane.first + plane.stride, reads.offset + k, reads.tx + k, reads.ty + k, four);
      for (int i = 0; i < std::min(4, reads.count - k); ++i) out[reads.pixel[k + i]] += four[i] * reads.share[k + i];
    }
    return;
  }
  const D d;
  const hn::FixedTag<float, 4> d4;
  const ColoursBetween colours;
  for (; k + ColoursBetween::kAtOnce <= reads.count; k += ColoursBetween::kAtOnce)
    addEach(d, colours.read(plane.first, plane.stride, reads.offset + k, reads.tx + k, reads.ty + k), reads.pixel + k, reads.share + k,
            out);
  for (; k < reads.count; ++k) {
    const float* const from = plane.first + reads.offset[k];
    addEach(d4, betweenColours(from, from + 4, from + plane.stride, from + plane.stride + 4, reads.tx[k], reads.ty[k]), reads.pixel + k,
            reads.share + k, out);
  }
}

// Pixels [skipped, n) of a row of whole cells that read several levels, or several points of each pixel.
void readMixed(const LensLevels& levels, const LevelPlaces* allPlaces, const CellsOf& of, const LensMap::Slopes& at, int skipped, int n,
               float* out) {
  const D d;
  const hn::RebindToSigned<D> di;
  const LevelPlaces* const places = allPlaces - LensLevels::kFinest;
  std::memset(out, 0, sizeof(float) * static_cast<std::size_t>((n - skipped) * levels.channels()));
  Reads allReads[LensLevels::kLevels];
  Reads* const reads = allReads - LensLevels::kFinest;
  for (int begin = 0; begin < n; begin += kMixed) {
    const int end = std::min(n, begin + kMixed);
    for (int k = of.finest; k <= of.coarsest; ++k) reads[k].count = 0;
    for (int i = begin; i < end; i += static_cast<int>(hn::Lanes(d))) {
      const LensCell& cell = *of.cells[i / kLensCellWidth];
      const PixelReads own = pixelReads(at, cell, i);
      const auto pixel = countingFrom(di, i - skipped);
      const auto within = hn::And(hn::Gt(pixel, hn::Set(di, -1)), hn::Lt(pixel, hn::Set(di, end - skipped)));
      for (int k = std::max(own.finest, cell.finest); k <= std::min(own.coarsest, cell.coarsest); ++k) {
        const auto share = shareOfLevel(own.level, k);
        const auto there = hn::And(hn::RebindMask(d, within), hn::Gt(share, hn::Zero(d)));
        for (int tap = 0; tap < own.taps; ++tap) findReads(places[k], own, share, there, tap, pixel, reads[k]);
      }
    }
    for (int k = of.finest; k <= of.coarsest; ++k) ask(places[k].pixels, reads[k].offset, reads[k].count);
    for (int k = of.finest; k <= of.coarsest; ++k) addReads(places[k].pixels, reads[k], out);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(readAlone);
HWY_EXPORT(readMixed);

namespace {

// Pixels of a block, and rows.
constexpr int kBlock = 256;
constexpr int kBlockRows = 32;

class LensRows final : public RowMaker {
 public:
  LensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view)
      : map_(std::move(map)), levels_(*map_, input, view), width_(view.width), seen_(map_->seen()) {
    for (int k = 0; k < LensLevels::kLevels; ++k) places_[k] = LevelPlaces(levels_.level(k + LensLevels::kFinest));
  }

  [[nodiscard]] int channels() const override { return map_->lights() == LensMap::Light::Pictures ? 4 : levels_.channels(); }
  [[nodiscard]] bool opaque() const override { return levels_.opaque() && map_->keepsOpaque(); }

  [[nodiscard]] PixelBox bounds() const override { return seen_; }

  // In blocks of cells, one row of a block after the other: what they show lies close together, whichever way it is turned.
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const PixelBox box = seen_.within({0, y0, width_, y1});
    const auto nothing = [&](int y, int from, int end) {
      if (from < end)
        std::memset(out + (y - y0) * stride + static_cast<std::ptrdiff_t>(from) * channels(), 0,
                    sizeof(float) * static_cast<std::size_t>((end - from) * channels()));
    };
    for (int y = y0; y < y1; ++y) {
      const bool within = !box.empty() && y >= box.y0 && y < box.y1;
      nothing(y, 0, within ? box.x0 : width_);
      nothing(y, within ? box.x1 : width_, width_);
    }
    if (box.empty()) return;
    for (int top = box.y0; top < box.y1; top += kBlockRows) {
      const int bottom = std::min(box.y1, top + kBlockRows);
      for (int x = box.x0; x < box.x1;) {
        const int end = std::min(box.x1, levels_.endOfCell(x + kBlock - kLensCellWidth));
        const auto near = map_->within({beginOfCell(x), top, levels_.endOfCell(end - 1), bottom});
        for (int y = top; y < bottom; ++y) row(near ? *near : *map_, y, x, end, out + (y - y0) * stride);
        x = end;
      }
    }
  }

 private:
  void row(const LensMap& map, int y, int x0, int x1, float* out) const {
    const int channels = levels_.channels();
    alignas(64) float field[(kRun + kSpanPadding)];
    for (int x = x0; x < x1;) {
      const int begin = x;
      float* const pixels = out + static_cast<std::ptrdiff_t>(begin) * this->channels();
      float* const read = channels == this->channels() ? pixels : field;
      while (x < x1 && levels_.endOfCell(x) <= begin + kRun) {
        const LensCell& first = levels_.cell(x, y);
        int end = levels_.endOfCell(x);
        // Neighbours that are read in the same way are read together.
        while (end < x1 && levels_.endOfCell(end) <= begin + kRun && first.likeIn(levels_.cell(end, y))) end = levels_.endOfCell(end);
        end = std::min(end, x1);
        float* const to = read + (x - begin) * channels;
        if (first.plain()) {
          plain(map, first.finest, x, y, end - x, to);
        } else {
          // How the place moves is worked out for all that follow one another.
          while (end < x1 && levels_.endOfCell(end) <= begin + kRun && !levels_.cell(end, y).plain()) end = levels_.endOfCell(end);
          end = std::min(end, x1);
          mixed(map, x, y, end, to);
        }
        x = end;
      }
      if (map.lights() == LensMap::Light::None) continue;
      if (read == field) greyToRgba(read, x - begin, pixels);
      map.light(begin, y, x - begin, this->channels(), pixels);
    }
  }

  void plain(const LensMap& map, int level, int x, int y, int n, float* out) const {
    alignas(64) float px[kRun + kSpanPadding];
    alignas(64) float py[kRun + kSpanPadding];
    map.places(x, y, n, px, py);
    HWY_DYNAMIC_DISPATCH(readAlone)(places_[level - LensLevels::kFinest], px, py, n, out);
  }

  void mixed(const LensMap& map, int x0, int y, int x1, float* out) const {
    alignas(64) float slopes[8][kRoom];
    const LensMap::Slopes at{slopes[0], slopes[1], slopes[2], slopes[3], slopes[4], slopes[5], slopes[6], slopes[7]};
    const int first = beginOfCell(x0);
    map.slopes(first, y, 1, x1 - first, at);
    CellsOf of;
    int count = 0;
    for (int x = x0; x < x1; x = levels_.endOfCell(x)) {
      const LensCell& cell = levels_.cell(x, y);
      of.cells[count++] = &cell;
      of.finest = std::min(of.finest, cell.finest);
      of.coarsest = std::max(of.coarsest, cell.coarsest);
    }
    HWY_DYNAMIC_DISPATCH(readMixed)(levels_, places_, of, at, x0 - first, x1 - first, out);
  }

  // Cells stick out of the view.
  int beginOfCell(int x) const { return levels_.endOfCell(x) - kLensCellWidth; }

  std::unique_ptr<const LensMap> map_;
  LensLevels levels_;
  LevelPlaces places_[LensLevels::kLevels];
  int width_;
  PixelBox seen_;
};

}  // namespace

std::shared_ptr<const RowMaker> lensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view) {
  return std::make_shared<LensRows>(std::move(map), input, view);
}

}  // namespace oa
#endif
