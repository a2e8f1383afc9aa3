#include "lens/cell_reads.h"

#include <algorithm>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "lens/cell_reads.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "lens/lens_level-inl.h"

#ifndef OA_CELL_READS_ONCE
#define OA_CELL_READS_ONCE
namespace oa {
namespace {

// The least and the greatest of what is read of a level, lane by lane.
struct Bounds {
  alignas(64) float left[kLensCellWidth];
  alignas(64) float top[kLensCellWidth];
  alignas(64) float right[kLensCellWidth];
  alignas(64) float bottom[kLensCellWidth];
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

// Adds a row of a cell, whose first pixel is the one at `begin`; `used` has a bit for each of the levels there are bounds of, counted from
// the finest.
void addRow(const LensMap::Slopes& at, int begin, LensCell& cell, Bounds* bounds, unsigned& used) {
  const D d;
  const auto one = hn::Set(d, 1.0f);
  const auto far = hn::Set(d, static_cast<float>(kFarthestRead));
  for (int i = 0; i < kLensCellWidth; i += static_cast<int>(hn::Lanes(d))) {
    const auto most = hn::LoadU(d, at.most + begin + i);
    const auto least = hn::LoadU(d, at.least + begin + i);
    const auto size = sizeRead(d, most, least, hn::Set(d, 1 / static_cast<float>(cell.taps)));
    const auto level = levelOfSize(d, size, hn::Set(d, LensLevels::kFinest), hn::Set(d, LensLevels::kCoarsest));
    const auto finer = hn::Floor(level);
    const auto lowest = static_cast<int>(hn::GetLane(hn::MinOfLanes(d, finer)));
    const auto highest = static_cast<int>(hn::GetLane(hn::MaxOfLanes(d, finer)));
    cell.finest = std::min(cell.finest, lowest);
    cell.coarsest = std::max(cell.coarsest, std::min(highest + 1, LensLevels::kCoarsest));
    const auto placeX = hn::LoadU(d, at.x + begin + i);
    const auto placeY = hn::LoadU(d, at.y + begin + i);
    const auto number = hn::And(hn::Eq(placeX, placeX), hn::Eq(placeY, placeY));
    const auto x = hn::Max(hn::Min(placeX, far), hn::Neg(far));
    const auto y = hn::Max(hn::Min(placeY, far), hn::Neg(far));
    const auto half = hn::Min(far, hn::MulAdd(most, hn::Set(d, 0.5f), one));
    for (int k = lowest; k <= std::min(highest + 1, LensLevels::kCoarsest); ++k) {
      // A level is read by pixels of its own and of the next finer one.
      const auto own = hn::Set(d, static_cast<float>(k));
      const auto here = hn::And(number, hn::Or(hn::Eq(finer, own), hn::Eq(hn::Add(finer, one), own)));
      const int which = k - LensLevels::kFinest;
      Bounds& b = bounds[which];
      if ((used >> which & 1U) == 0) {
        used |= 1U << which;
        std::fill_n(b.left, kLensCellWidth, 1e30f);
        std::fill_n(b.top, kLensCellWidth, 1e30f);
        std::fill_n(b.right, kLensCellWidth, -1e30f);
        std::fill_n(b.bottom, kLensCellWidth, -1e30f);
      }
      const auto low = [&](float* to, hn::Vec<D> v) HWY_ATTR {
        const auto had = hn::Load(d, to + i);
        hn::Store(hn::IfThenElse(here, hn::Min(had, v), had), d, to + i);
      };
      const auto high = [&](float* to, hn::Vec<D> v) HWY_ATTR {
        const auto had = hn::Load(d, to + i);
        hn::Store(hn::IfThenElse(here, hn::Max(had, v), had), d, to + i);
      };
      low(b.left, hn::Sub(x, half));
      low(b.top, hn::Sub(y, half));
      high(b.right, hn::Add(x, half));
      high(b.bottom, hn::Add(y, half));
    }
  }
}

void addCells(const LensMap::Slopes& at, LensCell* cells, int count, Bounds* bounds, unsigned& used) {
  for (int c = 0; c < count; ++c) addRow(at, c * kLensCellWidth, cells[c], bounds, used);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(addCells);

void everyPixel(const LensMap& map, int x0, int y0, LensCell* cells, int count, LensRegion* regions) {
  constexpr int kRoom = kCellsAtOnce * kLensCellWidth + kSpanPadding;
  alignas(64) float slopes[8][kRoom];
  const LensMap::Slopes at{slopes[0], slopes[1], slopes[2], slopes[3], slopes[4], slopes[5], slopes[6], slopes[7]};
  Bounds bounds[LensLevels::kLevels];
  unsigned used = 0;
  for (int c = 0; c < count; ++c) {
    cells[c].finest = LensLevels::kCoarsest;
    cells[c].coarsest = LensLevels::kFinest;
  }
  const PixelBox seen = map.seen();
  const auto near = map.within({x0, y0, x0 + count * kLensCellWidth, y0 + kLensCellHeight});
  for (int y = std::max(y0, seen.y0); y < std::min(y0 + kLensCellHeight, seen.y1); ++y) {
    (near ? *near : map).slopes(x0, y, 1, count * kLensCellWidth, at);
    HWY_DYNAMIC_DISPATCH(addCells)(at, cells, count, bounds, used);
  }
  for (int k = 0; k < LensLevels::kLevels; ++k) {
    if ((used >> k & 1U) == 0) continue;
    const Bounds& b = bounds[k];
    regions[k].add({static_cast<double>(*std::min_element(std::begin(b.left), std::end(b.left))),
                    static_cast<double>(*std::min_element(std::begin(b.top), std::end(b.top))),
                    static_cast<double>(*std::max_element(std::begin(b.right), std::end(b.right))),
                    static_cast<double>(*std::max_element(std::begin(b.bottom), std::end(b.bottom)))});
  }
}

}  // namespace oa
#endif
