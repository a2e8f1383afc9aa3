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
#include "lens/lens_level-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

// How each of a cell's pixels is read: the level in which the shorter side of what it shows, or the piece of the longer one that one
// point stands for, is about one pixel; how many points of it are read, no more than the cell has; and how far the place moves within the
// pixel along its longer side, where its points lie. Returns the most points of any.
int cellLevels(const LensMap::Slopes& at, const LensCell& cell, float* level, float* points, float* wayX, float* wayY) {
  const D d;
  const auto one = hn::Set(d, 1.0f);
  auto many = one;
  for (int i = 0; i < kLensCellWidth; i += static_cast<int>(hn::Lanes(d))) {
    const auto most = hn::LoadU(d, at.most + i);
    const auto least = hn::LoadU(d, at.least + i);
    const auto size = sizeRead(d, most, least, cell.taps);
    hn::StoreU(levelOfSize(d, size, cell.finest, cell.coarsest), d, level + i);
    if (cell.taps == 1) continue;
    // As many points as lie little more than a pixel of the level apart.
    const auto pieces = [&](float count) HWY_ATTR { return hn::Gt(most, hn::Mul(size, hn::Set(d, 1.2f * count))); };
    const auto own = hn::Min(hn::IfThenElse(pieces(2), hn::Set(d, 4.0f), hn::IfThenElse(pieces(1), hn::Set(d, 2.0f), one)),
                             hn::Set(d, static_cast<float>(cell.taps)));
    many = hn::Max(many, own);
    hn::StoreU(own, d, points + i);
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
    const auto length = hn::Max(hn::Sqrt(hn::MulAdd(x, x, hn::Mul(y, y))), hn::Set(d, 1e-30f));
    hn::StoreU(hn::Div(hn::MulAdd(xx, x, hn::Mul(xy, y)), length), d, wayX + i);
    hn::StoreU(hn::Div(hn::MulAdd(yx, x, hn::Mul(yy, y)), length), d, wayY + i);
  }
  return static_cast<int>(hn::GetLane(hn::MaxOfLanes(d, many)));
}

// Point `tap` of each pixel that has so many: where it lies, and the share of the pixel that it is; 0 where there are fewer.
void cellPoint(const LensMap::Slopes& at, const float* points, const float* wayX, const float* wayY, int tap, float* x, float* y,
               float* share) {
  const D d;
  const auto half = hn::Set(d, 0.5f);
  for (int i = 0; i < kLensCellWidth; i += static_cast<int>(hn::Lanes(d))) {
    const auto count = hn::LoadU(d, points + i);
    const auto there = hn::Gt(count, hn::Set(d, static_cast<float>(tap)));
    // One, two or four.
    const auto part = hn::Div(hn::Set(d, 1.0f), count);
    const auto along = hn::MulSub(hn::Set(d, static_cast<float>(tap) + 0.5f), part, half);
    hn::StoreU(hn::MulAdd(hn::LoadU(d, wayX + i), along, hn::LoadU(d, at.x + i)), d, x + i);
    hn::StoreU(hn::MulAdd(hn::LoadU(d, wayY + i), along, hn::LoadU(d, at.y + i)), d, y + i);
    hn::StoreU(hn::IfThenElseZero(there, part), d, share + i);
  }
}

// The share that level `k` has of each pixel; false if it has none at all.
bool shareOfLevel(const float* level, int k, float* share) {
  const D d;
  auto any = hn::Zero(d);
  for (int i = 0; i < kLensCellWidth; i += static_cast<int>(hn::Lanes(d))) {
    const auto off = hn::Abs(hn::Sub(hn::LoadU(d, level + i), hn::Set(d, static_cast<float>(k))));
    const auto less = hn::Mul(hn::Sub(off, hn::Set(d, kLevelAlone)), hn::Set(d, 1 / (1 - 2 * kLevelAlone)));
    const auto own = hn::Sub(hn::Set(d, 1.0f), hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), less)));
    any = hn::Max(any, own);
    hn::StoreU(own, d, share + i);
  }
  return !hn::AllTrue(d, hn::Eq(any, hn::Zero(d)));
}

// Places of a level that are worked out together.
constexpr int kSpots = 64;
struct Spots {
  alignas(64) std::int32_t offset[kSpots];  // floats from the plane's first
  alignas(64) float tx[kSpots + 4];
  alignas(64) float ty[kSpots + 4];
};

