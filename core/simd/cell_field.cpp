#include "simd/cell_field.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "base/parallel.h"
#include "base/random.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/cell_field.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/contrib/math/math-inl.h>

#include "image/counting-inl.h"
#include "image/reciprocal-inl.h"

#ifndef OA_CELL_FIELD_ONCE
#define OA_CELL_FIELD_ONCE
namespace oa {
namespace {

constexpr int kMostCandidates = 512;

// Neighbours this many fade lengths further away count as nothing: exp(-7) is below a thousandth.
constexpr double kFadeReach = 7;

double fadeOf(const CellSettings& s) { return s.melt > 0 ? kFadeReach / 2 / s.melt : 0; }

// The points that can matter in one block, places counted from the block's own cell.
struct Candidates {
  int count = 0;
  std::array<float, kMostCandidates> x, y, tone, slopeX, slopeY;
};

struct BlockJob {
  const Candidates* points;
  int n, rows;
  // Of the first pixel of the rows' block; whichever of its rows are asked for, all is counted from there, bit for bit.
  double u0, uy, v0, vy;
  int firstRow;
  float ux, vx;
  float fade;  // tones run into each other by exp(-fade * distance); 0: not at all
  float roundness;
  float edgeReach;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

enum class Measure { Round, Square, Diamond };

template <Measure kMeasure>
HWY_INLINE V distanceOf(V du, V dv, V roundness) {
  const V squared = hn::MulAdd(du, du, hn::Mul(dv, dv));
  if constexpr (kMeasure == Measure::Round) return squared;
  const V across = hn::Abs(du);
  const V down = hn::Abs(dv);
  const V corners = kMeasure == Measure::Square ? hn::Max(across, down) : hn::Add(across, down);
  return hn::MulAdd(roundness, hn::Sub(hn::Sqrt(squared), corners), corners);
}

template <Measure kMeasure>
HWY_INLINE V straightened(V distance) {
  return kMeasure == Measure::Round ? hn::Sqrt(distance) : distance;
}

template <Measure kMeasure>
HWY_INLINE V squared(V distance) {
  return kMeasure == Measure::Round ? distance : hn::Mul(distance, distance);
}

enum class Tones { None, Own, Melting };

// Every point's tone, the nearer the stronger: nothing jumps where the second nearest changes.
template <Measure kMeasure>
HWY_INLINE V meltedTone(const BlockJob& job, V u, V v, V nearest) {
  const D d;
  const V roundness = hn::Set(d, job.roundness);
  const V fade = hn::Set(d, -job.fade);
  V sum = hn::Zero(d);
  V weights = hn::Zero(d);
  for (int i = 0; i < job.points->count; ++i) {
    const auto at = static_cast<std::size_t>(i);
    const Candidates& points = *job.points;
    const V du = hn::Sub(u, hn::Set(d, points.x[at]));
    const V dv = hn::Sub(v, hn::Set(d, points.y[at]));
    const V further = hn::Sub(straightened<kMeasure>(distanceOf<kMeasure>(du, dv, roundness)), nearest);
    const V weight = hn::Exp(d, hn::Mul(fade, further));
    const V own = hn::MulAdd(hn::Set(d, points.slopeX[at]), du, hn::MulAdd(hn::Set(d, points.slopeY[at]), dv, hn::Set(d, points.tone[at])));
    sum = hn::MulAdd(weight, own, sum);
    weights = hn::Add(weights, weight);
  }
  return hn::Div(sum, weights);
}

// CellSpan::edge of the cells whose points are (px, py), of kCount vectors of pixels. Points that are too far away to matter add nothing:
// to leave them out would take longer than to reckon with them.
template <Measure kMeasure, int kCount>
HWY_INLINE void edgesOf(const BlockJob& job, const V* u, const V* v, const V* px, const V* py, const V* nearest, V* edges) {
  const D d;
  const V roundness = hn::Set(d, job.roundness);
  const V least = hn::Set(d, 1e-12f);
  const V beyond = hn::Set(d, 1 / (job.edgeReach * job.edgeReach));
  V own[kCount];
  for (int k = 0; k < kCount; ++k) {
    own[k] = squared<kMeasure>(nearest[k]);
    edges[k] = beyond;
  }
  for (int i = 0; i < job.points->count; ++i) {
    const auto at = static_cast<std::size_t>(i);
    const V x = hn::Set(d, job.points->x[at]);
    const V y = hn::Set(d, job.points->y[at]);
    for (int k = 0; k < kCount; ++k) {
      const V away = squared<kMeasure>(distanceOf<kMeasure>(hn::Sub(u[k], x), hn::Sub(v[k], y), roundness));
      // Between the point and itself there is no edge: the distance 0 adds nothing.
      const V apart = squared<kMeasure>(distanceOf<kMeasure>(hn::Sub(px[k], x), hn::Sub(py[k], y), roundness));
      const V difference = hn::Sub(away, own[k]);
      const V further = hn::Max(least, hn::Mul(difference, difference));
      edges[k] = hn::Add(edges[k], hn::Max(hn::Zero(d), hn::MulSub(apart, nearInverse(d, further), beyond)));
    }
  }
  for (int k = 0; k < kCount; ++k) edges[k] = nearInverseRoot(d, edges[k]);
}

// Two vectors of pixels at once, so that a point's numbers are spread over lanes once for both.
template <Measure kMeasure, Tones kTones, bool kEdges>
void searchBlock(const BlockJob& job, const CellSpan& out, std::ptrdiff_t stride) {
  const D d;
  constexpr int kAtOnce = 2;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const Candidates& points = *job.points;
  const V roundness = hn::Set(d, job.roundness);
  const V far = hn::Set(d, 1e30f);
  for (int y = 0; y < job.rows; ++y) {
    const V rowU = hn::Set(d, static_cast<float>(job.u0 + job.uy * (job.firstRow + y)));
    const V rowV = hn::Set(d, static_cast<float>(job.v0 + job.vy * (job.firstRow + y)));
    const std::ptrdiff_t row = y * stride;
    for (int x = 0; x < job.n; x += kAtOnce * lanes) {
      V u[kAtOnce], v[kAtOnce], first[kAtOnce], second[kAtOnce], tone[kAtOnce], ownX[kAtOnce], ownY[kAtOnce];
      for (int k = 0; k < kAtOnce; ++k) {
        const V place = countingFrom(d, static_cast<float>(x + k * lanes));
        u[k] = hn::MulAdd(place, hn::Set(d, job.ux), rowU);
        v[k] = hn::MulAdd(place, hn::Set(d, job.vx), rowV);
        first[k] = second[k] = far;
        tone[k] = ownX[k] = ownY[k] = hn::Zero(d);
      }
      for (int i = 0; i < points.count; ++i) {
        const auto at = static_cast<std::size_t>(i);
        const V px = hn::Set(d, points.x[at]);
        const V py = hn::Set(d, points.y[at]);
        for (int k = 0; k < kAtOnce; ++k) {
          const V du = hn::Sub(u[k], px);
          const V dv = hn::Sub(v[k], py);
          const V away = distanceOf<kMeasure>(du, dv, roundness);
          if constexpr (kTones == Tones::Own) {
            const V own =
                hn::MulAdd(hn::Set(d, points.slopeX[at]), du, hn::MulAdd(hn::Set(d, points.slopeY[at]), dv, hn::Set(d, points.tone[at])));
            tone[k] = hn::IfThenElse(hn::Lt(away, first[k]), own, tone[k]);
          }
          if constexpr (kEdges) {
            const auto nearer = hn::Lt(away, first[k]);
            ownX[k] = hn::IfThenElse(nearer, px, ownX[k]);
            ownY[k] = hn::IfThenElse(nearer, py, ownY[k]);
          }
          if constexpr (!kEdges) second[k] = hn::Min(second[k], hn::Max(first[k], away));
          first[k] = hn::Min(first[k], away);
        }
      }
      V edges[kAtOnce];
      if constexpr (kEdges) edgesOf<kMeasure, kAtOnce>(job, u, v, ownX, ownY, first, edges);
      for (int k = 0; k < kAtOnce; ++k) {
        const std::ptrdiff_t to = row + x + k * lanes;
        // The second of two vectors may lie wholly behind the row.
        if (k > 0 && x + k * lanes >= job.n) break;
        if (out.nearest) hn::StoreU(straightened<kMeasure>(first[k]), d, out.nearest + to);
        if (!kEdges && out.second) hn::StoreU(straightened<kMeasure>(second[k]), d, out.second + to);
        if constexpr (kTones == Tones::Melting) tone[k] = meltedTone<kMeasure>(job, u[k], v[k], straightened<kMeasure>(first[k]));
        if constexpr (kTones != Tones::None) hn::StoreU(tone[k], d, out.tone + to);
        if constexpr (kEdges) hn::StoreU(edges[k], d, out.edge + to);
      }
    }
  }
}

// The same with edges where there are no more points than lanes: which one a pixel belongs to is a lane, how far points are apart is looked
// up by it, and no distance is worked out twice.
template <Measure kMeasure>
void edgesOfFew(const BlockJob& job, const CellSpan& out, std::ptrdiff_t stride) {
  const D d;
  const hn::RebindToSigned<D> di;
  constexpr int kAtOnce = 2;
  constexpr int kMost = static_cast<int>(hn::MaxLanes(d));
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const Candidates& points = *job.points;
  const V roundness = hn::Set(d, job.roundness);
  const V least = hn::Set(d, 1e-12f);
  const V beyond = hn::Set(d, 1 / (job.edgeReach * job.edgeReach));
  alignas(64) float apart[kMost][kMost];
  const V allX = hn::LoadU(d, points.x.data());
  const V allY = hn::LoadU(d, points.y.data());
  for (int i = 0; i < points.count; ++i) {
    const auto at = static_cast<std::size_t>(i);
    const V x = hn::Set(d, points.x[at]);
    const V y = hn::Set(d, points.y[at]);
    hn::Store(squared<kMeasure>(distanceOf<kMeasure>(hn::Sub(allX, x), hn::Sub(allY, y), roundness)), d, apart[i]);
  }
  for (int row = 0; row < job.rows; ++row) {
    const V rowU = hn::Set(d, static_cast<float>(job.u0 + job.uy * (job.firstRow + row)));
    const V rowV = hn::Set(d, static_cast<float>(job.v0 + job.vy * (job.firstRow + row)));
    for (int x0 = 0; x0 < job.n; x0 += kAtOnce * lanes) {
      alignas(64) float away[kMost][kAtOnce][kMost];
      V u[kAtOnce], v[kAtOnce], first[kAtOnce], sum[kAtOnce];
      hn::Vec<decltype(di)> owner[kAtOnce];
      for (int k = 0; k < kAtOnce; ++k) {
        const V place = countingFrom(d, static_cast<float>(x0 + k * lanes));
        u[k] = hn::MulAdd(place, hn::Set(d, job.ux), rowU);
        v[k] = hn::MulAdd(place, hn::Set(d, job.vx), rowV);
        first[k] = hn::Set(d, 1e30f);
        owner[k] = hn::Zero(di);
        sum[k] = beyond;
      }
      for (int i = 0; i < points.count; ++i) {
        const auto at = static_cast<std::size_t>(i);
        const V px = hn::Set(d, points.x[at]);
        const V py = hn::Set(d, points.y[at]);
        for (int k = 0; k < kAtOnce; ++k) {
          const V here = distanceOf<kMeasure>(hn::Sub(u[k], px), hn::Sub(v[k], py), roundness);
          owner[k] = hn::IfThenElse(hn::RebindMask(di, hn::Lt(here, first[k])), hn::Set(di, i), owner[k]);
          first[k] = hn::Min(first[k], here);
          hn::Store(here, d, away[i][k]);
        }
      }
      for (int i = 0; i < points.count; ++i) {
        const V others = hn::Load(d, apart[i]);
        for (int k = 0; k < kAtOnce; ++k) {
          const V difference = hn::Sub(squared<kMeasure>(hn::Load(d, away[i][k])), squared<kMeasure>(first[k]));
          const V further = hn::Max(least, hn::Mul(difference, difference));
          // Between a point and itself there is no edge: the distance 0 adds nothing.
          const V between = hn::TableLookupLanes(others, hn::IndicesFromVec(d, owner[k]));
          sum[k] = hn::Add(sum[k], hn::Max(hn::Zero(d), hn::MulSub(between, nearInverse(d, further), beyond)));
        }
      }
      for (int k = 0; k < kAtOnce; ++k) {
        if (k > 0 && x0 + k * lanes >= job.n) break;
        const std::ptrdiff_t to = row * stride + x0 + k * lanes;
        if (out.nearest) hn::StoreU(straightened<kMeasure>(first[k]), d, out.nearest + to);
        hn::StoreU(nearInverseRoot(d, sum[k]), d, out.edge + to);
      }
    }
  }
}

template <Measure kMeasure>
void searchWith(const BlockJob& job, const CellSpan& out, std::ptrdiff_t stride) {
  if (out.edge && job.points->count <= static_cast<int>(hn::Lanes(D())))
    edgesOfFew<kMeasure>(job, out, stride);
  else if (out.edge)
    searchBlock<kMeasure, Tones::None, true>(job, out, stride);
  else if (!out.tone)
    searchBlock<kMeasure, Tones::None, false>(job, out, stride);
  else if (job.fade > 0)
    searchBlock<kMeasure, Tones::Melting, false>(job, out, stride);
  else
    searchBlock<kMeasure, Tones::Own, false>(job, out, stride);
}

void searchCells(const BlockJob& job, CellCorners corners, const CellSpan& out, std::ptrdiff_t stride) {
  if (job.roundness >= 1)
    searchWith<Measure::Round>(job, out, stride);
  else if (corners == CellCorners::Square)
    searchWith<Measure::Square>(job, out, stride);
  else
    searchWith<Measure::Diamond>(job, out, stride);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(searchCells);

namespace {

double distance(const CellSettings& s, double du, double dv) {
  const double round = std::sqrt(du * du + dv * dv);
  if (s.roundness >= 1) return round;
  const double corners = s.corners == CellCorners::Square ? std::max(std::abs(du), std::abs(dv)) : std::abs(du) + std::abs(dv);
  return corners + (round - corners) * s.roundness;
}

// Random numbers of a point's place `slice` places on; with churn it moves through them on a smooth closed line.
double passing(const CellSettings& s, std::uint64_t node, int part, double z) {
  const auto at = [&](std::int64_t slice) {
    return randomUnit(node + static_cast<std::uint64_t>(part), static_cast<std::uint64_t>(floorMod(slice, std::max(1, s.churn))));
  };
  if (s.churn <= 1) return at(0);
  const auto slice = static_cast<std::int64_t>(std::floor(z));
  const double t = z - static_cast<double>(slice);
  const double a = at(slice - 1), b = at(slice), c = at(slice + 1), e = at(slice + 2);
  // Cubic convolution; held within the cell where it swings beyond.
  const double v = b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - e + t * (3 * (b - c) + e - a)));
  return std::clamp(v, 0.0, 1.0);
}

CellPoint makePoint(const CellSettings& s, int x, int y, bool facets) {
  const std::uint64_t node = mix64((std::uint64_t{s.seed} << 40) ^ (static_cast<std::uint64_t>(y) << 20) ^ static_cast<std::uint64_t>(x));
  // Every point is at another stage, or all would pause together.
  const double z = randomUnit(node, 100) * s.churn + s.churn * s.churned;
  double px = 0.5 + s.scatter * (passing(s, node, 1, z) - 0.5);
  double py = 0.5 + s.scatter * (passing(s, node, 2, z) - 0.5);
  const int turns = s.turns > 0 ? 1 + static_cast<int>(randomUnit(node, 101) * s.turns) : 0;
  const double direction = randomUnit(node, 102) < 0.5 ? -1 : 1;
  const double angle = 2 * std::numbers::pi * (randomUnit(node, 103) + direction * turns * s.turned);
  px += s.orbit * std::cos(angle);
  py += s.orbit * std::sin(angle);
  CellPoint point{static_cast<float>(px), static_cast<float>(py), static_cast<float>(passing(s, node, 3, z)), 0, 0};
  if (facets) {
    // As a plane turned to a light: its middle near grey, its slope in a direction of its own.
    const double way = 2 * std::numbers::pi * passing(s, node, 4, z);
    point.slopeX = static_cast<float>(0.55 * std::cos(way));
    point.slopeY = static_cast<float>(0.55 * std::sin(way));
    point.tone = 0.3f + 0.4f * point.tone;
  }
  return point;
}

}  // namespace

CellField::CellField(const CellSettings& settings, bool facets) : settings_(settings), facets_(facets) {
  const CellSettings& s = settings_;
  overflow_ = std::max(0.0, s.scatter / 2 + s.orbit - 0.5);
  // A block may stand out over the picture, and looks at rings of cells round itself.
  constexpr double kBlockWidth = 64, kBlockHeight = 16, kRings = 8;
  const auto window = [&](double at, double stepX, double stepY, int period, std::int64_t& first, int& count) {
    count = period;
    if (s.width <= 0) return;
    const double across = stepX * (s.width + kBlockWidth);
    const double down = stepY * (s.height + kBlockHeight);
    const double low = at + std::min(0.0, across) + std::min(0.0, down) - kRings;
    const double high = at + std::max(0.0, across) + std::max(0.0, down) + kRings;
    if (high - low + 1 >= period) return;
    first = static_cast<std::int64_t>(std::floor(low));
    count = static_cast<int>(std::floor(high) - std::floor(low)) + 1;
  };
  window(s.u0, s.ux, s.uy, s.periodX, windowX_, windowWidth_);
  window(s.v0, s.vx, s.vy, s.periodY, windowY_, windowHeight_);
  points_.resize(static_cast<std::size_t>(windowWidth_) * static_cast<std::size_t>(windowHeight_));
  parallelBands(windowHeight_, [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < windowWidth_; ++x)
        points_[static_cast<std::size_t>(y) * static_cast<std::size_t>(windowWidth_) + static_cast<std::size_t>(x)] =
            makePoint(s, static_cast<int>(floorMod(windowX_ + x, s.periodX)), static_cast<int>(floorMod(windowY_ + y, s.periodY)), facets);
  });
  // Half a cell wide and a quarter high: few points, and the search for them costs little.
  const double across = 1 / std::max(1e-9, std::max(std::abs(s.ux), std::abs(s.vx)));
  const double down = 1 / std::max(1e-9, std::max(std::abs(s.uy), std::abs(s.vy)));
  blockSize_.width = across < 48 ? 16 : across < 96 ? 32 : 64;
  blockSize_.height = std::clamp(static_cast<int>(down / 4), 4, 16);
}

CellPoint CellField::pointOf(std::int64_t cellX, std::int64_t cellY) const {
  const auto x = floorMod(cellX - windowX_, settings_.periodX);
  const auto y = floorMod(cellY - windowY_, settings_.periodY);
  if (x < windowWidth_ && y < windowHeight_) return points_[static_cast<std::size_t>(y * windowWidth_ + x)];
  return makePoint(settings_, static_cast<int>(floorMod(cellX, settings_.periodX)), static_cast<int>(floorMod(cellY, settings_.periodY)),
                   facets_);
}

namespace {

// Least and greatest distance in one direction from `place` to the stretch [low, high].
struct Reach {
  double least, most;
};
Reach reach(double place, double low, double high) {
  return {std::max({0.0, low - place, place - high}), std::max(std::abs(place - low), std::abs(place - high))};
}

}  // namespace

void CellField::block(int x0, int n, int y0, int y1, const CellSpan& out, std::ptrdiff_t stride) const {
  const CellSettings& s = settings_;
  const int blockTop = y0 / blockSize_.height * blockSize_.height;
  const double u = s.u0 + s.ux * x0 + s.uy * blockTop;
  const double v = s.v0 + s.vx * x0 + s.vy * blockTop;
  const auto baseX = static_cast<std::int64_t>(std::floor(u));
  const auto baseY = static_cast<std::int64_t>(std::floor(v));
  const double firstU = u - static_cast<double>(baseX);
  const double firstV = v - static_cast<double>(baseY);
  // The whole block is looked at whichever of its rows are asked for: all get the same points.
  const double lastX = blockSize_.width - 1;
  const double lastY = blockSize_.height - 1;
  const double lowU = firstU + std::min(0.0, s.ux * lastX) + std::min(0.0, s.uy * lastY);
  const double highU = firstU + std::max(0.0, s.ux * lastX) + std::max(0.0, s.uy * lastY);
  const double lowV = firstV + std::min(0.0, s.vx * lastX) + std::min(0.0, s.vy * lastY);
  const double highV = firstV + std::max(0.0, s.vx * lastX) + std::max(0.0, s.vy * lastY);

  struct Near {
    float least;
    const CellPoint* point;
    int cellX, cellY;
  };
  thread_local std::vector<Near> near;
  near.clear();
  double best = 1e30;
  double second = 1e30;
  double bound = 0;
  const double melting = out.tone && s.melt > 0 ? kFadeReach / fadeOf(s) : 0;
  // A neighbour further off than the nearest by this has its edge beyond the reach, by the triangle's inequality.
  const double further = out.edge ? s.edgeReach : melting;
  // Rings of cells round the block are added until no point beyond can come nearer than two that are known.
  for (int ring = 1;; ++ring) {
    const int left = static_cast<int>(std::floor(lowU)) - ring;
    const int right = static_cast<int>(std::floor(highU)) + ring;
    const int top = static_cast<int>(std::floor(lowV)) - ring;
    const int bottom = static_cast<int>(std::floor(highV)) + ring;
    for (int cy = top; cy <= bottom; ++cy) {
      const CellPoint* const row = points_.data() + floorMod(baseY + cy - windowY_, s.periodY) * windowWidth_;
      auto column = static_cast<int>(floorMod(baseX + left - windowX_, s.periodX));
      // What lies inside the ring has been looked at.
      const int step = ring > 1 && cy > top && cy < bottom ? right - left : 1;
      for (int cx = left; cx <= right; cx += step, column = (column + step) % s.periodX) {
        const CellPoint& point = row[column];
        const Reach across = reach(cx + static_cast<double>(point.x), lowU, highU);
        const Reach down = reach(cy + static_cast<double>(point.y), lowV, highV);
        const double most = distance(s, across.most, down.most);
        second = std::min(second, std::max(best, most));
        best = std::min(best, most);
        near.push_back({static_cast<float>(distance(s, across.least, down.least)), &point, cx, cy});
      }
    }
    // What melts in or has an edge from further away counts too.
    bound = std::max(second, best + further);
    // The nearest place in the next ring, at least `ring` cells from any pixel of the block along one direction.
    if (bound <= ring - overflow_ || ring >= 6) break;
  }
  Candidates list;
  const auto limit = static_cast<float>(bound * 1.000001);
  for (const Near& one : near) {
    if (one.least > limit || list.count == kMostCandidates) continue;
    const auto i = static_cast<std::size_t>(list.count++);
    list.x[i] = static_cast<float>(one.cellX) + one.point->x;
    list.y[i] = static_cast<float>(one.cellY) + one.point->y;
    list.tone[i] = one.point->tone;
    list.slopeX[i] = one.point->slopeX;
    list.slopeY[i] = one.point->slopeY;
  }
  const BlockJob job{&list,
                     n,
                     y1 - y0,
                     firstU,
                     s.uy,
                     firstV,
                     s.vy,
                     y0 - blockTop,
                     static_cast<float>(s.ux),
                     static_cast<float>(s.vx),
                     static_cast<float>(fadeOf(s)),
                     static_cast<float>(s.roundness),
                     static_cast<float>(s.edgeReach)};
  HWY_DYNAMIC_DISPATCH(searchCells)(job, s.corners, out, stride);
}

CellPixel cellReference(const CellField& field, double x, double y) {
  const CellSettings& s = field.settings();
  const double u = s.u0 + s.ux * x + s.uy * y;
  const double v = s.v0 + s.vx * x + s.vy * y;
  const auto cellX = static_cast<std::int64_t>(std::floor(u));
  const auto cellY = static_cast<std::int64_t>(std::floor(v));
  CellPixel result{1e30, 1e30, 0, 0};
  struct Near {
    double away, tone, du, dv;
  };
  Near own{};
  std::vector<Near> all;
  for (std::int64_t j = cellY - 4; j <= cellY + 4; ++j)
    for (std::int64_t i = cellX - 4; i <= cellX + 4; ++i) {
      const CellPoint p = field.pointOf(i, j);
      const double du = u - (static_cast<double>(i) + static_cast<double>(p.x));
      const double dv = v - (static_cast<double>(j) + static_cast<double>(p.y));
      const double away = distance(s, du, dv);
      const double tone = static_cast<double>(p.tone) + static_cast<double>(p.slopeX) * du + static_cast<double>(p.slopeY) * dv;
      all.push_back({away, tone, du, dv});
      if (away < result.nearest) {
        result.second = result.nearest;
        result.nearest = away;
        result.tone = tone;
        own = all.back();
      } else {
        result.second = std::min(result.second, away);
      }
    }
  const double beyond = 1 / (s.edgeReach * s.edgeReach);
  double edges = beyond;
  for (const Near& one : all) {
    const double apart = distance(s, one.du - own.du, one.dv - own.dv);
    const double further = one.away * one.away - own.away * own.away;
    edges += std::max(0.0, apart * apart / std::max(1e-12, further * further) - beyond);
  }
  result.edge = 1 / std::sqrt(edges);
  if (s.melt <= 0) return result;
  double sum = 0;
  double weights = 0;
  for (const Near& one : all) {
    const double weight = std::exp(-fadeOf(s) * (one.away - result.nearest));
    sum += weight * one.tone;
    weights += weight;
  }
  result.tone = sum / weights;
  return result;
}

}  // namespace oa
#endif
