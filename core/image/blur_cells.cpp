#include "image/blur_cells.h"

#include <cstddef>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/blur_cells.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

// So many vectors at once, which hides the latency of the multiply-adds.
template <int kVectors>
HWY_INLINE void weightedVectors(const float* const* rows, const float* taps, int count, int at, float* out) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  hn::Vec<D> sums[kVectors];
  for (auto& sum : sums) sum = hn::Zero(d);
  for (int k = 0; k < count; ++k) {
    const auto w = hn::Set(d, taps[k]);
    const float* const from = rows[k] + at;
    for (int v = 0; v < kVectors; ++v) sums[v] = hn::MulAdd(w, hn::LoadU(d, from + v * lanes), sums[v]);
  }
  for (int v = 0; v < kVectors; ++v) hn::StoreU(sums[v], d, out + at + v * lanes);
}

void weightedRowsOn(const float* const* rows, const float* taps, int count, int n, float* out) {
  const auto lanes = static_cast<int>(hn::Lanes(D()));
  int i = 0;
  for (; i + 4 * lanes <= n; i += 4 * lanes) weightedVectors<4>(rows, taps, count, i, out);
  for (; i + lanes <= n; i += lanes) weightedVectors<1>(rows, taps, count, i, out);
  // Rounded as above, so that a number is the same wherever a row is cut.
  const hn::CappedTag<float, 1> one;
  for (; i < n; ++i) {
    auto sum = hn::Zero(one);
    for (int k = 0; k < count; ++k) sum = hn::MulAdd(hn::Set(one, taps[k]), hn::LoadU(one, rows[k] + i), sum);
    hn::StoreU(sum, one, out + i);
  }
}

// Of one of kRows rows, which each begin one row further down, the share that row `k` has is added.
template <int kRows, int kVectors, class Sums>
HWY_INLINE void addShares(const float* row, const float* taps, int count, int k, Sums& sums) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  hn::Vec<D> in[kVectors];
  for (int v = 0; v < kVectors; ++v) in[v] = hn::LoadU(d, row + v * lanes);
  for (int j = 0; j < kRows; ++j) {
    if (k < j || k - j >= count) continue;
    const auto w = hn::Set(d, taps[k - j]);
    for (int v = 0; v < kVectors; ++v) sums[j][v] = hn::MulAdd(w, in[v], sums[j][v]);
  }
}
template <int kVectors>
HWY_INLINE void fourRows(const float* const* rows, const float* taps, int count, int at, float* const* out) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  constexpr int kRows = kRowsAtOnce;
  hn::Vec<D> sums[kRows][kVectors];
  for (auto& row : sums)
    for (auto& sum : row) sum = hn::Zero(d);
  for (int k = 0; k < count + kRows - 1; ++k) addShares<kRows, kVectors>(rows[k] + at, taps, count, k, sums);
  for (int j = 0; j < kRows; ++j)
    for (int v = 0; v < kVectors; ++v) hn::StoreU(sums[j][v], d, out[j] + at + v * lanes);
}

void weightedRowsFourOn(const float* const* rows, const float* taps, int count, int n, float* const* out) {
  const auto lanes = static_cast<int>(hn::Lanes(D()));
  int i = 0;
  for (; i + 2 * lanes <= n; i += 2 * lanes) fourRows<2>(rows, taps, count, i, out);
  for (; i + lanes <= n; i += lanes) fourRows<1>(rows, taps, count, i, out);
  const float* left[kMostWeighted];
  for (int j = 0; j < kRowsAtOnce && i < n; ++j) {
    for (int k = 0; k < count; ++k) left[k] = rows[k + j] + i;
    weightedRowsOn(left, taps, count, n - i, out[j] + i);
  }
}

