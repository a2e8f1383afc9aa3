#include "lens/lens_levels.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "base/numbers.h"
#include "base/parallel.h"
#include "lens/cell_reads.h"
#include "lens/rough_log.h"

namespace oa {
namespace {

// Samples of the map at the corners of the cells.
struct Corners {
  int columns;
  int rows;
  std::ptrdiff_t stride;
  FloatBuffer room;
  LensMap::Slopes of(int row) {
    float* const first = room.data() + row * stride * 8;
    return {first,
            first + stride,
            first + stride * 2,
            first + stride * 3,
            first + stride * 4,
            first + stride * 5,
            first + stride * 6,
            first + stride * 7};
  }
  Corners(int across, int down)
      : columns(across + 1), rows(down + 1), stride(paddedRow(across + 1, 1)), room(static_cast<std::size_t>(stride * 8 * (down + 1))) {}
};

double pixelsOf(const LensRegion& region, double scale) {
  return region.empty() ? 0 : ((region.right - region.left) * scale + 4) * ((region.bottom - region.top) * scale + 4);
}

int tapsFor(float most, float least, int points) {
  const float longer = most / std::max(1.0f, least);
  return std::min(longer < 2 ? 1 : longer < 4 ? 2 : kMostTaps, points);
}

// Upright views begin so many pixels behind a multiple of `step`, counted from the plane's own beginning.
int pixelsBefore(const PlaneView& view, double begin, int step) {
  return view.upright() ? static_cast<int>(floorMod(std::lround(std::clamp(begin * view.scale, -1e9, 1e9)), step)) : 0;
}

// How far the pixels of a cell lie from one of its corners, where the place moves so far from column to column and from row to row.
double reach(float across, float down) {
  return std::min(kFarthestRead, std::abs(static_cast<double>(across)) * (kLensCellWidth + 1) +
                                     std::abs(static_cast<double>(down)) * (kLensCellHeight + 1));
}

// How fine a picture is read where the place moves so far from pixel to pixel.
float levelFor(float most, float least, int taps) {
  // Only what is enlarged both ways shows more where it is finer.
  const float wide = most < 1 ? most : std::max({1.0f, least, most / static_cast<float>(taps)});
  return std::clamp(roughLog2(std::max(wide, 1e-3f)), static_cast<float>(LensLevels::kFinest), static_cast<float>(LensLevels::kCoarsest));
}

}  // namespace

LensLevels::LensLevels(const LensMap& map, const Input& input, const PlaneView& view)
    : overX_(pixelsBefore(view, view.left, kLensCellWidth)),
      overY_(pixelsBefore(view, view.top, kLensCellHeight)),
      columns_((view.width + overX_ + kLensCellWidth - 1) / kLensCellWidth) {
  const int rows = (view.height + overY_ + kLensCellHeight - 1) / kLensCellHeight;
  cells_.resize(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows));
  Corners corners(columns_, rows);
  const PixelBox seen = map.seen();
  parallelBands(
      corners.rows,
      [&](int from, int to) {
        for (int r = from; r < to; ++r) {
          const int y = r * kLensCellHeight - overY_;
          const auto near = map.within({-overX_, y, columns_ * kLensCellWidth - overX_ + 1, y + 1});
          (near ? *near : map).slopes(-overX_, y, kLensCellWidth, corners.columns, corners.of(r));
        }
      },
      2);
  // A cell reads what lies round its corners, as far as the map goes on as it does there: where it is broken within a cell, each side
  // goes as far as the break.
  std::vector<LensRegion> regions(static_cast<std::size_t>(rows) * kLevels);
  parallelBands(
      rows,
      [&](int from, int to) {
        for (int r = from; r < to; ++r) {
          const LensMap::Slopes ends[2] = {corners.of(r), corners.of(r + 1)};
          const int y = r * kLensCellHeight - overY_;
          LensCell* const row = cells_.data() + static_cast<std::ptrdiff_t>(r) * columns_;
          LensRegion* const own = regions.data() + static_cast<std::ptrdiff_t>(r) * kLevels;
          std::unique_ptr<const LensMap> near;
          int unspoken = 0;  // cells before this one for which no corner speaks
          const auto lookAt = [&](int end) {
            if (unspoken == 0) return;
            if (!near) near = map.within({-overX_, y, columns_ * kLensCellWidth - overX_, y + kLensCellHeight});
            const int first = end - std::exchange(unspoken, 0);
            everyPixel(near ? *near : map, first * kLensCellWidth - overX_, y, row + first, end - first, own);
          };
          for (int c = 0; c < columns_; ++c) {
            const int x = c * kLensCellWidth - overX_;
            if (unspoken == kCellsAtOnce) lookAt(c);
            if (PixelBox{x, y, x + kLensCellWidth, y + kLensCellHeight}.within(seen).empty()) {
              lookAt(c);
              continue;
            }
            LensCell& cell = row[c];
            float most = 0;
            float least = 1e30f;
            for (int k = 0; k < 4; ++k) {
              const float here = ends[k / 2].most[c + k % 2];
              most = std::max(most, here);
              least = std::min(least, ends[k / 2].least[c + k % 2]);
            }
            cell.taps = tapsFor(most, least, map.points());
            // As where nothing is moved: the level as fine as the view alone.
            const bool even = most == 1 && least == 1;
            cell.finest = even ? 0 : kCoarsest;
            cell.coarsest = even ? 0 : kFinest;
            float level[4];
            for (int k = 0; k < 4 && !even; ++k) {
              level[k] = levelFor(ends[k / 2].most[c + k % 2], ends[k / 2].least[c + k % 2], cell.taps);
              const int whole = static_cast<int>(std::floor(level[k]));
              const float share = shareOfCoarser(level[k], whole);
              cell.finest = std::min(cell.finest, share >= 1 ? whole + 1 : whole);
              cell.coarsest = std::max(cell.coarsest, share > 0 ? whole + 1 : whole);
            }
            // Where the corners differ much, or a pixel shows a long piece, no corner speaks for what lies between them: a pole, a horizon.
            if (most > 2 * kMostTaps * std::max(1.0f, least) || cell.coarsest > cell.finest + 1) {
              ++unspoken;
              continue;
            }
            lookAt(c);
            for (int corner = 0; corner < 4; ++corner) {
              const LensMap::Slopes& at = ends[corner / 2];
              const int i = c + corner % 2;
              const double atX = std::clamp(static_cast<double>(at.x[i]), -kFarthestRead, kFarthestRead);
              const double atY = std::clamp(static_cast<double>(at.y[i]), -kFarthestRead, kFarthestRead);
              const double wide = reach(at.xx[i], at.xy[i]);
              const double high = reach(at.yx[i], at.yy[i]);
              for (int k = cell.finest; k <= cell.coarsest; ++k) own[k - kFinest].add({atX - wide, atY - high, atX + wide, atY + high});
            }
          }
          lookAt(columns_);
        }
      },
      4);
  LensRegion all[kLevels];
  for (int r = 0; r < rows; ++r)
    for (int k = 0; k < kLevels; ++k) all[k].add(regions[static_cast<std::size_t>(r) * kLevels + static_cast<std::size_t>(k)]);
  // Where nothing is seen something is read all the same: it says how many channels there are.
  if (std::all_of(std::begin(all), std::end(all), [](const LensRegion& region) { return region.empty(); })) all[-kFinest].add({0, 0, 1, 1});
  // What would be many times the view is left to the next coarser level.
  const double own = static_cast<double>(view.width) * view.height + 65536;
  // Of very large views memory for one plane has to do.
  const bool large = own > 9e6;
  for (int k = 0; k + 1 < kLevels; ++k) {
    const int level = k + kFinest;
    if (pixelsOf(all[k], std::exp2(-level)) <= own * (level < 0 ? (large ? 0 : 1.2) : large ? 1.5 : 3)) continue;
    all[k + 1].add(all[k]);
    all[k] = LensRegion();
  }
  for (int k = 0; k < kLevels; ++k) {
    LensRegion region = all[k];
    if (region.empty()) continue;
    const int level = k + kFinest;
    const double times = std::exp2(level);
    if (level == kCoarsest) {
      const double most = 512 * times;
      region = {std::max(region.left, -most), std::max(region.top, -most), std::min(region.right, most), std::min(region.bottom, most)};
      if (region.left >= region.right || region.top >= region.bottom) region = {0, 0, times, times};
    }
    // Upright levels have their pixels where any other part of the plane would have them.
    const int overX = level > 0 ? pixelsBefore(view, view.left, 1 << level) : 0;
    const int overY = level > 0 ? pixelsBefore(view, view.top, 1 << level) : 0;
    const int x0 = static_cast<int>(std::floor((region.left + overX) / times)) - 2;
    const int y0 = static_cast<int>(std::floor((region.top + overY) / times)) - 2;
    PlaneView wanted = view;
    wanted.scale = view.scale / times;
    wanted.left -= (overX * view.xx + overY * view.xy) / view.scale;
    wanted.top -= (overX * view.yx + overY * view.yy) / view.scale;
    wanted = wanted.part(x0, y0, static_cast<int>(std::ceil((region.right + overX) / times)) + 3 - x0,
                         static_cast<int>(std::ceil((region.bottom + overY) / times)) + 3 - y0);
    LensLevel& made = levels_[k];
    made.plane = SourcePlane(input.pull(wanted), wanted.width, wanted.height);
    made.scale = static_cast<float>(1 / times);
    made.shiftX = static_cast<float>((overX + 0.5) / times - 0.5 - x0);
    made.shiftY = static_cast<float>((overY + 0.5) / times - 0.5 - y0);
    channels_ = std::max(channels_, made.plane.pixels().channels);
    opaque_ = opaque_ && made.plane.opaque();
  }
  // Who means a level that was left out reads the next coarser one, or else the next finer. (What is broken off half-way comes back
  // empty, in as many channels as it likes: such a level is none.)
  const auto there = [&](int k) { return levels_[k].plane.pixels().first && levels_[k].plane.pixels().channels == channels_; };
  for (int k = 0; k < kLevels; ++k) {
    int used = k;
    while (used < kLevels && !there(used)) ++used;
    if (used == kLevels)
      for (used = k; used > 0 && !there(used);) --used;
    used_[k] = used;
  }
}

}  // namespace oa