// `n` places, in pixels of the view; those beyond the level are those at its edge. With kAsk what they read is asked of memory: it lies
// anywhere, and to wait for it would take longer than all else.
template <bool kAsk>
void findSpots(const LensLevel& level, const float* x, const float* y, int n, Spots& out) {
  const D d;
  const hn::RebindToSigned<D> di;
  const PlanePixels& plane = level.plane.pixels();
  const auto scale = hn::Set(d, level.scale);
  const auto stride = hn::Set(di, static_cast<std::int32_t>(plane.stride));
  const auto channels = hn::Set(di, plane.channels);
  const auto lanes = static_cast<int>(hn::Lanes(d));
  for (int i = 0; i < n; i += lanes) {
    const auto axis = [&](const float* at, float shift, int size, float* rest) HWY_ATTR {
      const auto last = hn::Set(d, static_cast<float>(size - 1));
      // What is no number is read at the end: of the two the second is taken then.
      const auto v = hn::Max(hn::Min(hn::MulAdd(hn::LoadU(d, at + i), scale, hn::Set(d, shift)), last), hn::Zero(d));
      const auto whole = hn::Min(hn::Floor(v), hn::Set(d, static_cast<float>(size - 2)));
      hn::Store(hn::Sub(v, whole), d, rest + i);
      return hn::ConvertTo(di, whole);
    };
    const auto column = axis(x, level.shiftX, plane.width, out.tx);
    const auto row = axis(y, level.shiftY, plane.height, out.ty);
    hn::Store(hn::Add(hn::Mul(row, stride), hn::Mul(column, channels)), di, out.offset + i);
    for (int k = i; kAsk && k < i + lanes; ++k) {
      hwy::Prefetch(plane.first + out.offset[k]);
      hwy::Prefetch(plane.first + out.offset[k] + plane.stride);
    }
  }
}

// With shares what is read is added to `out`, by its share.
template <bool kShares>
void readSpots(const LensLevel& level, const Spots& at, const float* share, int n, float* out) {
  const PlanePixels& plane = level.plane.pixels();
  const hn::FixedTag<float, 4> d4;
  if (plane.channels == 1) {
    for (int k = 0; k < n; k += 4) {
      alignas(16) float four[4];
      fourOfField(plane.first, plane.first + plane.stride, at.offset + k, at.tx + k, at.ty + k, four);
      const auto read = hn::Load(d4, four);
      hn::StoreU(kShares ? hn::MulAdd(read, hn::LoadU(d4, share + k), hn::LoadU(d4, out + k)) : read, d4, out + k);
    }
    return;
  }
  const D d;
  const ColoursBetween colours;
  int k = 0;
  for (; k + ColoursBetween::kAtOnce <= n; k += ColoursBetween::kAtOnce) {
    const auto of = kShares ? colours.each(share + k) : hn::Zero(d);
    if (kShares && hn::AllTrue(d, hn::Eq(of, hn::Zero(d)))) continue;
    const auto read = colours.read(plane.first, plane.stride, at.offset + k, at.tx + k, at.ty + k);
    float* const to = out + k * 4;
    hn::StoreU(kShares ? hn::MulAdd(read, of, hn::LoadU(d, to)) : read, d, to);
  }
  for (; k < n; ++k) {
    const float* const from = plane.first + at.offset[k];
    const auto read = betweenColours(from, from + 4, from + plane.stride, from + plane.stride + 4, at.tx[k], at.ty[k]);
    float* const to = out + k * 4;
    hn::StoreU(kShares ? hn::MulAdd(read, hn::Set(d4, share[k]), hn::LoadU(d4, to)) : read, d4, to);
  }
}

void readAlone(const LensLevel& level, const float* x, const float* y, int n, float* out) {
  const std::ptrdiff_t channels = level.plane.pixels().channels;
  Spots spots[2];
  findSpots<true>(level, x, y, std::min(n, kSpots), spots[0]);
  for (int i = 0, k = 0; i < n; i += kSpots, k = 1 - k) {
    if (i + kSpots < n) findSpots<true>(level, x + i + kSpots, y + i + kSpots, std::min(n - i - kSpots, kSpots), spots[1 - k]);
    readSpots<false>(level, spots[k], nullptr, std::min(n - i, kSpots), out + i * channels);
  }
}

