#include "words/letter_rows.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "words/letter_rows.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/bilinear-inl.h"
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

// Pixels read between four others: what is not so far within the picture is nothing. More than floats are wrong by.
constexpr double kWithin = 4e-3;

// What four pixels have at `n` places of a picture, in their stead: (x, y), (x + 1, y), (x, y + 1), (x + 1, y + 1), from the lowest byte
// on. One by one: gathering is slow where processors were mended against reading others' data, and so is putting vectors together.
HWY_NOINLINE void readQuads(const std::uint8_t* cover, int width, std::int32_t* places, int n) {
  for (int i = 0; i < n; ++i) {
    const std::uint8_t* const upper = cover + places[i];
    const std::uint8_t* const lower = upper + width;
    const auto above = static_cast<std::uint32_t>(upper[0]) | static_cast<std::uint32_t>(upper[1]) << 8;
    const auto below = static_cast<std::uint32_t>(lower[0]) | static_cast<std::uint32_t>(lower[1]) << 8;
    places[i] = static_cast<std::int32_t>(above | below << 16);
  }
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
    const auto at = hn::Iota(d, static_cast<float>(from + i - run.left));
    const auto u = hn::MulAdd(at, hn::Set(d, static_cast<float>(m.xx)), hn::Set(d, run.u));
    const auto v = hn::MulAdd(at, hn::Set(d, static_cast<float>(m.yx)), hn::Set(d, run.v));
    const auto wholeU = hn::Floor(u);
    const auto wholeV = hn::Floor(v);
    hn::Store(hn::Sub(u, wholeU), d, us + i);
    hn::Store(hn::Sub(v, wholeV), d, vs + i);
    hn::Store(hn::ConvertTo(di, hn::MulAdd(wholeV, wide, wholeU)), di, quads + i);
  }
  readQuads(p.cover.data(), p.width, quads, n);
  // As many whole pixels as there is room for, whose shares stand for all four of their channels.
  const auto ink = hn::LoadDup128(d, m.colour.data());
  HWY_ALIGN std::int32_t spread[4][16];
  for (int k = 0; k < 4; ++k)
    for (int i = 0; i < lanes; ++i) spread[k][i] = k * (lanes / 4) + i / 4;
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
        hn::IfThenElseZero(hn::FirstN(d, static_cast<std::size_t>(n - i)),
                           hn::Mul(hn::MulAdd(hn::Sub(below, above), tv, above), hn::Set(d, static_cast<float>(p.most / 255))));
    float* out = onto + static_cast<std::ptrdiff_t>(i) * 4;
    for (int k = 0; k < 4; ++k, out += lanes) {
      const auto share = hn::TableLookupLanes(shares, hn::SetTableIndices(d, spread[k]));
      const auto under = hn::LoadU(d, out);
      hn::StoreU(hn::MulAdd(share, hn::NegMulAdd(opacity, under, ink), under), d, out);
    }
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

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(layCover);
HWY_EXPORT(layColours);

namespace {

constexpr int kStripRows = 8;

// Keeps the columns where base + slope * x lies within (0, most).
void narrow(double slope, double perSlope, double base, double most, double& from, double& to) {
  if (std::abs(slope) < 1e-12) {
    if (!(base > kWithin && base < most - kWithin)) to = from - 1;
    return;
  }
  const double a = (kWithin - base) * perSlope;
  const double b = a + (most - 2 * kWithin) * perSlope;
  from = std::max(from, std::min(a, b));
  to = std::min(to, std::max(a, b));
}

LetterRun runOf(const LetterMark& m, int y) {
  double from = m.box.x0;
  double to = m.box.x1 - 1;
  const double u = m.xy * y + m.x0;
  const double v = m.yy * y + m.y0;
  narrow(m.xx, m.perXx, u, m.picture->width - 1, from, to);
  narrow(m.yx, m.perYx, v, m.picture->height - 1, from, to);
  if (!(from <= to)) return {};
  // Within the box, which begins at 0 at the least.
  const int left = static_cast<int>(std::ceil(from));
  return {left, static_cast<int>(to) + 1, static_cast<float>(u + m.xx * left), static_cast<float>(v + m.yx * left)};
}

class LetterRows final : public RowMaker {
 public:
  LetterRows(std::vector<LetterMark> marks, int width, int height)
      : marks_(std::move(marks)),
        width_(width),
        across_(static_cast<std::size_t>(width / kSpanStep) + 1),
        here_((static_cast<std::size_t>(height / kStripRows) + 1) * across_) {
    for (std::size_t i = 0; i < marks_.size(); ++i) {
      PixelBox& box = marks_[i].box;
      box = box.within({0, 0, width, height});
      if (box.empty()) continue;
      bounds_ = bounds_.with(box);
      for (int strip = box.y0 / kStripRows; strip * kStripRows < box.y1; ++strip)
        for (int column = box.x0 / kSpanStep; column * kSpanStep < box.x1; ++column) here_[tileOf(strip, column)].push_back({box, i});
    }
    if (bounds_.empty()) bounds_ = {0, 0, 0, 0};
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] PixelBox bounds() const override { return bounds_; }
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
    for (const auto& [box, i] : here_[tileOf(y / kStripRows, column)]) {
      if (y < box.y0 || y >= box.y1) continue;
      const LetterMark& m = marks_[i];
      const LetterRun run = runOf(m, y);
      const int from = std::max(run.left, x0);
      const int to = std::min(run.right, x1);
      if (from >= to) continue;
      float* const there = onto + static_cast<std::ptrdiff_t>(from - x0) * 4;
      if (m.picture->colours)
        HWY_DYNAMIC_DISPATCH(layColours)(m, run, from, to, there);
      else
        HWY_DYNAMIC_DISPATCH(layCover)(m, run, from, to, there);
    }
  }

  std::vector<LetterMark> marks_;
  int width_;
  struct Here {
    PixelBox box;
    std::size_t mark;
  };
  std::size_t across_;                   // tiles in a strip
  std::vector<std::vector<Here>> here_;  // the letters that reach into each tile, in their order
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
  m.perXx = 1 / m.xx;
  m.perYx = 1 / m.yx;
  double box[4] = {1e18, 1e18, -1e18, -1e18};
  for (const double u : {0.0, static_cast<double>(p.width - 1)})
    for (const double v : {0.0, static_cast<double>(p.height - 1)}) {
      const double ex = u / p.perEm.x + p.first.x;
      const double ey = v / p.perEm.y + p.first.y;
      const double x = at.x + ex * along.x + ey * down.x;
      const double y = at.y + ex * along.y + ey * down.y;
      box[0] = std::min(box[0], x), box[1] = std::min(box[1], y), box[2] = std::max(box[2], x), box[3] = std::max(box[3], y);
    }
  const auto whole = [](double v) { return static_cast<int>(std::clamp(v, -1e8, 1e8)); };
  m.box = {whole(std::floor(box[0])), whole(std::floor(box[1])), whole(std::ceil(box[2])) + 1, whole(std::ceil(box[3])) + 1};
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
            source[c] += share * static_cast<double>(p.cover[at]) * (p.most / 255) * static_cast<double>(m.colour[c]);
          }
        }
      }
    for (std::size_t c = 0; c < 4; ++c) under[c] = source[c] + under[c] * (1 - source[3]);
  }
  return under;
}

}  // namespace oa
#endif
