#include "image/sampling.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <string_view>

#include "base/parallel.h"
#include "image/enlarged.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/sampling.cpp"
#include <hwy/foreach_target.h>
#include <hwy/cache_control.h>
#include <hwy/highway.h>

#include "image/bilinear-inl.h"
#include "image/counting-inl.h"

#ifndef OA_SAMPLING_ONCE
#define OA_SAMPLING_ONCE
namespace oa {
namespace {

// Places that are worked out at a time.
constexpr int kChunk = 64;

// Weights of the four taps of each cubic as polynomials: of t^3, t^2, t and 1 (see cubicWeights()).
struct Polynomials {
  float of[4][4];
};
constexpr Polynomials kCubics[] = {
    {{{-0.5f, 1.5f, -1.5f, 0.5f}, {1, -2.5f, 2, -0.5f}, {-0.5f, 0, 0.5f, 0}, {0, 1, 0, 0}}},
    {{{-1 / 6.0f, 0.5f, -0.5f, 1 / 6.0f}, {0.5f, -1, 0.5f, 0}, {-0.5f, 0, 0.5f, 0}, {1 / 6.0f, 2 / 3.0f, 1 / 6.0f, 0}}}};
constexpr const Polynomials& polynomialsOf(Cubic cubic) { return kCubics[static_cast<int>(cubic)]; }

// A place in a plane: the pixel at its upper left, and how far beyond it. Where `inside` is false some of the pixels that are read
// lie beyond the plane.
struct Places {
  alignas(64) std::int32_t column[kChunk];
  alignas(64) std::int32_t row[kChunk];
  alignas(64) std::int32_t offset[kChunk];  // floats from the plane's first; only where it fits
  alignas(64) float tx[kChunk + 4];
  alignas(64) float ty[kChunk + 4];
  bool inside;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

// Whole pixels and shares of `n` places that lie so far from (originX, originY). `low` and `high` are how many pixels before and
// behind the whole one are read.
void findPlaces(const PlanePixels& plane, const float* x, const float* y, int originX, int originY, int n, int low, int high, Places& out) {
  const hn::CappedTag<float, 16> d;
  const hn::RebindToSigned<decltype(d)> di;
  // Beyond any sensible distance all places are one.
  const auto least = hn::Set(d, -1e8f);
  const auto most = hn::Set(d, 1e8f);
  const auto lowest = hn::Set(di, low);
  const auto lastX = hn::Set(di, plane.width - 1 - high);
  const auto lastY = hn::Set(di, plane.height - 1 - high);
  auto beyond = hn::Zero(di);
  const auto axis = [&](const float* at, int origin, std::int32_t* whole, float* share, const auto& last) HWY_ATTR {
    for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
      const auto v = hn::Max(least, hn::Min(most, hn::LoadU(d, at + i)));
      const auto floor = hn::Floor(v);
      const auto pixel = hn::Add(hn::ConvertTo(di, floor), hn::Set(di, origin));
      hn::Store(pixel, di, whole + i);
      hn::Store(hn::Sub(v, floor), d, share + i);
      // Below the first or above the last: one of the differences is negative. What stands behind the last place is anybody's.
      const auto there = hn::FirstN(di, static_cast<std::size_t>(n - i));
      beyond = hn::Or(beyond, hn::IfThenElseZero(there, hn::Or(hn::Sub(pixel, lowest), hn::Sub(last, pixel))));
    }
  };
  axis(x, originX, out.column, out.tx, lastX);
  axis(y, originY, out.row, out.ty, lastY);
  out.inside = hn::AllFalse(di, hn::Lt(beyond, hn::Zero(di))) && plane.stride * plane.height < (std::ptrdiff_t{1} << 31);
  if (!out.inside) return;
  const auto stride = hn::Set(di, static_cast<std::int32_t>(plane.stride));
  const auto channels = hn::Set(di, plane.channels);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    hn::Store(hn::Add(hn::Mul(hn::Load(di, out.row + i), stride), hn::Mul(hn::Load(di, out.column + i), channels)), di, out.offset + i);
}

// Where pixel (x, y) of the plane lies, by its edge rule.
HWY_INLINE const float* pixelAt(const PlanePixels& plane, Edge edge, std::int64_t x, std::int64_t y) {
  return pixelBy(plane.width, plane.height, edge, x, y,
                 [&](int px, int py) { return plane.row(py) + static_cast<std::ptrdiff_t>(px) * plane.channels; });
}

// --- Bilinear ---------------------------------------------------------------------------------------------------------------

// In the order, and with the rounding, of fourOfField(): a place is worth the same whoever its neighbours are.
HWY_INLINE float oneOfField(const PlanePixels& plane, Edge edge, const Places& p, int i) {
  const D2 d;
  const std::int64_t x = p.column[i];
  const std::int64_t y = p.row[i];
  alignas(16) const float above[2] = {*pixelAt(plane, edge, x, y), *pixelAt(plane, edge, x + 1, y)};
  alignas(16) const float below[2] = {*pixelAt(plane, edge, x, y + 1), *pixelAt(plane, edge, x + 1, y + 1)};
  const auto upper = hn::Load(d, above);
  const auto mixed = hn::MulAdd(hn::Sub(hn::Load(d, below), upper), hn::Set(d, p.ty[i]), upper);
  const auto left = hn::Set(d, hn::GetLane(mixed));
  const auto right = hn::Set(d, hn::GetLane(hn::Reverse(d, mixed)));
  return hn::GetLane(hn::MulAdd(hn::Sub(right, left), hn::Set(d, p.tx[i]), left));
}

void bilinearAt(const PlanePixels& plane, Edge edge, const Places& p, int n, float* out) {
  if (plane.channels == 1) {
    int i = 0;
    for (; p.inside && i + 4 <= n; i += 4) fourOfField(plane.first, plane.first + plane.stride, p.offset + i, p.tx + i, p.ty + i, out + i);
    for (; i < n; ++i) out[i] = oneOfField(plane, edge, p, i);
    return;
  }
  int i = 0;
  const ColoursBetween colours;
  for (; p.inside && i + ColoursBetween::kAtOnce <= n; i += ColoursBetween::kAtOnce)
    hn::StoreU(colours.read(plane.first, plane.stride, p.offset + i, p.tx + i, p.ty + i), ColoursBetween::D(), out + i * 4);
  for (; i < n; ++i) {
    if (p.inside) {
      const float* at = plane.first + p.offset[i];
      bilinearColour(at, at + 4, at + plane.stride, at + plane.stride + 4, p.tx[i], p.ty[i], out + i * 4);
      continue;
    }
    const std::int64_t cx = p.column[i];
    const std::int64_t cy = p.row[i];
    bilinearColour(pixelAt(plane, edge, cx, cy), pixelAt(plane, edge, cx + 1, cy), pixelAt(plane, edge, cx, cy + 1),
                   pixelAt(plane, edge, cx + 1, cy + 1), p.tx[i], p.ty[i], out + i * 4);
  }
}

void bilinear(const PlanePixels& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  Places p;
  findPlaces(plane, x, y, 0, 0, n, 0, 1, p);
  bilinearAt(plane, edge, p, n, out);
}

// --- Cubic ------------------------------------------------------------------------------------------------------------------

template <class D>
HWY_INLINE hn::Vec<D4> foldedTo4(D, hn::Vec<D> v) {
  if constexpr (hn::MaxLanes(D()) == 4) {
    return v;
  } else {
    const hn::Half<D> half;
    return foldedTo4(half, hn::Add(hn::LowerHalf(half, v), hn::UpperHalf(half, v)));
  }
}

HWY_INLINE hn::Vec<hn::CappedTag<float, 16>> cubicWeight(const Polynomials& w, int k, hn::Vec<hn::CappedTag<float, 16>> t) {
  const hn::CappedTag<float, 16> d;
  auto sum = hn::MulAdd(hn::Set(d, w.of[0][k]), t, hn::Set(d, w.of[1][k]));
  sum = hn::MulAdd(sum, t, hn::Set(d, w.of[2][k]));
  return hn::MulAdd(sum, t, hn::Set(d, w.of[3][k]));
}
// The four weights of each of `n` shares, beside each other.
void weighAcross(const Polynomials& w, const float* t, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    const auto v = hn::LoadU(d, t + i);
    hn::StoreInterleaved4(cubicWeight(w, 0, v), cubicWeight(w, 1, v), cubicWeight(w, 2, v), cubicWeight(w, 3, v), d, out + i * 4);
  }
}
// The same of places: those downwards of place i at down[k][i], those across at across[4 i + k].
struct Weights {
  alignas(64) float down[4][kChunk];
  alignas(64) float across[4 * kChunk];
};
void weigh(const Polynomials& w, const Places& p, int n, Weights& out) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d)))
    for (int k = 0; k < 4; ++k) hn::Store(cubicWeight(w, k, hn::Load(d, p.ty + i)), d, out.down[k] + i);
  weighAcross(w, p.tx, n, out.across);
}