void reduceCellsOn(const float* in, int cells, int f, int channels, float* out) {
  const float scale = 1.0f / static_cast<float>(f);
  if (channels == 1) {
    const hn::FixedTag<float, 4> d;
    for (int c = 0; c < cells; ++c) {
      const float* p = in + static_cast<std::ptrdiff_t>(c) * f;
      float sum = 0;
      if (f >= 4) {
        auto v = hn::LoadU(d, p);
        for (int i = 4; i < f; i += 4) v = hn::Add(v, hn::LoadU(d, p + i));
        sum = hn::GetLane(hn::SumOfLanes(d, v));
      } else {
        for (int i = 0; i < f; ++i) sum += p[i];
      }
      out[c] = sum * scale;
    }
    return;
  }
  const hn::FixedTag<float, 4> d;
  const hn::CappedTag<float, 16> wide;
  constexpr int kWide = hn::MaxLanes(wide) / 4;
  for (int c = 0; c < cells; ++c) {
    const float* p = in + static_cast<std::ptrdiff_t>(c) * f * 4;
    auto sum = hn::Zero(d);
    if (f > 4 && kWide > 1) {
      auto v = hn::LoadU(wide, p);
      for (int i = kWide; i < f; i += kWide) v = hn::Add(v, hn::LoadU(wide, p + i * 4));
      alignas(64) float parts[16];
      hn::Store(v, wide, parts);
      for (int i = 0; i < kWide; ++i) sum = hn::Add(sum, hn::Load(d, parts + i * 4));
    } else {
      for (int i = 0; i < f; ++i) sum = hn::Add(sum, hn::LoadU(d, p + i * 4));
    }
    hn::StoreU(hn::Mul(sum, hn::Set(d, scale)), d, out + c * 4);
  }
}

// Of as many taps as a compiler knows of they stay in registers.
template <int kTaps>
void thinPixels(const float* in, const float* taps, int step, int n, float* out) {
  const hn::FixedTag<float, 4> d;
  hn::Vec<decltype(d)> w[kTaps];
  for (int i = 0; i < kTaps; ++i) w[i] = hn::Set(d, taps[i]);
  for (int j = 0; j < n; ++j, in += static_cast<std::ptrdiff_t>(step) * 4) {
    auto sum = hn::Mul(w[0], hn::LoadU(d, in));
    for (int i = 1; i < kTaps; ++i) sum = hn::MulAdd(w[i], hn::LoadU(d, in + i * 4), sum);
    hn::StoreU(sum, d, out + static_cast<std::ptrdiff_t>(j) * 4);
  }
}

void thinCellsOn(const float* in, const float* taps, int count, int step, int n, int channels, float* out) {
  if (channels == 1) {
    for (int j = 0; j < n; ++j) {
      float sum = 0;
      for (int i = 0; i < count; ++i) sum += taps[i] * in[step * j + i];
      out[j] = sum;
    }
    return;
  }
  // Twice or four times as far apart, as axes ask for.
  if (count == 4) return thinPixels<4>(in, taps, step, n, out);
  if (count == 10) return thinPixels<10>(in, taps, step, n, out);
  const hn::FixedTag<float, 4> d;
  for (int j = 0; j < n; ++j) {
    const float* p = in + static_cast<std::ptrdiff_t>(step) * j * 4;
    auto sum = hn::Mul(hn::Set(d, taps[0]), hn::LoadU(d, p));
    for (int i = 1; i < count; ++i) sum = hn::MulAdd(hn::Set(d, taps[i]), hn::LoadU(d, p + i * 4), sum);
    hn::StoreU(sum, d, out + j * 4);
  }
}

// The four cubic B-spline weights of each of the f places in a cell, weights[k][place] repeated per channel.
template <class Tag>
HWY_INLINE void enlargeHalf(Tag d, const float* cells, const float* const* weights, int first, int count, float* out) {
  const auto c0 = hn::LoadDup128(d, cells);
  const auto c1 = hn::LoadDup128(d, cells + 4);
  const auto c2 = hn::LoadDup128(d, cells + 8);
  const auto c3 = hn::LoadDup128(d, cells + 12);
  for (int i = first * 4; i < (first + count) * 4; i += static_cast<int>(hn::Lanes(d))) {
    auto v = hn::Mul(c0, hn::LoadU(d, weights[0] + i));
    v = hn::MulAdd(c1, hn::LoadU(d, weights[1] + i), v);
    v = hn::MulAdd(c2, hn::LoadU(d, weights[2] + i), v);
    v = hn::MulAdd(c3, hn::LoadU(d, weights[3] + i), v);
    hn::StoreU(v, d, out + i);
  }
}

