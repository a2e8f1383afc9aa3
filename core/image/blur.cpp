#include "image/blur.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <type_traits>
#include <vector>

#include "base/parallel.h"
#include "image/buffer.h"
#include "image/transfer.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/blur.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;

// out[i] = sum of taps[k] * in[i + k * step], i in [0, n): one row against itself shifted, or (through `rows`)
// several rows. Two vectors at once hide the latency of the multiply-adds.
void weightedRows(const float* const* rows, const float* taps, int count, int n, float* out) {
  const D d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  int i = 0;
  for (; i + 2 * lanes <= n; i += 2 * lanes) {
    auto a = hn::Zero(d);
    auto b = hn::Zero(d);
    for (int k = 0; k < count; ++k) {
      const auto w = hn::Set(d, taps[k]);
      a = hn::MulAdd(w, hn::LoadU(d, rows[k] + i), a);
      b = hn::MulAdd(w, hn::LoadU(d, rows[k] + i + lanes), b);
    }
    hn::StoreU(a, d, out + i);
    hn::StoreU(b, d, out + i + lanes);
  }
  for (; i < n; ++i) {
    float sum = 0;
    for (int k = 0; k < count; ++k) sum += taps[k] * rows[k][i];
    out[i] = sum;
  }
}

// Means of f neighbouring pixels of one row.
void reduceCells(const float* in, int cells, int f, int channels, float* out) {
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
    if (f >= kWide && kWide > 1) {
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

// A whole row where half a cell is one vector: weights stay in registers, and each cell is loaded once.
template <class Tag>
HWY_INLINE void enlargeRow(Tag d, const float* in, const float* const* weights, int cells, float* out) {
  const auto lanes = static_cast<std::ptrdiff_t>(hn::Lanes(d));
  using Vec = hn::Vec<Tag>;
  const Vec a0 = hn::LoadU(d, weights[0]), a1 = hn::LoadU(d, weights[1]), a2 = hn::LoadU(d, weights[2]), a3 = hn::LoadU(d, weights[3]);
  const Vec b0 = hn::LoadU(d, weights[0] + lanes), b1 = hn::LoadU(d, weights[1] + lanes);
  const Vec b2 = hn::LoadU(d, weights[2] + lanes), b3 = hn::LoadU(d, weights[3] + lanes);
  Vec c0 = hn::LoadDup128(d, in), c1 = hn::LoadDup128(d, in + 4), c2 = hn::LoadDup128(d, in + 8), c3 = hn::LoadDup128(d, in + 12);
  for (int c = 0; c < cells; ++c, in += 4, out += 2 * lanes) {
    const Vec c4 = hn::LoadDup128(d, in + 16);
    hn::StoreU(hn::MulAdd(c0, a0, hn::MulAdd(c1, a1, hn::MulAdd(c2, a2, hn::Mul(c3, a3)))), d, out);
    hn::StoreU(hn::MulAdd(c1, b0, hn::MulAdd(c2, b1, hn::MulAdd(c3, b2, hn::Mul(c4, b3)))), d, out + lanes);
    c0 = c1;
    c1 = c2;
    c2 = c3;
    c3 = c4;
  }
}

// `in` starts two cells before the picture; writes cells * f pixels.
void enlargeCells(const float* in, const float* const* weights, int cells, int f, int channels, float* out) {
  if (channels == 4) {
    if (f * 2 == static_cast<int>(hn::Lanes(D()))) return enlargeRow(D(), in, weights, cells, out);
    if (f == 4 && hn::MaxLanes(D()) >= 8) return enlargeRow(hn::CappedTag<float, 8>(), in, weights, cells, out);
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

HWY_EXPORT(weightedRows);
HWY_EXPORT(reduceCells);
HWY_EXPORT(enlargeCells);

namespace {

// Reach of the small filter: 3.5 standard deviations of at most 4 cells.
constexpr int kMostReach = 14;

// How one direction is blurred.
struct Axis {
  int size = 1;    // pixels
  int factor = 1;  // pixels in a cell
  int cells = 1;   // cells that cover the picture
  int reach = 0;   // taps on each side
  int pad = 0;     // cells before and after, ahead of filtering
  int keep = 0;    // cells before and after, once filtered
  std::vector<float> taps;
  std::vector<float> weights[4];  // B-spline, per pixel of a cell

  Axis(int pixels, double sigma) : size(pixels) {
    sigma = std::clamp(sigma, 0.0, kMaxSigma);
    while (sigma / factor >= 4) factor *= 2;
    double left = sigma;
    if (factor > 1) {
      const double f2 = static_cast<double>(factor) * factor;
      left = std::sqrt(sigma * sigma / f2 - (1 - 1 / f2) / 12 - 1.0 / 3);
      keep = 2;
    }
    cells = (size + factor - 1) / factor;
    reach = left < 0.05 ? 0 : static_cast<int>(std::ceil(left * 3.5));
    pad = reach + keep;
    double sum = 0;
    std::vector<double> exact;
    for (int k = -reach; k <= reach; ++k) {
      exact.push_back(reach == 0 ? 1 : std::exp(-0.5 * k * k / (left * left)));
      sum += exact.back();
    }
    for (const double t : exact) taps.push_back(static_cast<float>(t / sum));
    if (factor == 1) return;
    for (int i = 0; i < factor; ++i) {
      // Place of the pixel's centre between the centres of two cells.
      double t = (i + 0.5) / factor - 0.5;
      if (t < 0) t += 1;
      const double s = 1 - t;
      const double w[4] = {s * s * s / 6, (3 * t * t * t - 6 * t * t + 4) / 6, (3 * s * s * s - 6 * s * s + 4) / 6, t * t * t / 6};
      for (int k = 0; k < 4; ++k) weights[k].push_back(static_cast<float>(w[k]));
    }
  }
};

class Blur final : public RowMaker {
 public:
  Blur(const RowMaker& input, int width, int height, const BlurSettings& settings)
      : x_(width, settings.sigmaX),
        y_(height, settings.sigmaY),
        channels_(input.channels()),
        opaque_(input.opaque() && settings.edge != Edge::Transparent),
        edge_(settings.edge),
        linear_(settings.linearLight && channels_ == 4) {
    for (int k = 0; k < 4; ++k)
      for (const float w : x_.weights[k]) spread_[k].insert(spread_[k].end(), static_cast<std::size_t>(channels_), w);
    readInput(input);
    if (y_.factor > 1) filterDown();
  }

  [[nodiscard]] int channels() const override { return channels_; }
  [[nodiscard]] bool opaque() const override { return opaque_; }

  [[nodiscard]] bool makesSpans() const override { return true; }

  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < x_.size; x += kSpanStep)
        span(y, x, std::min(kSpanStep, x_.size - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * channels_);
  }

  void span(int y, int x0, int n, float* out) const override {
    // The cells under the span, and two more on each side where they are enlarged. Cells wider than a span
    // (blurs of many hundred pixels) are enlarged whole and cut.
    const int first = x_.factor > 1 ? x0 / x_.factor : x0;
    const int skip = x_.factor > 1 ? x0 - first * x_.factor : 0;
    const int cells = x_.factor > 1 ? (skip + n + x_.factor - 1) / x_.factor : n;
    const int count = (cells + 2 * x_.keep) * channels_;
    const float* from[2 * kMostReach + 1];
    int sources = 0;
    const float* weights = y_.taps.data();
    float four[4];
    const auto add = [&](const float* row) { from[sources++] = row + static_cast<std::ptrdiff_t>(first) * channels_; };
    if (y_.factor > 1) {
      const int place = y % y_.factor;
      const int upper = y / y_.factor + (place < y_.factor / 2 ? 0 : 1);
      for (int k = 0; k < 4; ++k) {
        four[k] = y_.weights[k][static_cast<std::size_t>(place)];
        add(small_.row(upper + k));
      }
      weights = four;
    } else {
      for (int k = -y_.reach; k <= y_.reach; ++k) {
        const int source = edgeIndex(edge_, y + k, y_.size);
        add(source < 0 ? nothing_.data() : small_.row(source));
      }
    }
    if (x_.factor == 1) {
      HWY_DYNAMIC_DISPATCH(weightedRows)(from, weights, sources, count, out);
    } else {
      alignas(128) float mixed[(kSpanStep + 8) * 4];
      HWY_DYNAMIC_DISPATCH(weightedRows)(from, weights, sources, count, mixed);
      const float* spread[4] = {spread_[0].data(), spread_[1].data(), spread_[2].data(), spread_[3].data()};
      const bool fits = skip == 0 && cells * x_.factor <= n + kSpanPadding;
      if (fits) {
        HWY_DYNAMIC_DISPATCH(enlargeCells)(mixed, spread, cells, x_.factor, channels_, out);
      } else {
        FloatBuffer wide(static_cast<std::size_t>(paddedRow(cells * x_.factor, channels_)));
        HWY_DYNAMIC_DISPATCH(enlargeCells)(mixed, spread, cells, x_.factor, channels_, wide.data());
        std::memcpy(out, wide.data() + static_cast<std::ptrdiff_t>(skip) * channels_,
                    sizeof(float) * static_cast<std::size_t>(n * channels_));
      }
    }
    if (linear_) encodeSpan(out, n);
  }

 private:
  // Across: each row of the input is extended, reduced, and (if the other direction has no small grid) filtered.
  void readInput(const RowMaker& input) {
    const int padded = x_.cells + 2 * x_.pad;
    const int kept = x_.cells + 2 * x_.keep;
    const bool filterNow = y_.factor == 1;
    reduced_ = Plane(filterNow ? kept : padded, y_.size, channels_);
    nothing_.assign(static_cast<std::size_t>(paddedRow(padded, channels_)), 0.0f);
    // The row's own whole cells are read where it lies; what sticks out on both sides is gathered in front.
    const int whole = x_.size / x_.factor;
    const std::ptrdiff_t pixel = channels_;
    const auto gathered = [&](std::int64_t from, std::int64_t to) {
      std::vector<int> sources;
      for (std::int64_t x = from; x < to; ++x) sources.push_back(edgeIndex(edge_, x, x_.size));
      return sources;
    };
    const std::vector<int> left = gathered(-std::int64_t{x_.pad} * x_.factor, 0);
    const std::vector<int> right = gathered(std::int64_t{whole} * x_.factor, std::int64_t{x_.cells + x_.pad} * x_.factor);
    const std::ptrdiff_t stride = paddedRow(x_.size, channels_);
    parallelBands(y_.size, [&](int y0, int y1) {
      // Sources make several rows at once more quickly than one by one.
      constexpr int kRun = 8;
      FloatBuffer made(static_cast<std::size_t>(stride * kRun));
      FloatBuffer cells(static_cast<std::size_t>(paddedRow(padded, channels_)));
      FloatBuffer outside(static_cast<std::size_t>(paddedRow(static_cast<int>(std::max(left.size(), right.size())), channels_)));
      const auto gather = [&](const float* row, const std::vector<int>& sources) {
        float* to = outside.data();
        const auto copy = [&](auto size) {
          for (const int source : sources) {
            if (source < 0)
              std::memset(to, 0, sizeof(float) * size);
            else
              std::memcpy(to, row + static_cast<std::ptrdiff_t>(source) * size, sizeof(float) * size);
            to += size;
          }
        };
        // A size known to the compiler makes each copy one instruction.
        if (pixel == 4)
          copy(std::integral_constant<std::ptrdiff_t, 4>());
        else
          copy(std::integral_constant<std::ptrdiff_t, 1>());
      };
      for (int y = y0; y < y1; ++y) {
        const float* row = linear_ ? nullptr : input.stored(y);
        if (!row) {
          const int place = (y - y0) % kRun;
          if (place == 0) input.rows(y, std::min(y1, y + kRun), made.data(), stride);
          float* own = made.data() + place * stride;
          if (linear_) decodeSpan(own, x_.size);
          row = own;
        }
        float* target = filterNow ? cells.data() : reduced_.row(y);
        const auto reduce = [&](const float* from, int count, float* to) {
          if (x_.factor > 1)
            HWY_DYNAMIC_DISPATCH(reduceCells)(from, count, x_.factor, channels_, to);
          else
            std::memcpy(to, from, sizeof(float) * static_cast<std::size_t>(count * channels_));
        };
        gather(row, left);
        reduce(outside.data(), x_.pad, target);
        reduce(row, whole, target + x_.pad * pixel);
        gather(row, right);
        reduce(outside.data(), padded - x_.pad - whole, target + (x_.pad + whole) * pixel);
        if (filterNow) filterAcross(target, kept, reduced_.row(y));
      }
    });
    if (filterNow) small_ = std::move(reduced_);
  }

  void filterAcross(const float* padded, int kept, float* out) const {
    std::vector<const float*> shifted;
    for (int k = 0; k < 2 * x_.reach + 1; ++k) shifted.push_back(padded + static_cast<std::ptrdiff_t>(k) * channels_);
    HWY_DYNAMIC_DISPATCH(weightedRows)(shifted.data(), x_.taps.data(), static_cast<int>(shifted.size()), kept * channels_, out);
  }

  // Down: the rows are reduced to cells beyond both edges, filtered both ways.
  void filterDown() {
    const int padded = x_.cells + 2 * x_.pad;
    const int kept = x_.cells + 2 * x_.keep;
    const int allRows = y_.cells + 2 * y_.pad;
    Plane cells(padded, allRows, channels_);
    const std::vector<float> mean(static_cast<std::size_t>(y_.factor), 1.0f / static_cast<float>(y_.factor));
    parallelBands(allRows, [&](int r0, int r1) {
      std::vector<const float*> from(static_cast<std::size_t>(y_.factor));
      for (int r = r0; r < r1; ++r) {
        for (int i = 0; i < y_.factor; ++i) {
          const int source = edgeIndex(edge_, static_cast<std::int64_t>(r - y_.pad) * y_.factor + i, y_.size);
          from[static_cast<std::size_t>(i)] = source < 0 ? nothing_.data() : reduced_.row(source);
        }
        HWY_DYNAMIC_DISPATCH(weightedRows)(from.data(), mean.data(), y_.factor, padded * channels_, cells.row(r));
      }
    });
    reduced_ = Plane();
    small_ = Plane(kept, y_.cells + 2 * y_.keep, channels_);
    parallelBands(small_.height(), [&](int r0, int r1) {
      FloatBuffer row(static_cast<std::size_t>(paddedRow(padded, channels_)));
      std::vector<const float*> from;
      for (int r = r0; r < r1; ++r) {
        from.clear();
        for (int k = 0; k < 2 * y_.reach + 1; ++k) from.push_back(cells.row(r + k));
        HWY_DYNAMIC_DISPATCH(weightedRows)(from.data(), y_.taps.data(), static_cast<int>(from.size()), padded * channels_, row.data());
        filterAcross(row.data(), kept, small_.row(r));
      }
    });
  }

  Axis x_;
  Axis y_;
  int channels_;
  bool opaque_;
  Edge edge_;
  bool linear_;
  std::vector<float> spread_[4];
  std::vector<float> nothing_;
  Plane reduced_;  // rows of the input, reduced across
  Plane small_;    // what rows() reads
};

}  // namespace

std::unique_ptr<RowMaker> blurred(const RowMaker& input, int width, int height, const BlurSettings& settings) {
  return std::make_unique<Blur>(input, width, height, settings);
}

}  // namespace oa
#endif