// Colours of four neighbours each, as many at once as a vector holds. Neighbours are asked for in parts, a vector each.
class CubicColours {
 public:
  using D = hn::CappedTag<float, 16>;
  using V = hn::Vec<D>;
  static constexpr int kLanes = static_cast<int>(hn::MaxLanes(D()));
  static constexpr int kAtOnce = kLanes / 4;

  HWY_INLINE CubicColours() {
    for (int part = 0; part < kParts; ++part) {
      alignas(64) std::int32_t tap[16] = {};
      for (int lane = 0; lane < kLanes; ++lane) tap[lane] = (part * kLanes + lane) / 4;
      taps_[part] = hn::IndicesFromVec(D(), hn::Load(hn::RebindToSigned<D>(), tap));
    }
  }

  template <class Neighbours>
  HWY_INLINE void one(const float* across, Neighbours neighbours, float* out) const {
    hn::StoreU(heldColours(D4(), foldedTo4(D(), summed(across, neighbours))), D4(), out);
  }
  // kAtOnce of them: `neighboursOf(k)` are the kth one's.
  template <class NeighboursOf>
  HWY_INLINE void several(const float* across, NeighboursOf neighboursOf, float* out) const {
    const D d;
    const auto at = [&](int k) HWY_ATTR { return summed(across + 4 * k, neighboursOf(k)); };
    // In the order in which one alone is folded.
#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
    const auto halved = [&](V a, V b) HWY_ATTR { return hn::Add(hn::ConcatLowerLower(d, b, a), hn::ConcatUpperUpper(d, b, a)); };
    const V even = halved(at(0), at(2));
    const V odd = halved(at(1), at(3));
    const V sum = hn::Add(evenPixels(d, even, odd), oddPixels(d, even, odd));
#elif HWY_MAX_BYTES == 32 && !HWY_HAVE_SCALABLE
    const V a = at(0);
    const V b = at(1);
    const V sum = hn::Add(hn::ConcatLowerLower(d, b, a), hn::ConcatUpperUpper(d, b, a));
#else
    const V sum = at(0);
#endif
    hn::StoreU(heldColours(d, sum), d, out);
  }