// A whole row where half a cell is kHalf vectors: weights stay in registers where there are enough, and each cell is
// loaded once.
template <int kHalf, class Tag>
HWY_INLINE void enlargeRow(Tag d, const float* in, const float* const* weights, int cells, float* out) {
  const auto lanes = static_cast<std::ptrdiff_t>(hn::Lanes(d));
  using Vec = hn::Vec<Tag>;
  Vec w[2 * kHalf][4];
  for (int part = 0; part < 2 * kHalf; ++part)
    for (int k = 0; k < 4; ++k) w[part][k] = hn::LoadU(d, weights[k] + part * lanes);
  Vec c0 = hn::LoadDup128(d, in), c1 = hn::LoadDup128(d, in + 4), c2 = hn::LoadDup128(d, in + 8), c3 = hn::LoadDup128(d, in + 12);
  for (int c = 0; c < cells; ++c, in += 4, out += 2 * kHalf * lanes) {
    const Vec c4 = hn::LoadDup128(d, in + 16);
    for (int part = 0; part < kHalf; ++part) {
      const Vec* a = w[part];
      const Vec* b = w[kHalf + part];
      hn::StoreU(hn::MulAdd(c0, a[0], hn::MulAdd(c1, a[1], hn::MulAdd(c2, a[2], hn::Mul(c3, a[3])))), d, out + part * lanes);
      hn::StoreU(hn::MulAdd(c1, b[0], hn::MulAdd(c2, b[1], hn::MulAdd(c3, b[2], hn::Mul(c4, b[3])))), d, out + (kHalf + part) * lanes);
    }
    c0 = c1;
    c1 = c2;
    c2 = c3;
    c3 = c4;
  }
}

void enlargeCellsOn(const float* in, const float* const* weights, int cells, int f, int channels, float* out) {
  if (channels == 4) {
    const auto lanes = static_cast<int>(hn::Lanes(D()));
    if (f * 2 == lanes) return enlargeRow<1>(D(), in, weights, cells, out);
    if (f == lanes) return enlargeRow<2>(D(), in, weights, cells, out);
    if (f == 4 && hn::MaxLanes(D()) >= 8) return enlargeRow<1>(hn::CappedTag<float, 8>(), in, weights, cells, out);
    if (f == 2) return enlargeRow<1>(hn::FixedTag<float, 4>(), in, weights, cells, out);
    for (int c = 0; c < cells; ++c) {
      const float* left = in + static_cast<std::ptrdiff_t>(c) * 4;
      float* o = out + static_cast<std::ptrdiff_t>(c) * f * 4;
      for (int half = 0; half < 2; ++half) {
        const float* four = left + half * 4;
        if (f >= 4 && f * 2 >= static_cast<int>(hn::Lanes(D())))
          enlargeHalf(D(), four, weights, half * f / 2, f / 2, o);
        else
          enlargeHalf(hn::FixedTag<float, 4>(), four, weights, half * f / 2, f / 2, o);
      }
    }
    return;
  }
  const hn::FixedTag<float, 4> d;
  for (int c = 0; c < cells; ++c) {
    float* o = out + static_cast<std::ptrdiff_t>(c) * f;
    for (int half = 0; half < 2; ++half) {
      const float* p = in + c + half;
      const int first = half * f / 2;
      const int last = first + f / 2;
      if (f >= 8) {
        for (int i = first; i < last; i += 4) {
          auto v = hn::Mul(hn::Set(d, p[0]), hn::LoadU(d, weights[0] + i));
          for (int k = 1; k < 4; ++k) v = hn::MulAdd(hn::Set(d, p[k]), hn::LoadU(d, weights[k] + i), v);
          hn::StoreU(v, d, o + i);
        }
      } else {
        for (int i = first; i < last; ++i) o[i] = p[0] * weights[0][i] + p[1] * weights[1][i] + p[2] * weights[2][i] + p[3] * weights[3][i];
      }
    }
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(weightedRowsOn);
HWY_EXPORT(weightedRowsFourOn);
HWY_EXPORT(reduceCellsOn);
HWY_EXPORT(thinCellsOn);
HWY_EXPORT(enlargeCellsOn);

void weightedRows(const float* const* rows, const float* taps, int count, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(weightedRowsOn)(rows, taps, count, n, out);
}
void weightedRowsFour(const float* const* rows, const float* taps, int count, int n, float* const* out) {
  HWY_DYNAMIC_DISPATCH(weightedRowsFourOn)(rows, taps, count, n, out);
}
void reduceCells(const float* in, int cells, int f, int channels, float* out) {
  HWY_DYNAMIC_DISPATCH(reduceCellsOn)(in, cells, f, channels, out);
}
void thinCells(const float* in, const float* taps, int count, int step, int n, int channels, float* out) {
  HWY_DYNAMIC_DISPATCH(thinCellsOn)(in, taps, count, step, n, channels, out);
}
void enlargeCells(const float* in, const float* const* weights, int cells, int f, int channels, float* out) {
  HWY_DYNAMIC_DISPATCH(enlargeCellsOn)(in, weights, cells, f, channels, out);
}

}  // namespace oa
#endif
