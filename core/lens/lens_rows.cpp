#include "lens/lens_rows.h"

#include <algorithm>
#include <cstring>

#include "image/grey.h"
#include "lens/mixed_reads.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "lens/lens_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/cache_control.h>

#include "image/bilinear-inl.h"
#include "lens/lens_level-inl.h"

#ifndef OA_LENS_ROWS_ONCE
#define OA_LENS_ROWS_ONCE
namespace oa {
namespace {

// Places of a level that are worked out together.
constexpr int kSpots = 64;

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

struct Spots {
  alignas(64) std::int32_t offset[kSpots];  // floats from the plane's first
  alignas(64) float tx[kSpots + 4];
  alignas(64) float ty[kSpots + 4];
};

void findSpots(const LevelTable& levels, int at, const float* x, const float* y, int n, Spots& out) {
  const D d;
  const hn::RebindToSigned<D> di;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const LevelPlacing<D> places{hn::Set(d, levels.scale[at]), hn::Set(d, levels.shiftX[at]), hn::Set(d, levels.shiftY[at]),
                               hn::Set(d, levels.lastX[at]), hn::Set(d, levels.lastY[at]),  hn::Set(di, levels.stride[at]),
                               hn::Set(di, levels.channels)};
  const float* const first = levels.first[at];
  for (int i = 0; i < n; i += lanes) {
    hn::Vec<D> tx;
    hn::Vec<D> ty;
    hn::Store(findPlace(d, places, hn::LoadU(d, x + i), hn::LoadU(d, y + i), tx, ty), di, out.offset + i);
    hn::Store(tx, d, out.tx + i);
    hn::Store(ty, d, out.ty + i);
    // Asks memory for what is read: it lies anywhere, and to wait for it would take longer than all else.
    for (int k = i; k < i + lanes; ++k) {
      hwy::Prefetch(first + out.offset[k]);
      hwy::Prefetch(first + out.offset[k] + levels.stride[at]);
    }
  }
}

void readSpots(const float* first, std::ptrdiff_t stride, int channels, const Spots& at, int n, float* out) {
  const hn::FixedTag<float, 4> d4;
  if (channels == 1) {
    for (int k = 0; k < n; k += 4) fourOfField(first, first + stride, at.offset + k, at.tx + k, at.ty + k, out + k);
    return;
  }
  const D d;
  const ColoursBetween colours;
  int k = 0;
  for (; k + ColoursBetween::kAtOnce <= n; k += ColoursBetween::kAtOnce)
    hn::StoreU(colours.read(first, stride, at.offset + k, at.tx + k, at.ty + k), d, out + k * 4);
  for (; k < n; ++k) {
    const float* const from = first + at.offset[k];
    hn::StoreU(betweenColours(from, from + 4, from + stride, from + stride + 4, at.tx[k], at.ty[k]), d4, out + k * 4);
  }
}

// Pixels that read one point of level `at` of the table.
void readAlone(const LevelTable& levels, int at, const float* x, const float* y, int n, float* out) {
  Spots spots[2];
  findSpots(levels, at, x, y, std::min(n, kSpots), spots[0]);
  for (int i = 0, k = 0; i < n; i += kSpots, k = 1 - k) {
    if (i + kSpots < n) findSpots(levels, at, x + i + kSpots, y + i + kSpots, std::min(n - i - kSpots, kSpots), spots[1 - k]);
    readSpots(levels.first[at], levels.stride[at], levels.channels, spots[k], std::min(n - i, kSpots),
              out + std::ptrdiff_t{i} * levels.channels);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(readAlone);

namespace {

// Pixels of a block, and rows.
constexpr int kBlock = 256;
constexpr int kBlockRows = 32;

class LensRows final : public RowMaker {
 public:
  LensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view)
      : map_(std::move(map)), levels_(*map_, input, view), table_(levels_), width_(view.width), seen_(map_->seen()) {}

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
    alignas(64) float field[(kLensRun + kSpanPadding)];
    for (int x = x0; x < x1;) {
      const int begin = x;
      float* const pixels = out + static_cast<std::ptrdiff_t>(begin) * this->channels();
      float* const read = channels == this->channels() ? pixels : field;
      while (x < x1 && levels_.endOfCell(x) <= begin + kLensRun) {
        const LensCell& first = levels_.cell(x, y);
        int end = levels_.endOfCell(x);
        // Neighbours that are read in the same way are read together.
        while (end < x1 && levels_.endOfCell(end) <= begin + kLensRun && first.likeIn(levels_.cell(end, y))) end = levels_.endOfCell(end);
        end = std::min(end, x1);
        float* const to = read + (x - begin) * channels;
        if (first.plain()) {
          plain(map, first.finest, x, y, end - x, to);
        } else {
          // How the place moves is worked out for all that follow one another.
          while (end < x1 && levels_.endOfCell(end) <= begin + kLensRun && !levels_.cell(end, y).plain()) end = levels_.endOfCell(end);
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
    alignas(64) float px[kLensRun + kSpanPadding];
    alignas(64) float py[kLensRun + kSpanPadding];
    map.places(x, y, n, px, py);
    HWY_DYNAMIC_DISPATCH(readAlone)(table_, LevelTable::at(level), px, py, n, out);
  }

  void mixed(const LensMap& map, int x0, int y, int x1, float* out) const {
    alignas(64) float slopes[8][kLensRoom];
    const LensMap::Slopes at{slopes[0], slopes[1], slopes[2], slopes[3], slopes[4], slopes[5], slopes[6], slopes[7]};
    const int first = beginOfCell(x0);
    map.slopes(first, y, 1, x1 - first, at);
    CellsOfRow cells;
    int count = 0;
    for (int x = x0; x < x1; x = levels_.endOfCell(x)) cells[count++] = &levels_.cell(x, y);
    readMixed(table_, cells, at, x0 - first, x1 - first, out);
  }

  // Cells stick out of the view.
  int beginOfCell(int x) const { return levels_.endOfCell(x) - kLensCellWidth; }

  std::unique_ptr<const LensMap> map_;
  LensLevels levels_;
  LevelTable table_;
  int width_;
  PixelBox seen_;
};

}  // namespace

std::shared_ptr<const RowMaker> lensRows(std::unique_ptr<const LensMap> map, const Input& input, const PlaneView& view) {
  return std::make_shared<LensRows>(std::move(map), input, view);
}

}  // namespace oa
#endif