 private:
  static constexpr int kParts = 16 / kLanes;
  template <class Neighbours>
  HWY_INLINE V summed(const float* across, Neighbours neighbours) const {
    const V w = hn::LoadDup128(D(), across);
    V sum = hn::Mul(neighbours(0), hn::TableLookupLanes(w, taps_[0]));
    for (int part = 1; part < kParts; ++part) sum = hn::MulAdd(neighbours(part * kLanes), hn::TableLookupLanes(w, taps_[part]), sum);
    return sum;
  }
  decltype(hn::IndicesFromVec(D(), hn::Zero(hn::RebindToSigned<D>()))) taps_[kParts];
};

// Four rows of four neighbours each, the first at `at`, mixed by weights downwards.
HWY_INLINE auto mixedRows(const float* at, std::ptrdiff_t stride, const Weights& weights, int i) {
  const CubicColours::D d;
  return [=, w0 = hn::Set(d, weights.down[0][i]), w1 = hn::Set(d, weights.down[1][i]), w2 = hn::Set(d, weights.down[2][i]),
          w3 = hn::Set(d, weights.down[3][i])](int float0) HWY_ATTR {
    const CubicColours::D df;
    const float* const from = at + float0;
    const auto upper = hn::MulAdd(hn::LoadU(df, from + stride), w1, hn::Mul(hn::LoadU(df, from), w0));
    const auto lower = hn::MulAdd(hn::LoadU(df, from + 3 * stride), w3, hn::Mul(hn::LoadU(df, from + 2 * stride), w2));
    return hn::Add(upper, lower);
  };
}

