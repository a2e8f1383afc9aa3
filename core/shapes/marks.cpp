#include "shapes/marks.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstddef>
#include <cstring>
#include <hwy/cache_control.h>
#include <numbers>

#include "base/parallel.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "shapes/marks.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/bilinear-inl.h"
#include "image/counting-inl.h"
#include "shapes/outline_distance-inl.h"

#ifndef OA_MARKS_ONCE
#define OA_MARKS_ONCE
namespace oa {
namespace {

// The marks that touch some rows, and the rows to paint.
struct Strip {
  const MarkShape* shapes;
  const Mark* marks;
  const std::array<float, 4>* seconds;  // null where there are none
  const std::uint32_t* listed;
  std::size_t count;
  MarkBlend blend;
  int y0, y1;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

template <class N>
HWY_INLINE N coverOfMark(const MarkShape& shape, N x, N y, double pixel) {
  const N d = distanceTo(shape.outline, x, y);
  const N cover = coverOf(shape.outline, d, N(pixel));
  if (shape.glow <= 0) return cover;
  const N near = maxOf(N(0.0), N(1.0) - maxOf(N(0.0), d) * N(1 / shape.glow));
  return maxOf(cover, near * near * N(shape.glowStrength));
}

template <class N>
HWY_INLINE N shareOfSecond(const MarkShape& shape, N x, N y) {
  if (shape.outwards) return minOf(N(1.0), lengthOf(x * N(shape.alongX), y * N(shape.alongY)));
  return minOf(N(1.0), maxOf(N(0.0), x * N(shape.alongX) + y * N(shape.alongY) + N(shape.begin)));
}

// One pixel at a time, all four channels of it at once.
using Four = hn::FixedTag<float, 4>;

template <MarkBlend kBlend>
HWY_INLINE void blendPixel(hn::Vec<Four> source, float* to) {
  const Four d;
  const auto under = hn::LoadU(d, to);
  if constexpr (kBlend == MarkBlend::Over)
    hn::StoreU(hn::NegMulAdd(hn::Broadcast<3>(source), under, hn::Add(under, source)), d, to);
  else if constexpr (kBlend == MarkBlend::Add)
    hn::StoreU(hn::Min(hn::Set(d, 1.0f), hn::Add(under, source)), d, to);
  else
    hn::StoreU(hn::Max(under, source), d, to);
}

// The columns of a row that a circle can touch.
HWY_INLINE void narrow(const MarkShape& shape, const Mark& m, int y, int& left, int& right) {
  const OutlineShape& s = shape.outline;
  if (s.kind != OutlineShape::Kind::Circle && s.kind != OutlineShape::Kind::Dot) return;
  const double reach = s.a + std::max(static_cast<double>(m.pixel), std::max(0.5 * s.softness, shape.glow));
  // In the shape's measure the row is a line: the middle of it lies nearest to the middle of the circle.
  const double bx = m.xy * y + static_cast<double>(m.x0);
  const double by = m.yy * y + static_cast<double>(m.y0);
  const double slope2 = static_cast<double>(m.xx) * m.xx + static_cast<double>(m.yx) * m.yx;
  const double middle = -(bx * m.xx + by * m.yx) / slope2;
  const double away2 = bx * bx + by * by - middle * middle * slope2;
  const double half = std::sqrt(std::max(0.0, (reach * reach - away2) / slope2));
  left = std::max(left, static_cast<int>(std::ceil(middle - half)));
  right = std::min(right, static_cast<int>(std::floor(middle + half)) + 1);
}

template <MarkBlend kBlend>
void paintShape(const MarkShape& shape, const Mark& m, const float* second, int y, int left, int right, float* row) {
  const Four four;
  const auto colour = hn::LoadU(four, m.colour.data());
  const auto more = hn::Sub(hn::LoadU(four, second), colour);
  constexpr int kAtOnce = 64;
  HWY_ALIGN float cover[kAtOnce + kSpanPadding];
  HWY_ALIGN float share[kAtOnce + kSpanPadding];
  for (int x = left; x < right; x += kAtOnce) {
    const int n = std::min(kAtOnce, right - x);
    for (int i = 0; i < n; i += Num::lanes()) {
      const Num at = Num::counting(x + i);
      const Num px = mulAddOf(Num(m.xx), at, Num(m.xy * y + m.x0));
      const Num py = mulAddOf(Num(m.yx), at, Num(m.yy * y + m.y0));
      coverOfMark<Num>(shape, px, py, m.pixel).store(cover + i);
      if (shape.graded) shareOfSecond<Num>(shape, px, py).store(share + i);
    }
    float* const to = row + static_cast<std::ptrdiff_t>(x) * 4;
    if (shape.graded) {
      for (int i = 0; i < n; ++i)
        blendPixel<kBlend>(hn::Mul(hn::MulAdd(more, hn::Set(four, share[i]), colour), hn::Set(four, cover[i])), to + i * 4);
    } else {
      for (int i = 0; i < n; ++i) blendPixel<kBlend>(hn::Mul(colour, hn::Set(four, cover[i])), to + i * 4);
    }
  }
}

// Read between four pixels of the picture that is nearest in size.
template <MarkBlend kBlend>
void paintPicture(const MarkShape& shape, const Mark& m, int y, int left, int right, float* row) {
  const Four four;
  const StampPicture& picture = *shape.pictures[m.level];
  const float scaleX = static_cast<float>((picture.width() - 2 * kPictureBorder) / (2 * shape.halfWidth));
  const float scaleY = static_cast<float>((picture.height() - 2 * kPictureBorder) / (2 * shape.halfHeight));
  const float middleX = 0.5f * static_cast<float>(picture.width() - 1);
  const float middleY = 0.5f * static_cast<float>(picture.height() - 1);
  const auto opacity = hn::Set(four, m.colour[3]);
  // In one colour they are shares of it to the last bit, whatever reading between pixels leaves.
  const bool inOne = shape.tinted || shape.tint;
  alignas(16) float own[4] = {m.colour[0], m.colour[1], m.colour[2], m.colour[3]};
  for (std::size_t c = 0; c < 3 && !shape.tinted && shape.tint; ++c) own[c] = (*shape.tint)[c] * m.colour[3];
  const auto colour = hn::Load(four, own);
  const float mostX = static_cast<float>(picture.width()) - 1.001f;
  const float mostY = static_cast<float>(picture.height()) - 1.001f;
  // Only those columns whose places lie within, and one more on each side for what rounding does.
  const auto narrowed = [&](double at, double way, double most) {
    if (std::abs(way) < 1e-9) {
      if (at < -1 || at > most + 1) right = left;
      return;
    }
    const double one = -at / way;
    const double other = (most - at) / way;
    left = std::max(left, static_cast<int>(std::clamp(std::floor(std::min(one, other)) - 1, 0.0, 65536.0)));
    right = std::min(right, static_cast<int>(std::clamp(std::ceil(std::max(one, other)) + 2, 0.0, 65536.0)));
  };
  narrowed(static_cast<double>((m.xy * static_cast<float>(y) + m.x0) * scaleX + middleX), static_cast<double>(m.xx * scaleX),
           static_cast<double>(mostX));
  narrowed(static_cast<double>((m.yy * static_cast<float>(y) + m.y0) * scaleY + middleY), static_cast<double>(m.yx * scaleY),
           static_cast<double>(mostY));
  // Places are worked out some way ahead, so that what they read is asked of memory in time.
  const hn::CappedTag<float, 16> d;
  const hn::RebindToSigned<decltype(d)> di;
  constexpr int kAtOnce = 64;
  constexpr int kAhead = 12;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  HWY_ALIGN std::int32_t offset[kAtOnce + kAhead] = {};
  HWY_ALIGN std::int32_t block[kAtOnce];
  HWY_ALIGN float tx[kAtOnce];
  HWY_ALIGN float ty[kAtOnce];
  const auto fy = static_cast<float>(y);
  const auto blocks = hn::Set(di, picture.blocksAcross());
  const auto stride = hn::Set(di, static_cast<std::int32_t>(picture.stride()));
  for (int begin = left; begin < right; begin += kAtOnce) {
    const int n = std::min(kAtOnce, right - begin);
    for (int i = 0; i < n; i += lanes) {
      const auto x = countingFrom(d, static_cast<float>(begin + i));
      const auto u = hn::MulAdd(hn::MulAdd(hn::Set(d, m.xx), x, hn::Set(d, m.xy * fy + m.x0)), hn::Set(d, scaleX), hn::Set(d, middleX));
      const auto v = hn::MulAdd(hn::MulAdd(hn::Set(d, m.yx), x, hn::Set(d, m.yy * fy + m.y0)), hn::Set(d, scaleY), hn::Set(d, middleY));
      const auto heldU = hn::Max(hn::Zero(d), hn::Min(u, hn::Set(d, mostX)));
      const auto heldV = hn::Max(hn::Zero(d), hn::Min(v, hn::Set(d, mostY)));
      const auto column = hn::ConvertTo(di, heldU);
      const auto line = hn::ConvertTo(di, heldV);
      hn::Store(hn::Sub(heldU, hn::ConvertTo(d, column)), d, tx + i);
      hn::Store(hn::Sub(heldV, hn::ConvertTo(d, line)), d, ty + i);
      hn::Store(hn::Add(hn::Mul(line, stride), hn::ShiftLeft<2>(column)), di, offset + i);
      const auto lies =
          hn::Add(hn::Mul(hn::ShiftRight<StampPicture::kBlockBits>(line), blocks), hn::ShiftRight<StampPicture::kBlockBits>(column));
      const auto within = hn::RebindMask(di, hn::And(hn::Eq(u, heldU), hn::Eq(v, heldV)));
      hn::Store(hn::IfThenElse(within, lies, hn::Set(di, picture.emptyBlock())), di, block + i);
    }
    const float* const first = picture.row(0);
    for (int i = 0; i < n; ++i) {
      if (!picture.filled(block[i])) continue;
      const float* const upper = first + offset[i];
      const float* const lower = upper + picture.stride();
      hwy::Prefetch(first + offset[i + kAhead]);
      hwy::Prefetch(first + offset[i + kAhead] + picture.stride());
      const auto sample = betweenColours(upper, upper + 4, lower, lower + 4, tx[i], ty[i]);
      blendPixel<kBlend>(inOne ? hn::Mul(hn::Broadcast<3>(sample), colour) : hn::Mul(sample, opacity),
                         row + static_cast<std::ptrdiff_t>(begin + i) * 4);
    }
  }
}

// A small disc in one colour, as specks are: a row of it is one vector.
template <MarkBlend kBlend>
void paintSpeck(const MarkShape& shape, const Mark& m, const Strip& s, int end, float* out, std::ptrdiff_t stride) {
  const Four four;
  const auto colour = hn::LoadU(four, m.colour.data());
  const Num edge(0.5 + shape.outline.a / static_cast<double>(m.pixel));
  const Num perPixel(1 / static_cast<double>(m.pixel));
  const Num at = Num::counting(m.left);
  const int n = m.right - m.left;
  HWY_ALIGN float cover[16];
  const Num px0 = Num(m.xx) * at;
  const Num py0 = Num(m.yx) * at;
  for (int y = std::max(s.y0, static_cast<int>(m.top)); y < end; ++y) {
    const Num px = px0 + Num(m.xy * static_cast<float>(y) + m.x0);
    const Num py = py0 + Num(m.yy * static_cast<float>(y) + m.y0);
    minOf(Num(1.0), maxOf(Num(0.0), edge - lengthOf(px, py) * perPixel)).store(cover);
    float* const to = out + (y - s.y0) * stride + static_cast<std::ptrdiff_t>(m.left) * 4;
    for (int i = 0; i < n; ++i) blendPixel<kBlend>(hn::Mul(colour, hn::Set(four, cover[i])), to + i * 4);
  }
}

HWY_INLINE bool isSpeck(const MarkShape& shape, const Mark& m) {
  return shape.outline.kind == OutlineShape::Kind::Circle && shape.outline.line == 0 && shape.outline.softness <= 0 && shape.glow <= 0 &&
         !shape.graded && m.right - m.left <= Num::lanes();
}

template <MarkBlend kBlend>
void paintAll(const Strip& s, float* out, std::ptrdiff_t stride) {
  for (std::size_t i = 0; i < s.count; ++i) {
    // Marks lie in their own order, of which a strip has only some: what comes next is asked for in time.
    constexpr std::size_t kAhead = 8;
    if (i + kAhead < s.count) {
      const auto* const next = reinterpret_cast<const char*>(s.marks + s.listed[i + kAhead]);
      hwy::Prefetch(next);
      hwy::Prefetch(next + sizeof(Mark) - 1);
    }
    const Mark& m = s.marks[s.listed[i]];
    const MarkShape& shape = s.shapes[m.shape];
    const int end = std::min(s.y1, static_cast<int>(m.bottom));
    if (isSpeck(shape, m)) {
      paintSpeck<kBlend>(shape, m, s, end, out, stride);
      continue;
    }
    for (int y = std::max(s.y0, static_cast<int>(m.top)); y < end; ++y) {
      int left = m.left;
      int right = m.right;
      float* const row = out + (y - s.y0) * stride;
      if (!shape.pictures.empty()) {
        paintPicture<kBlend>(shape, m, y, left, right, row);
        continue;
      }
      narrow(shape, m, y, left, right);
      paintShape<kBlend>(shape, m, shape.graded ? s.seconds[s.listed[i]].data() : m.colour.data(), y, left, right, row);
    }
  }
}

void paintStrip(const Strip& s, float* out, std::ptrdiff_t stride) {
  switch (s.blend) {
    case MarkBlend::Over:
      return paintAll<MarkBlend::Over>(s, out, stride);
    case MarkBlend::Add:
      return paintAll<MarkBlend::Add>(s, out, stride);
    case MarkBlend::Lighter:
      return paintAll<MarkBlend::Lighter>(s, out, stride);
  }
}

void plainMark(const MarkShape& shape, const Mark& m, int x, int y, double* cover, double* second) {
  const double px = static_cast<double>(m.xx) * x + static_cast<double>(m.xy) * y + static_cast<double>(m.x0);
  const double py = static_cast<double>(m.yx) * x + static_cast<double>(m.yy) * y + static_cast<double>(m.y0);
  *cover = coverOfMark<double>(shape, px, py, m.pixel);
  *second = shape.graded ? shareOfSecond<double>(shape, px, py) : 0;
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(paintStrip);
HWY_EXPORT(plainMark);

namespace {

// Rows that marks are sorted into.
constexpr int kStripRows = 16;

// Which pixels of each strip any mark touches, by steps of a row.
class Touched {
 public:
  Touched(int strips, int width)
      : across_((width + kOfWord - 1) / kOfWord), words_(static_cast<std::size_t>(strips) * static_cast<std::size_t>(across_)) {}
  void add(int strip, int from, int to) {
    if (from >= to) return;
    const int first = from / kStep;
    const int last = (to - 1) / kStep;
    for (int word = first / kBits; word <= last / kBits; ++word) at(strip, word) |= bits(first - word * kBits, last + 1 - word * kBits);
  }
  [[nodiscard]] RowParts parts(int strip, int x0, int n) const {
    RowParts made;
    if (n <= 0) return made;
    const int last = (x0 + n - 1) / kStep;
    for (int step = x0 / kStep; step <= last;) {
      const int word = step / kBits;
      const std::uint64_t left =
          words_[static_cast<std::size_t>(strip) * static_cast<std::size_t>(across_) + static_cast<std::size_t>(word)] >>
          static_cast<unsigned>(step % kBits);
      if (left == 0) {
        step = (word + 1) * kBits;
        continue;
      }
      const int from = step + std::countr_zero(left);
      if (from > last) break;
      step = std::min(from + std::countr_one(left >> static_cast<unsigned>(from - step)), (word + 1) * kBits);
      made.add(std::max(from * kStep, x0), std::min(step * kStep, x0 + n));
    }
    return made;
  }

 private:
  static constexpr int kStep = kSpanPadding;
  static constexpr int kBits = 64;
  static constexpr int kOfWord = kStep * kBits;
  // Those from `from` to `to`, as far as a word has them.
  static std::uint64_t bits(int from, int to) {
    const auto below = [](int count) {
      return count >= kBits ? ~std::uint64_t{0} : (std::uint64_t{1} << static_cast<unsigned>(count)) - 1;
    };
    return below(std::max(0, to)) & ~below(std::max(0, from));
  }
  std::uint64_t& at(int strip, int word) {
    return words_[static_cast<std::size_t>(strip) * static_cast<std::size_t>(across_) + static_cast<std::size_t>(word)];
  }
  int across_;
  std::vector<std::uint64_t> words_;
};

class MarkRows final : public RowMaker {
 public:
  MarkRows(std::vector<MarkShape> shapes, Marks marks, SecondColours seconds, MarkBlend blend, const PlaneView& view)
      : shapes_(std::move(shapes)), marks_(std::move(marks)), seconds_(std::move(seconds)), blend_(blend), view_(view) {
    // Only the strips of each mark are looked at one after the other; they are few bytes.
    struct Span {
      std::int32_t first, last;
    };
    PooledVector<Span> spans(marks_.size());
    constexpr int kAtOnce = 4096;
    std::vector<PixelBox> boxes((marks_.size() + kAtOnce - 1) / kAtOnce);
    parallelBands(
        static_cast<int>(marks_.size()),
        [&](int from, int to) {
          PixelBox box{0, 0, 0, 0};
          for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
            const Mark& m = marks_[i];
            const bool seen = m.top < m.bottom;
            spans[i] = seen ? Span{m.top / kStripRows, (m.bottom - 1) / kStripRows} : Span{0, -1};
            if (seen) box = box.with({m.left, m.top, m.right, m.bottom});
          }
          boxes[static_cast<std::size_t>(from / kAtOnce)] = box;
        },
        kAtOnce);
    for (const PixelBox& box : boxes)
      if (!box.empty()) box_ = box_.with(box);
    if (box_.empty()) box_ = {0, 0, 0, 0};
    first_.assign(static_cast<std::size_t>((view.height + kStripRows - 1) / kStripRows) + 1, 0);
    for (const Span& span : spans)
      for (int s = span.first; s <= span.last; ++s) ++first_[static_cast<std::size_t>(s) + 1];
    for (std::size_t s = 0; s + 1 < first_.size(); ++s) first_[s + 1] += first_[s];
    listed_.resize(first_.back());
    std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
    for (std::size_t i = 0; i < spans.size(); ++i)
      for (int s = spans[i].first; s <= spans[i].last; ++s) listed_[next[static_cast<std::size_t>(s)]++] = static_cast<std::uint32_t>(i);
    touched_ = Touched(static_cast<int>(first_.size()) - 1, view.width);
    for (std::size_t i = 0; i < spans.size(); ++i)
      for (int s = spans[i].first; s <= spans[i].last; ++s) touched_.add(s, marks_[i].left, marks_[i].right);
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] PixelBox bounds() const override { return box_; }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override { return touched_.parts(y / kStripRows, x0, n).empty(); }
  [[nodiscard]] RowParts something(int y, int x0, int n) const override { return touched_.parts(y / kStripRows, x0, n); }
  [[nodiscard]] std::optional<Tint> tint() const override {
    const auto own = [](const MarkShape& s) { return !s.pictures.empty() && !s.tinted; };
    const bool plain = blend_ != MarkBlend::Add &&
                       std::none_of(shapes_.begin(), shapes_.end(), [&](const MarkShape& s) { return s.graded || (own(s) && !s.tint); });
    if (!plain) return std::nullopt;
    CommonTint one;
    for (const Mark& m : marks_) {
      const MarkShape& shape = shapes_[m.shape];
      one.add(own(shape) ? std::array<float, 4>{(*shape.tint)[0], (*shape.tint)[1], (*shape.tint)[2], 1} : m.colour);
    }
    return one.tint();
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y) std::memset(out + (y - y0) * stride, 0, sizeof(float) * 4 * static_cast<std::size_t>(view_.width));
    for (int from = y0; from < y1;) {
      const auto s = static_cast<std::size_t>(from / kStripRows);
      const int to = std::min(y1, (from / kStripRows + 1) * kStripRows);
      const Strip strip{shapes_.data(),
                        marks_.data(),
                        seconds_.empty() ? nullptr : seconds_.data(),
                        listed_.data() + first_[s],
                        first_[s + 1] - first_[s],
                        blend_,
                        from,
                        to};
      HWY_DYNAMIC_DISPATCH(paintStrip)(strip, out + (from - y0) * stride, stride);
      from = to;
    }
  }

 private:
  std::vector<MarkShape> shapes_;
  Marks marks_;
  SecondColours seconds_;
  MarkBlend blend_;
  PlaneView view_;
  std::vector<std::size_t> first_;
  PooledVector<std::uint32_t> listed_;
  Touched touched_{0, 0};
  PixelBox box_{0, 0, 0, 0};
};

// Of an edge that ramps over one pixel, coverage by distance makes too much. What is thin is to be fainter by as much; what is not would
// let through what lies below, for too little to be seen, and is to be smaller.
struct Evened {
  double fainter = 1;
  double smaller = 1;
};

Evened evened(const OutlineShape& s, double a, double b) {
  if (s.softness > 0 || s.kind == OutlineShape::Kind::Dot) return {};
  if (s.kind == OutlineShape::Kind::Rectangle && s.round < std::min(s.a, s.b)) {
    const auto along = [](double half) { return half >= 0.5 ? 1 : 2 * half / ((0.5 + half) * (0.5 + half)); };
    return {along(a) * along(b)};
  }
  constexpr double kMore = 1.0 / 12;  // as that of a circle
  constexpr double kThin = 2;
  constexpr double kThick = 4;
  const double r2 = a * b;
  const double r = a == b ? a : std::sqrt(r2);
  if (r < 0.5) return {r2 / ((0.5 + r) * (0.5 + r) * (0.5 + r) / 3)};
  const double fainter = std::lerp(r2 / (r2 + kMore), 1.0, std::clamp((r - kThin) / (kThick - kThin), 0.0, 1.0));
  return {fainter, std::sqrt(1 / fainter - kMore / r2)};
}

}  // namespace

bool placeMark(Mark& mark, const MarkShape& shape, const MarkPlace& place, const PlaneView& view, float& fainter) {
  if (!(place.size > 0) || !std::isfinite(place.size) || !std::isfinite(place.at.x) || !std::isfinite(place.at.y)) return false;
  const double turn = place.turn * (std::numbers::pi / 180);
  const double smaller = 1 / place.size;
  const double c = place.turn == 0 ? smaller : std::cos(turn) * smaller;
  const double s = place.turn == 0 ? 0 : std::sin(turn) * smaller;
  // From the plane to the shape: about its middle, turned back, sized back.
  const double m[4] = {c * place.stretchX, s * place.stretchX, -s, c};
  // Divisions are what takes time here.
  const double finer = 1 / view.scale;
  const double vx[4] = {view.xx * finer, view.xy * finer, view.yx * finer, view.yy * finer};
  const double xx = m[0] * vx[0] + m[1] * vx[2];
  const double xy = m[0] * vx[1] + m[1] * vx[3];
  const double yx = m[2] * vx[0] + m[3] * vx[2];
  const double yy = m[2] * vx[1] + m[3] * vx[3];
  const Point first = view.place(0, 0);
  const double dx = first.x - place.at.x;
  const double dy = first.y - place.at.y;
  mark.xx = static_cast<float>(xx);
  mark.xy = static_cast<float>(xy);
  mark.yx = static_cast<float>(yx);
  mark.yy = static_cast<float>(yy);
  const double x0 = m[0] * dx + m[1] * dy;
  const double y0 = m[2] * dx + m[3] * dy;
  mark.x0 = static_cast<float>(x0);
  mark.y0 = static_cast<float>(y0);
  const double determinant = xx * yy - xy * yx;
  const double area = std::abs(determinant);
  const double pixel = std::sqrt(area);
  mark.pixel = static_cast<float>(pixel);
  // What it covers, in pixels of the view: the half sizes through the inverse.
  // An edge is seen half a pixel beyond it; of a picture as far as its own pixels are read.
  double edge = 0.51 * pixel;
  if (!shape.pictures.empty()) {
    // The picture with at least as many pixels as it is shown in, or the last.
    const double wanted = 2 * shape.halfWidth / pixel;
    std::size_t level = 0;
    while (level + 1 < shape.pictures.size() && shape.pictures[level + 1]->width() - 2 * kPictureBorder >= wanted) ++level;
    mark.level = static_cast<std::uint16_t>(level);
    edge = pixel + 2 * shape.halfWidth / shape.pictures[level]->width();
  }
  const double beyond = std::max({0.5 * shape.outline.softness, shape.glow, edge});
  const double w = shape.halfWidth + beyond;
  const double h = shape.halfHeight + beyond;
  const double back = 1 / determinant;
  const double reachX = (std::abs(yy) * w + std::abs(xy) * h) * std::abs(back);
  const double reachY = (std::abs(yx) * w + std::abs(xx) * h) * std::abs(back);
  const Point middle{(xy * y0 - yy * x0) * back, (yx * x0 - xx * y0) * back};
  constexpr double kFar = 1e6;
  if (!(std::abs(middle.x) < kFar + reachX) || !(std::abs(middle.y) < kFar + reachY)) return false;
  const auto within = [](double v, int most) {
    return static_cast<std::uint16_t>(std::clamp(v, 0.0, std::min(65535.0, static_cast<double>(most))));
  };
  mark.left = within(std::ceil(middle.x - reachX), view.width);
  mark.right = within(std::floor(middle.x + reachX) + 1, view.width);
  mark.top = within(std::ceil(middle.y - reachY), view.height);
  mark.bottom = within(std::floor(middle.y + reachY) + 1, view.height);
  if (mark.left >= mark.right || mark.top >= mark.bottom) return false;
  if (shape.pictures.empty()) {
    const double perPixel = 1 / pixel;
    const Evened even = evened(shape.outline, shape.halfWidth * perPixel, shape.halfHeight * perPixel);
    fainter = static_cast<float>(even.fainter);
    // In its own measure all lies further away.
    if (even.smaller != 1)
      for (float* const v : {&mark.xx, &mark.xy, &mark.x0, &mark.yx, &mark.yy, &mark.y0, &mark.pixel})
        *v = static_cast<float>(static_cast<double>(*v) / even.smaller);
  } else {
    fainter = 1;
  }
  return true;
}

std::unique_ptr<RowMaker> markRows(std::vector<MarkShape> shapes, Marks marks, SecondColours seconds, MarkBlend blend,
                                   const PlaneView& view) {
  return std::make_unique<MarkRows>(std::move(shapes), std::move(marks), std::move(seconds), blend, view);
}

namespace {

std::array<double, 4> plainPicture(const MarkShape& shape, const Mark& m, int x, int y) {
  const StampPicture& picture = *shape.pictures[m.level];
  const double px = static_cast<double>(m.xx) * x + static_cast<double>(m.xy) * y + static_cast<double>(m.x0);
  const double py = static_cast<double>(m.yx) * x + static_cast<double>(m.yy) * y + static_cast<double>(m.y0);
  const double u = px * (picture.width() - 2 * kPictureBorder) / (2 * shape.halfWidth) + 0.5 * (picture.width() - 1);
  const double v = py * (picture.height() - 2 * kPictureBorder) / (2 * shape.halfHeight) + 0.5 * (picture.height() - 1);
  std::array<double, 4> sum{};
  if (!(u >= 0 && v >= 0 && u < picture.width() - 1.001 && v < picture.height() - 1.001)) return sum;
  const int iu = static_cast<int>(u);
  const int iv = static_cast<int>(v);
  for (int j = 0; j < 2; ++j)
    for (int i = 0; i < 2; ++i)
      for (std::size_t c = 0; c < 4; ++c)
        sum[c] += static_cast<double>(picture.row(iv + j)[(iu + i) * 4 + static_cast<int>(c)]) * (i == 1 ? u - iu : 1 - (u - iu)) *
                  (j == 1 ? v - iv : 1 - (v - iv)) * (shape.tinted ? 1 : static_cast<double>(m.colour[3]));
  if (shape.tinted) {
    const double cover = sum[3];
    for (std::size_t c = 0; c < 4; ++c) sum[c] = cover * static_cast<double>(m.colour[c]);
  }
  return sum;
}

}  // namespace

std::array<double, 4> plainMarkPixel(const std::vector<MarkShape>& shapes, const Marks& marks, const SecondColours& seconds,
                                     MarkBlend blend, int x, int y) {
  std::array<double, 4> under{};
  for (std::size_t i = 0; i < marks.size(); ++i) {
    const Mark& m = marks[i];
    if (x < m.left || x >= m.right || y < m.top || y >= m.bottom) continue;
    const MarkShape& shape = shapes[m.shape];
    std::array<double, 4> source{};
    if (!shape.pictures.empty()) {
      source = plainPicture(shape, m, x, y);
    } else {
      double cover = 0;
      double second = 0;
      HWY_DYNAMIC_DISPATCH(plainMark)(shape, m, x, y, &cover, &second);
      const std::array<float, 4>& far = shape.graded ? seconds[i] : m.colour;
      for (std::size_t c = 0; c < 4; ++c)
        source[c] = cover * (static_cast<double>(m.colour[c]) + second * static_cast<double>(far[c] - m.colour[c]));
    }
    for (std::size_t c = 0; c < 4; ++c) {
      if (blend == MarkBlend::Over)
        under[c] = source[c] + under[c] * (1 - source[3]);
      else if (blend == MarkBlend::Add)
        under[c] = std::min(1.0, under[c] + source[c]);
      else
        under[c] = std::max(under[c], source[c]);
    }
  }
  return under;
}

}  // namespace oa
#endif