// The first `n` pixels of a row of a cell: several levels, or several points of each pixel. `out` has room for all of the row.
void readCell(const LensLevels& levels, const LensCell& cell, const LensMap::Slopes& at, int n, float* out) {
  const D d;
  constexpr int kMost = kLensCellWidth + kSpanPadding;
  alignas(64) float level[kMost];
  alignas(64) float points[kMost];
  alignas(64) float ofLevel[kMost];
  alignas(64) float share[kMost];
  alignas(64) float wayX[kMost];
  alignas(64) float wayY[kMost];
  alignas(64) float px[kMostTaps][kMost];
  alignas(64) float py[kMostTaps][kMost];
  alignas(64) float part[kMostTaps][kMost];
  alignas(64) float sum[kMost * 4] = {};
  const int taps = cellLevels(at, cell, level, points, wayX, wayY);
  for (int tap = 0; taps > 1 && tap < taps; ++tap) cellPoint(at, points, wayX, wayY, tap, px[tap], py[tap], part[tap]);
  for (int k = cell.finest; k <= cell.coarsest; ++k) {
    if (!shareOfLevel(level, k, ofLevel)) continue;
    const LensLevel& from = levels.level(k);
    Spots spots[kMostTaps];
    for (int tap = 0; tap < taps; ++tap)
      findSpots<false>(from, taps == 1 ? at.x : px[tap], taps == 1 ? at.y : py[tap], kLensCellWidth, spots[tap]);
    for (int tap = 0; tap < taps; ++tap) {
      const float* const own = taps == 1 ? ofLevel : share;
      for (int i = 0; taps > 1 && i < kLensCellWidth; i += static_cast<int>(hn::Lanes(d)))
        hn::StoreU(hn::Mul(hn::LoadU(d, ofLevel + i), hn::LoadU(d, part[tap] + i)), d, share + i);
      readSpots<true>(from, spots[tap], own, n, sum);
    }
  }
  std::memcpy(out, sum, sizeof(float) * static_cast<std::size_t>(n * levels.channels()));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(readAlone);
HWY_EXPORT(readCell);

namespace {

// Pixels that are worked on at a time.
constexpr int kRun = 256;
constexpr int kBlock = 128;

class LensRows final : public RowMaker {
 public:
  LensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view)
      : map_(std::move(map)), levels_(*map_, input, view), width_(view.width), seen_(map_->seen()) {}

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
    for (int x = box.x0; x < box.x1;) {
      const int end = std::min(box.x1, levels_.endOfCell(x + kBlock - kLensCellWidth));
      for (int y = box.y0; y < box.y1; ++y) row(y, x, end, out + (y - y0) * stride);
      x = end;
    }
  }

 private:
  void row(int y, int x0, int x1, float* out) const {
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
          plain(first.finest, x, y, end - x, to);
        } else {
          // How the place moves is worked out for all that follow one another.
          while (end < x1 && levels_.endOfCell(end) <= begin + kRun && !levels_.cell(end, y).plain()) end = levels_.endOfCell(end);
          end = std::min(end, x1);
          mixed(x, y, end, to);
        }
        x = end;
      }
      if (map_->lights() == LensMap::Light::None) continue;
      if (read == field) greyToRgba(read, x - begin, pixels);
      map_->light(begin, y, x - begin, this->channels(), pixels);
    }
  }

  void plain(int level, int x, int y, int n, float* out) const {
    alignas(64) float px[kRun + kSpanPadding];
    alignas(64) float py[kRun + kSpanPadding];
    map_->places(x, y, n, px, py);
    HWY_DYNAMIC_DISPATCH(readAlone)(levels_.level(level), px, py, n, out);
  }

  void mixed(int x0, int y, int x1, float* out) const {
    // A first cell may begin before the view, and a last one end behind it.
    constexpr int kRoom = kRun + 2 * kLensCellWidth + kSpanPadding;
    alignas(64) float slopes[8][kRoom];
    const int count = levels_.endOfCell(x1 - 1) - x0;
    map_->slopes(x0, y, 1, count, {slopes[0], slopes[1], slopes[2], slopes[3], slopes[4], slopes[5], slopes[6], slopes[7]});
    // What a narrow first cell reads behind the last one is nothing new.
    for (auto& each : slopes) std::fill_n(each + count, kLensCellWidth, each[count - 1]);
    for (int x = x0; x < x1;) {
      const int end = std::min(x1, levels_.endOfCell(x));
      float* at[8];
      for (int k = 0; k < 8; ++k) at[k] = slopes[k] + (x - x0);
      HWY_DYNAMIC_DISPATCH(readCell)
      (levels_, levels_.cell(x, y), {at[0], at[1], at[2], at[3], at[4], at[5], at[6], at[7]}, end - x,
       out + static_cast<std::ptrdiff_t>(x - x0) * levels_.channels());
      x = end;
    }
  }

  std::unique_ptr<const LensMap> map_;
  LensLevels levels_;
  int width_;
  PixelBox seen_;
};

}  // namespace

std::shared_ptr<const RowMaker> lensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view) {
  return std::make_shared<LensRows>(std::move(map), input, view);
}

}  // namespace oa
#endif