// `ahead`: floats from a pixel to what the next row will read there beside what this one does.
void cubicAt(const PlanePixels& plane, Edge edge, const float* x, const float* y, int originX, int originY, int n, float* out,
             const Polynomials& polynomials, std::ptrdiff_t ahead) {
  const CubicColours colours;
  const D4 d;
  Places p;
  Weights w;
  findPlaces(plane, x, y, originX, originY, n, 1, 2, p);
  weigh(polynomials, p, n, w);
  if (p.inside && plane.channels == 4) {
    const std::ptrdiff_t stride = plane.stride;
    const float* const upperLeft = plane.first - stride - 4;
    int i = 0;
    for (; i + CubicColours::kAtOnce <= n; i += CubicColours::kAtOnce) {
      hwy::Prefetch(plane.first + p.offset[i] + ahead);
      colours.several(
          w.across + 4 * i, [&](int k) HWY_ATTR { return mixedRows(upperLeft + p.offset[i + k], stride, w, i + k); }, out + i * 4);
    }
    for (; i < n; ++i) colours.one(w.across + 4 * i, mixedRows(upperLeft + p.offset[i], stride, w, i), out + i * 4);
    return;
  }
  alignas(64) float around[64];
  for (int i = 0; i < n; ++i) {
    const float* at = around;
    std::ptrdiff_t stride = 4 * plane.channels;
    const std::int32_t column = p.column[i];
    const std::int32_t row = p.row[i];
    if (p.inside || (column >= 1 && row >= 1 && column + 2 < plane.width && row + 2 < plane.height)) {
      at = plane.row(row - 1) + static_cast<std::ptrdiff_t>(column - 1) * plane.channels;
      stride = plane.stride;
    } else {
      int px[4];
      for (int k = 0; k < 4; ++k) px[k] = edgeIndex(edge, std::int64_t{column} + k - 1, plane.width);
      for (int k = 0; k < 4; ++k) {
        const int py = edgeIndex(edge, std::int64_t{row} + k - 1, plane.height);
        float* to = around + k * stride;
        for (int j = 0; j < 4; ++j, to += plane.channels) {
          if (px[j] < 0 || py < 0)
            std::fill_n(to, plane.channels, 0.0f);
          else
            std::copy_n(plane.row(py) + static_cast<std::ptrdiff_t>(px[j]) * plane.channels, plane.channels, to);
        }
      }
    }
    if (plane.channels == 4) {
      colours.one(w.across + 4 * i, mixedRows(at, stride, w, i), out + i * 4);
      continue;
    }
    auto mixed = hn::Mul(hn::LoadU(d, at), hn::Set(d, w.down[0][i]));
    for (int k = 1; k < 4; ++k) mixed = hn::MulAdd(hn::LoadU(d, at + k * stride), hn::Set(d, w.down[k][i]), mixed);
    out[i] = hn::GetLane(hn::SumOfLanes(d, hn::Mul(mixed, hn::Load(d, w.across + 4 * i))));
  }
}

// Places along a line, worked out close to where they are so that they stay exact.
void cubicLine(const PlanePixels& plane, Edge edge, Point at, Point step, int n, float* out, const Polynomials& polynomials,
               std::ptrdiff_t ahead) {
  const hn::CappedTag<float, 16> d;
  alignas(64) float x[kChunk];
  alignas(64) float y[kChunk];
  for (int begin = 0; begin < n; begin += kChunk) {
    const int count = std::min(kChunk, n - begin);
    const Point first{std::clamp(at.x + step.x * begin, -1e8, 1e8), std::clamp(at.y + step.y * begin, -1e8, 1e8)};
    const double wholeX = std::floor(first.x);
    const double wholeY = std::floor(first.y);
    for (int i = 0; i < count; i += static_cast<int>(hn::Lanes(d))) {
      const auto along = countingFrom(d, static_cast<float>(i));
      hn::Store(hn::MulAdd(along, hn::Set(d, static_cast<float>(step.x)), hn::Set(d, static_cast<float>(first.x - wholeX))), d, x + i);
      hn::Store(hn::MulAdd(along, hn::Set(d, static_cast<float>(step.y)), hn::Set(d, static_cast<float>(first.y - wholeY))), d, y + i);
    }
    cubicAt(plane, edge, x, y, static_cast<int>(wholeX), static_cast<int>(wholeY), count,
            out + static_cast<std::ptrdiff_t>(begin) * plane.channels, polynomials, ahead);
  }
}

