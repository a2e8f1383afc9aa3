#include "words/letter_rows.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <numeric>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "words/letter_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "base/parallel.h"
#include "base/pooled_vector.h"
#include "image/bilinear-inl.h"
#include "image/counting-inl.h"
#include "image/shares-inl.h"
#include "simd/num-inl.h"

#ifndef OA_LETTER_ROWS_ONCE
#define OA_LETTER_ROWS_ONCE
namespace oa {
namespace {

// The columns of a row that a picture is read in, and where it is read in the first of them.
struct LetterRun {
  int left = 0;
  int right = 0;
  float u = 0, v = 0;
};

// A letter that reaches into a tile, and its rows.
struct LetterHere {
  int top, bottom;
  const LetterMark* mark;
  const LetterRun* runs;  // of each of its rows
};

// Pixels read between four others: what is not so far within the picture is nothing. More than floats are wrong by.
constexpr double kWithin = 4e-3;

// What stands at `n` places, in their stead. One by one: gathering is slow where processors were mended against reading others' data.
HWY_NOINLINE void readQuads(const std::uint32_t* cover, std::int32_t* places, int n) {
  for (int i = 0; i < n; ++i) places[i] = static_cast<std::int32_t>(cover[places[i]]);
}

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

using Four = hn::FixedTag<float, 4>;

HWY_INLINE void lay(hn::Vec<Four> source, float* to) {
  const Four d;
  hn::StoreU(hn::NegMulAdd(hn::Broadcast<3>(source), hn::LoadU(d, to), hn::Add(hn::LoadU(d, to), source)), d, to);
}

// Columns [from, to) of a run, at most kSpanStep of them, the first at `onto`; up to kSpanPadding pixels more are written as they are.
void layCover(const LetterMark& m, const LetterRun& run, int from, int to, float* onto) {
  using D = Num::D;
  const D d;
  const hn::RebindToSigned<D> di;
  const LetterPicture& p = *m.picture;
  const int lanes = Num::lanes();
  HWY_ALIGN float us[kSpanStep + kSpanPadding];
  HWY_ALIGN float vs[kSpanStep + kSpanPadding];
  HWY_ALIGN std::int32_t quads[kSpanStep + kSpanPadding];
  const auto wide = hn::Set(d, static_cast<float>(p.width));
  const int n = to - from;
  // Of a run all is within the picture; what the last vector has beyond it is not read. Places are whole numbers that floats can count.
  for (int i = 0; i < n; i += lanes) {
    const auto at = countingFrom(d, static_cast<float>(from + i - run.left));
    const auto u = hn::MulAdd(at, hn::Set(d, static_cast<float>(m.xx)), hn::Set(d, run.u));
    const auto v = hn::MulAdd(at, hn::Set(d, static_cast<float>(m.yx)), hn::Set(d, run.v));
    const auto wholeU = hn::Floor(u);
    const auto wholeV = hn::Floor(v);
    hn::Store(hn::Sub(u, wholeU), d, us + i);
    hn::Store(hn::Sub(v, wholeV), d, vs + i);
    // Below 2^23, behind which a float has no places: there its last bits are the number.
    const auto counted = hn::Add(hn::MulAdd(wholeV, wide, wholeU), hn::Set(d, 0x1p23F));
    hn::Store(hn::And(hn::BitCast(di, counted), hn::Set(di, 0x7FFFFF)), di, quads + i);
  }
  readQuads(p.cover.data(), quads, n);
  // As many whole pixels as there is room for, whose shares stand for all four of their channels.
  const auto ink = hn::LoadDup128(d, m.colour.data());
  const PixelShares<D> each;
  const auto perByte = hn::Set(d, static_cast<float>(p.most / 255));
  const auto opacity = hn::Set(d, m.colour[3]);
  const auto byte = hn::Set(di, 255);
  for (int i = 0; i < n; i += lanes) {
    const auto quad = hn::Load(di, quads + i);
    if (hn::AllTrue(di, hn::Eq(quad, hn::Zero(di)))) continue;
    const auto tu = hn::Load(d, us + i);
    const auto tv = hn::Load(d, vs + i);
    const auto a = hn::ConvertTo(d, hn::And(quad, byte));
    const auto b = hn::ConvertTo(d, hn::And(hn::ShiftRight<8>(quad), byte));
    const auto e = hn::ConvertTo(d, hn::And(hn::ShiftRight<16>(quad), byte));
    const auto f = hn::ConvertTo(d, hn::And(hn::ShiftRight<24>(quad), byte));
    const auto above = hn::MulAdd(hn::Sub(b, a), tu, a);
    const auto below = hn::MulAdd(hn::Sub(f, e), tu, e);
    // Beyond the last column nothing is laid: what is there stays as it is.
    const auto shares =
        hn::IfThenElseZero(hn::FirstN(d, static_cast<std::size_t>(n - i)), hn::Mul(hn::MulAdd(hn::Sub(below, above), tv, above), perByte));
    float* out = onto + static_cast<std::ptrdiff_t>(i) * 4;
    const auto layAt = [&](float* pixels, auto share) HWY_ATTR {
      const auto under = hn::LoadU(d, pixels);
      hn::StoreU(hn::MulAdd(share, hn::NegMulAdd(opacity, under, ink), under), d, pixels);
    };
    for (int k = 0; k < 4; ++k) layAt(out + k * lanes, each.of(k, shares));
  }
}

// The same of one in colours of its own.
void layColours(const LetterMark& m, const LetterRun& run, int from, int to, float* onto) {
  const Four four;
  const Plane& p = *m.picture->colours;
  const auto opacity = hn::Set(four, m.colour[3]);
  const auto mostU = static_cast<float>(p.width()) - 1.001f;
  const auto mostV = static_cast<float>(p.height()) - 1.001f;
  for (int x = from; x < to; ++x, onto += 4) {
    const auto at = static_cast<float>(x - run.left);
    const float u = std::clamp(run.u + at * static_cast<float>(m.xx), 0.0f, mostU);
    const float v = std::clamp(run.v + at * static_cast<float>(m.yx), 0.0f, mostV);
    const int iu = static_cast<int>(u);
    const int iv = static_cast<int>(v);
    const float* const upper = p.row(iv) + static_cast<std::ptrdiff_t>(iu) * 4;
    const float* const lower = p.row(iv + 1) + static_cast<std::ptrdiff_t>(iu) * 4;
    const auto sample = betweenColours(upper, upper + 4, lower, lower + 4, u - static_cast<float>(iu), v - static_cast<float>(iv));
    lay(hn::Mul(sample, opacity), onto);
  }
}

// The columns that each row of a letter's box is read in: what all of its sides leave.
void findRuns(const LetterMark& m, LetterRun* runs) {
  const hn::ScalableTag<double> d;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  HWY_ALIGN double lefts[hn::MaxLanes(d)];
  HWY_ALIGN double rights[hn::MaxLanes(d)];
  HWY_ALIGN double us[hn::MaxLanes(d)];
  HWY_ALIGN double vs[hn::MaxLanes(d)];
  for (int y = m.box.y0; y < m.box.y1; y += lanes) {
    const auto row = countingFrom(d, static_cast<double>(y));
    auto first = hn::Set(d, static_cast<double>(m.box.x0));
    auto last = hn::Set(d, static_cast<double>(m.box.x1 - 1));
    for (std::size_t k = 0; k < m.perRow.size(); ++k) {
      const auto moved = hn::Mul(hn::Set(d, m.perRow[k]), row);
      first = hn::Max(first, hn::Add(hn::Set(d, m.left[k]), moved));
      last = hn::Min(last, hn::Add(hn::Set(d, m.right[k]), moved));
    }
    // Within the box, which begins at 0 at the least; nothing where the first is beyond the last.
    const auto any = hn::Le(first, last);
    const auto left = hn::IfThenElseZero(any, hn::Ceil(first));
    const auto at = [&](double perColumn, double perRow, double base) HWY_ATTR {
      return hn::Add(hn::Add(hn::Mul(hn::Set(d, perColumn), left), hn::Mul(hn::Set(d, perRow), row)), hn::Set(d, base));
    };
    hn::Store(left, d, lefts);
    hn::Store(hn::IfThenElseZero(any, hn::Add(hn::Floor(last), hn::Set(d, 1.0))), d, rights);
    hn::Store(at(m.xx, m.xy, m.x0), d, us);
    hn::Store(at(m.yx, m.yy, m.y0), d, vs);
    const int rows = std::min(lanes, m.box.y1 - y);
    for (int i = 0; i < rows; ++i)
      *runs++ = {static_cast<int>(lefts[i]), static_cast<int>(rights[i]), static_cast<float>(us[i]), static_cast<float>(vs[i])};
  }
}

// Columns [x0, x1) of row `y` of a tile, the first at `onto`.
void paintLetters(const LetterHere* here, const LetterHere* end, int y, int x0, int x1, float* onto) {
  for (; here != end; ++here) {
    if (y < here->top || y >= here->bottom) continue;
    const LetterMark& m = *here->mark;
    const LetterRun run = here->runs[y - here->top];
    const int from = std::max(run.left, x0);
    const int to = std::min(run.right, x1);
    if (from >= to) continue;
    float* const there = onto + static_cast<std::ptrdiff_t>(from - x0) * 4;
    m.picture->colours ? layColours(m, run, from, to, there) : layCover(m, run, from, to, there);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(findRuns);
HWY_EXPORT(paintLetters);

namespace {

constexpr int kStripRows = 8;

// Keeps what lies within the ends, slope * x + perRow * y + base being where pixel (x, y) lies among them.
void keep(LetterMark& mark, std::size_t k, double slope, double perRow, double base, const LetterPicture::Ends& ends) {
  // Lines along the rows leave whole rows.
  if (std::abs(slope) < 1e-9) {
    const double a = (ends.low - base) / perRow;
    const double b = (ends.high - base) / perRow;
    PixelBox& box = mark.box;
    box.y0 = std::max(box.y0, static_cast<int>(std::ceil(std::clamp(std::min(a, b), -1e8, 1e8))));
    box.y1 = std::min(box.y1, static_cast<int>(std::floor(std::clamp(std::max(a, b), -1e8, 1e8))) + 1);
    return;
  }
  const double a = (ends.low - base) / slope;
  const double b = (ends.high - base) / slope;
  mark.left[k] = std::min(a, b);
  mark.right[k] = std::max(a, b);
  mark.perRow[k] = -perRow / slope;
}

class LetterRows final : public RowMaker {
 public:
  LetterRows(std::vector<LetterMark> marks, int width, int height)
      : marks_(std::move(marks)), width_(width), across_(static_cast<std::size_t>(width / kSpanStep) + 1) {
    first_.resize((static_cast<std::size_t>(height / kStripRows) + 1) * across_ + 1);
    const auto eachTile = [&](const PixelBox& box, const auto& take) {
      for (int strip = box.y0 / kStripRows; strip * kStripRows < box.y1; ++strip)
        for (int column = box.x0 / kSpanStep; column * kSpanStep < box.x1; ++column) take(tileOf(strip, column));
    };
    std::vector<std::size_t> rows(marks_.size() + 1);
    for (std::size_t i = 0; i < marks_.size(); ++i) {
      PixelBox& box = marks_[i].box;
      box = box.within({0, 0, width, height});
      rows[i + 1] = rows[i];
      if (box.empty()) continue;
      rows[i + 1] += static_cast<std::size_t>(box.y1 - box.y0);
      bounds_ = bounds_.with(box);
      eachTile(box, [&](std::size_t tile) { ++first_[tile + 1]; });
    }
    if (bounds_.empty()) bounds_ = {0, 0, 0, 0};
    std::partial_sum(first_.begin(), first_.end(), first_.begin());
    here_.resize(first_.back());
    runs_.resize(rows.back());
    std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
    for (std::size_t i = 0; i < marks_.size(); ++i)
      if (const PixelBox& box = marks_[i].box; !box.empty())
        eachTile(box, [&](std::size_t tile) { here_[next[tile]++] = {box.y0, box.y1, &marks_[i], runs_.data() + rows[i]}; });
    constexpr int kTogether = 16;
    parallelBands(
        static_cast<int>(marks_.size()),
        [&](int from, int to) {
          for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i)
            if (!marks_[i].box.empty()) HWY_DYNAMIC_DISPATCH(findRuns)(marks_[i], runs_.data() + rows[i]);
        },
        kTogether);
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override {
    for (int column = x0 / kSpanStep; column * kSpanStep < x0 + n; ++column)
      if (const std::size_t tile = tileOf(y / kStripRows, column); first_[tile] != first_[tile + 1]) return false;
    return true;
  }
  [[nodiscard]] PixelBox bounds() const override { return bounds_; }
  [[nodiscard]] std::optional<Tint> tint() const override {
    CommonTint one;
    for (const LetterMark& m : marks_) {
      if (m.picture->colours) return std::nullopt;
      one.add(m.colour);
    }
    return one.tint();
  }
  [[nodiscard]] bool makesSpans() const override { return true; }
  [[nodiscard]] bool costly() const override { return true; }
  [[nodiscard]] bool paints() const override { return true; }
  void paint(int y, int x0, int n, float* onto) const override {
    if (y < bounds_.y0 || y >= bounds_.y1) return;
    // Tile by tile, each for its own columns.
    for (int left = x0; left < x0 + n;) {
      const int column = left / kSpanStep;
      const int right = std::min(x0 + n, (column + 1) * kSpanStep);
      paintTile(y, column, left, right, onto + static_cast<std::ptrdiff_t>(left - x0) * 4);
      left = right;
    }
  }
  void span(int y, int x0, int n, float* out) const override {
    std::memset(out, 0, sizeof(float) * 4 * static_cast<std::size_t>(n));
    paint(y, x0, n, out);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < width_; x += kSpanStep)
        span(y, x, std::min(kSpanStep, width_ - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * 4);
  }

 private:
  [[nodiscard]] std::size_t tileOf(int strip, int column) const {
    return static_cast<std::size_t>(strip) * across_ + static_cast<std::size_t>(column);
  }
  void paintTile(int y, int column, int x0, int x1, float* onto) const {
    const std::size_t tile = tileOf(y / kStripRows, column);
    HWY_DYNAMIC_DISPATCH(paintLetters)
    (here_.data() + first_[tile], here_.data() + first_[tile + 1], y, x0, x1, onto);
  }

  std::vector<LetterMark> marks_;
  int width_;
  std::size_t across_;                // tiles in a strip
  std::vector<std::size_t> first_;    // of each tile's letters, and behind the last of them
  RawPooledVector<LetterHere> here_;  // the letters that reach into each tile, in their order
  RawPooledVector<LetterRun> runs_;   // of all rows of the letters' boxes, one letter after the other
  PixelBox bounds_{0, 0, 0, 0};
};

}  // namespace

LetterMark letterMark(std::shared_ptr<const LetterPicture> picture, const LetterPlace& place, const std::array<float, 4>& colour) {
  LetterMark m;
  m.colour = colour;
  const auto& [at, along, down] = place;
  const double area = along.x * down.y - down.x * along.y;
  const LetterPicture& p = *picture;
  // About its middle, turned and sized back, then as the picture is.
  m.xx = down.y / area * p.perEm.x;
  m.xy = -down.x / area * p.perEm.x;
  m.yx = -along.y / area * p.perEm.y;
  m.yy = along.x / area * p.perEm.y;
  m.x0 = -(m.xx * at.x + m.xy * at.y) - p.first.x * p.perEm.x;
  m.y0 = -(m.yx * at.x + m.yy * at.y) - p.first.y * p.perEm.y;
  double box[4] = {1e18, 1e18, -1e18, -1e18};
  for (const double u : {p.across.low, p.across.high})
    for (const double v : {p.down.low, p.down.high}) {
      const double ex = u / p.perEm.x + p.first.x;
      const double ey = v / p.perEm.y + p.first.y;
      const double x = at.x + ex * along.x + ey * down.x;
      const double y = at.y + ex * along.y + ey * down.y;
      box[0] = std::min(box[0], x), box[1] = std::min(box[1], y), box[2] = std::max(box[2], x), box[3] = std::max(box[3], y);
    }
  const auto whole = [](double v) { return static_cast<int>(std::clamp(v, -1e8, 1e8)); };
  m.box = {whole(std::floor(box[0])), whole(std::floor(box[1])), whole(std::ceil(box[2])) + 1, whole(std::ceil(box[3])) + 1};
  // So far within the picture that rounding leads to no pixel that is not there.
  const LetterPicture::Ends beside{std::max(p.across.low, kWithin), std::min(p.across.high, p.width - 1 - kWithin)};
  const LetterPicture::Ends below{std::max(p.down.low, kWithin), std::min(p.down.high, p.height - 1 - kWithin)};
  keep(m, 0, m.xx, m.xy, m.x0, beside);
  keep(m, 1, m.yx, m.yy, m.y0, below);
  keep(m, 2, m.xx + m.yx, m.xy + m.yy, m.x0 + m.y0, p.falling);
  keep(m, 3, m.xx - m.yx, m.xy - m.yy, m.x0 - m.y0, p.rising);
  m.picture = std::move(picture);
  return m;
}

std::unique_ptr<RowMaker> letterRows(std::vector<LetterMark> marks, int width, int height) {
  return std::make_unique<LetterRows>(std::move(marks), width, height);
}

std::array<double, 4> plainLetterPixel(const std::vector<LetterMark>& marks, int x, int y) {
  std::array<double, 4> under{};
  for (const LetterMark& m : marks) {
    const LetterPicture& p = *m.picture;
    const double u = m.xx * x + m.xy * y + m.x0;
    const double v = m.yx * x + m.yy * y + m.y0;
    if (!(u > kWithin && v > kWithin && u < p.width - 1 - kWithin && v < p.height - 1 - kWithin)) continue;
    const int iu = static_cast<int>(u);
    const int iv = static_cast<int>(v);
    std::array<double, 4> source{};
    for (int j = 0; j < 2; ++j)
      for (int i = 0; i < 2; ++i) {
        const double share = (i == 1 ? u - iu : 1 - (u - iu)) * (j == 1 ? v - iv : 1 - (v - iv));
        for (std::size_t c = 0; c < 4; ++c) {
          if (p.colours) {
            source[c] +=
                share * static_cast<double>(p.colours->row(iv + j)[(iu + i) * 4 + static_cast<int>(c)]) * static_cast<double>(m.colour[3]);
          } else {
            const auto at = static_cast<std::size_t>(iv + j) * static_cast<std::size_t>(p.width) + static_cast<std::size_t>(iu + i);
            source[c] += share * static_cast<double>(p.cover[at] & 255U) * (p.most / 255) * static_cast<double>(m.colour[c]);
          }
        }
      }
    for (std::size_t c = 0; c < 4; ++c) under[c] = source[c] + under[c] * (1 - source[3]);
  }
  return under;
}

}  // namespace oa
#endif