// Four rows to one, `n` floats.
void cubicRows(const float* const* rows, const float* weights, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    auto sum = hn::Mul(hn::LoadU(d, rows[0] + i), hn::Set(d, weights[0]));
    for (int k = 1; k < 4; ++k) sum = hn::MulAdd(hn::LoadU(d, rows[k] + i), hn::Set(d, weights[k]), sum);
    hn::StoreU(sum, d, out + i);
  }
}

// The same of a row of colours beside itself, held within what colours may be.
void cubicShifted(const float* row, const float* weights, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n * 4; i += static_cast<int>(hn::Lanes(d))) {
    auto sum = hn::Mul(hn::LoadU(d, row + i), hn::Set(d, weights[0]));
    for (int k = 1; k < 4; ++k) sum = hn::MulAdd(hn::LoadU(d, row + i + 4 * k), hn::Set(d, weights[k]), sum);
    hn::StoreU(heldColours(d, sum), d, out + i);
  }
}

// A row at `n` columns: the first of four pixels each, and how far beyond the second.
void cubicColumns(const float* row, int channels, const std::int32_t* column, const float* tx, int n, float* out) {
  const CubicColours colours;
  const D4 d;
  alignas(64) float shares[kChunk] = {};
  alignas(64) float across[4 * kChunk];
  const auto neighbours = [&](int i) HWY_ATTR {
    return [at = row + static_cast<std::ptrdiff_t>(column[i]) * 4](int float0)
               HWY_ATTR { return hn::LoadU(CubicColours::D(), at + float0); };
  };
  for (int begin = 0; begin < n; begin += kChunk, column += kChunk, tx += kChunk) {
    const int count = std::min(kChunk, n - begin);
    std::copy_n(tx, count, shares);
    weighAcross(polynomialsOf(Cubic::Convolution), shares, count, across);
    float* const to = out + static_cast<std::ptrdiff_t>(begin) * channels;
    int i = 0;
    if (channels == 4) {
      for (; i + CubicColours::kAtOnce <= count; i += CubicColours::kAtOnce)
        colours.several(
            across + 4 * i, [&](int k) HWY_ATTR { return neighbours(i + k); }, to + i * 4);
      for (; i < count; ++i) colours.one(across + 4 * i, neighbours(i), to + i * 4);
    }
    for (; i < count; ++i) to[i] = hn::GetLane(hn::SumOfLanes(d, hn::Mul(hn::LoadU(d, row + column[i]), hn::Load(d, across + 4 * i))));
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(bilinear);
HWY_EXPORT(cubicAt);
HWY_EXPORT(cubicLine);
HWY_EXPORT(cubicRows);
HWY_EXPORT(cubicShifted);
HWY_EXPORT(cubicColumns);

Plane wholePlane(const RowMaker& input, int width, int height) {
  Plane plane(width, height, input.channels());
  parallelBands(height, [&](int y0, int y1) { input.rows(y0, y1, plane.row(y0), plane.stride()); });
  return plane;
}

Edge edgeFromName(std::string_view name) {
  return name == "clamp"    ? Edge::Clamp
         : name == "wrap"   ? Edge::Wrap
         : name == "mirror" ? Edge::Mirror
         : name == "beyond" ? Edge::Beyond
                            : Edge::Transparent;
}

namespace {

// Calls `sample` for chunks of places with room behind the last.
template <class Sample>
void inChunks(int channels, const float* x, const float* y, int n, float* out, const Sample& sample) {
  alignas(64) float px[kChunk];
  alignas(64) float py[kChunk];
  for (int begin = 0; begin < n; begin += kChunk) {
    const int count = std::min(kChunk, n - begin);
    if (count == kChunk) {
      sample(x + begin, y + begin, count, out + static_cast<std::ptrdiff_t>(begin) * channels);
      continue;
    }
    std::copy_n(x + begin, count, px);
    std::copy_n(y + begin, count, py);
    // Behind the last place come some more of it.
    std::fill(px + count, px + std::min(kChunk, count + kSpanPadding), px[count - 1]);
    std::fill(py + count, py + std::min(kChunk, count + kSpanPadding), py[count - 1]);
    sample(px, py, count, out + static_cast<std::ptrdiff_t>(begin) * channels);
  }
}

}  // namespace

void samplePlane(const PlanePixels& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  inChunks(plane.channels, x, y, n, out, [&](const float* px, const float* py, int count, float* to) {
    HWY_DYNAMIC_DISPATCH(bilinear)(plane, edge, px, py, count, to);
  });
}

void weightsOf(Cubic cubic, double t, double* weights) {
  if (cubic == Cubic::Convolution) return cubicWeights(t, weights);
  const double s = 1 - t;
  weights[0] = s * s * s / 6;
  weights[1] = (3 * t * t * t - 6 * t * t + 4) / 6;
  weights[2] = (3 * s * s * s - 6 * s * s + 4) / 6;
  weights[3] = t * t * t / 6;
}

namespace {

// Rows that lie one below the other on the way down are read one after the other: what lies some rows further is fetched meanwhile, so far
// off that it has come when it is read.
std::ptrdiff_t aheadOf(const PlanePixels& plane, Point down) {
  const auto pixels = [](double v) { return std::isnan(v) ? 0 : static_cast<std::ptrdiff_t>(std::lround(std::clamp(6 * v, -64.0, 64.0))); };
  return pixels(down.y) * plane.stride + pixels(down.x) * plane.channels;
}

}  // namespace

void samplePlaneCubic(const PlanePixels& plane, Edge edge, const float* x, const float* y, int n, float* out, Cubic cubic, Point down) {
  inChunks(plane.channels, x, y, n, out, [&](const float* px, const float* py, int count, float* to) {
    HWY_DYNAMIC_DISPATCH(cubicAt)(plane, edge, px, py, 0, 0, count, to, polynomialsOf(cubic), aheadOf(plane, down));
  });
}

void sampleLineCubic(const PlanePixels& plane, Edge edge, Point at, Point step, int n, float* out, Cubic cubic, Point down) {
  HWY_DYNAMIC_DISPATCH(cubicLine)(plane, edge, at, step, n, out, polynomialsOf(cubic), aheadOf(plane, down));
}

void mixRowsCubic(const float* const* rows, const float* weights, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(cubicRows)(rows, weights, n, out);
}

void shiftRowCubic(const float* row, const float* weights, int n, float* out) { HWY_DYNAMIC_DISPATCH(cubicShifted)(row, weights, n, out); }

void sampleColumnsCubic(const float* row, int channels, const std::int32_t* column, const float* tx, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(cubicColumns)(row, channels, column, tx, n, out);
}

namespace {

class StoredRows final : public RowMaker {
 public:
  StoredRows(Plane plane, bool opaque) : plane_(std::move(plane)), opaque_(opaque) {}
  [[nodiscard]] int channels() const override { return plane_.channels(); }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  [[nodiscard]] const float* stored(int y) const override { return plane_.row(y); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      std::memcpy(out + (y - y0) * stride, plane_.row(y), sizeof(float) * static_cast<std::size_t>(plane_.width() * channels()));
  }

 private:
  Plane plane_;
  bool opaque_;
};

}  // namespace

std::unique_ptr<RowMaker> planeRows(Plane plane, bool opaque) { return std::make_unique<StoredRows>(std::move(plane), opaque); }

SourcePlane::SourcePlane(std::shared_ptr<const RowMaker> rows, int width, int height) : opaque_(rows->opaque()) {
  if (const float* first = rows->stored(0); first && height > 1) {
    pixels_ = {first, rows->stored(1) - first, width, height, rows->channels()};
    // What is stored lies in one piece.
    if (rows->stored(height - 1) == pixels_.row(height - 1)) {
      rows_ = std::move(rows);
      return;
    }
  }
  plane_ = wholePlane(*rows, width, height);
  pixels_ = plane_.pixels();
}

}  // namespace oa
#endif
