#include "shapes/line_art.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <span>

#include "base/parallel.h"
#include "base/pooled_vector.h"
#include "shapes/area_cover.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "shapes/line_art.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/num-inl.h"

#ifndef OA_LINE_ART_ONCE
#define OA_LINE_ART_ONCE
namespace oa {
namespace {

// A piece of a stroke, ready to be measured from.
struct StrokePiece {
  float x = 0, y = 0;              // where it begins
  float dx = 0, dy = 0;            // to its end
  float perLength2 = 0;            // 1 / its length squared
  float radius = 0, wider = 0;     // at its beginning, and how much more at its end
  float opacity = 1, clearer = 0;  // likewise
  float mix = 0, more = 0;
  std::int32_t left = 0, top = 0, right = 0, bottom = 0;  // the pixels that it can touch
  std::int32_t stroke = 0;
};

// What is nearest to each pixel of a row so far.
struct Nearest {
  float* distance;
  float* opacity;
  float* mix;
};

constexpr float kFarAway = 1e9F;

// The pieces that may touch a row, those of a stroke behind each other.
struct PiecesOfRow {
  const StrokePiece* all;
  const std::uint32_t* listed;
  std::size_t count;
  const Stroke* strokes;
  bool add;
  int y;
  int width;
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

template <class N>
struct Measured {
  N distance, opacity, mix;
};

// From the edge of a piece: it is outside of it by `distance`.
template <class N>
HWY_INLINE Measured<N> measured(const StrokePiece& p, N x, N y) {
  const N rx = x - N(p.x);
  const N ry = y - N(p.y);
  const N t = minOf(N(1.0), maxOf(N(0.0), (rx * N(p.dx) + ry * N(p.dy)) * N(p.perLength2)));
  const N ox = rx - t * N(p.dx);
  const N oy = ry - t * N(p.dy);
  return {rootOf(ox * ox + oy * oy) - (N(p.radius) + t * N(p.wider)), N(p.opacity) + t * N(p.clearer), N(p.mix) + t * N(p.more)};
}

template <class N>
HWY_INLINE N strokeCover(N distance, double softness) {
  if (softness <= 1) return minOf(N(1.0), maxOf(N(0.0), N(0.5) - distance));
  return softOf(N(0.5) - distance * N(1 / softness));
}

void measureRow(const StrokePiece& p, int y, int left, int right, const Nearest& nearest) {
  for (int x = left; x < right; x += Num::lanes()) {
    const Measured<Num> m = measured<Num>(p, Num::counting(x), Num(y));
    const Num before = Num::load(nearest.distance + x);
    whereLess(m.distance, before, m.opacity, Num::load(nearest.opacity + x)).store(nearest.opacity + x);
    whereLess(m.distance, before, m.mix, Num::load(nearest.mix + x)).store(nearest.mix + x);
    minOf(before, m.distance).store(nearest.distance + x);
  }
}

void layStroke(const float* colour, const float* second, double softness, bool add, int left, int right, const Nearest& nearest,
               float* row) {
  using Four = hn::FixedTag<float, 4>;
  const Four d;
  const auto first = hn::LoadU(d, colour);
  const auto more = hn::Sub(hn::LoadU(d, second), first);
  for (int x = left; x < right; x += Num::lanes()) {
    const Num cover = strokeCover<Num>(Num::load(nearest.distance + x), softness) * Num::load(nearest.opacity + x);
    // In its place nothing is near again, for the stroke that comes next.
    cover.store(nearest.opacity + x);
    Num(static_cast<double>(kFarAway)).store(nearest.distance + x);
  }
  // Pieces were measured in whole vectors from where each begins: a little further than that.
  std::fill_n(nearest.distance + right, kSpanPadding, kFarAway);
  for (int x = left; x < right; ++x) {
    const float cover = nearest.opacity[x];
    if (cover <= 0) continue;
    float* const to = row + static_cast<std::ptrdiff_t>(x) * 4;
    const auto source = hn::Mul(hn::MulAdd(more, hn::Set(d, nearest.mix[x]), first), hn::Set(d, cover));
    const auto under = hn::LoadU(d, to);
    hn::StoreU(
        add ? hn::Min(hn::Set(d, 1.0f), hn::Add(under, source)) : hn::NegMulAdd(hn::Broadcast<3>(source), under, hn::Add(under, source)), d,
        to);
  }
}

// Shares of a colour over what is there.
void layShares(const float* colour, const float* shares, int n, float* out) {
  using Four = hn::FixedTag<float, 4>;
  const Four d;
  const auto ink = hn::LoadU(d, colour);
  for (int x = 0; x < n; ++x, out += 4) {
    if (shares[x] <= 0) continue;
    const auto source = hn::Mul(ink, hn::Set(d, shares[x]));
    const auto under = hn::LoadU(d, out);
    hn::StoreU(hn::NegMulAdd(hn::Broadcast<3>(source), under, hn::Add(under, source)), d, out);
  }
}

// All pieces of a stroke are measured before it is laid down, so that none of it is painted twice.
void strokeRow(const PiecesOfRow& r, const Nearest& nearest, float* row) {
  int stroke = -1;
  int left = r.width;
  int right = 0;
  const auto lay = [&] {
    if (stroke < 0 || left >= right) return;
    const Stroke& s = r.strokes[stroke];
    layStroke(s.colour.data(), s.second.data(), s.softness, r.add, left, right, nearest, row);
    left = r.width;
    right = 0;
  };
  for (std::size_t i = 0; i < r.count; ++i) {
    const StrokePiece& p = r.all[r.listed[i]];
    if (r.y < p.top || r.y >= p.bottom) continue;
    if (p.stroke != stroke) {
      lay();
      stroke = p.stroke;
    }
    const int from = std::max(0, static_cast<int>(p.left));
    const int to = std::min(r.width, static_cast<int>(p.right));
    if (from >= to) continue;
    left = std::min(left, from);
    right = std::max(right, to);
    measureRow(p, r.y, from, to, nearest);
  }
  lay();
}

void measurePlain(const StrokePiece& p, int x, int y, double* out) {
  const Measured<double> m = measured<double>(p, x, y);
  out[0] = m.distance;
  out[1] = m.opacity;
  out[2] = m.mix;
}

double coverPlainStroke(double distance, double softness) { return strokeCover<double>(distance, softness); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(strokeRow);
HWY_EXPORT(layShares);
HWY_EXPORT(measurePlain);
HWY_EXPORT(coverPlainStroke);

namespace {

constexpr int kStripRows = 8;

// Fillings no larger than this, in pixels, as letters are, are covered at once, as long as there is room for all of them.
constexpr std::int64_t kSmallArea = std::int64_t{1} << 16;
constexpr std::int64_t kMostSmall = std::int64_t{1} << 23;

StrokePiece pieceOf(const StrokePoint& a, const StrokePoint& b, double softness) {
  StrokePiece p;
  const double dx = b.at.x - a.at.x;
  const double dy = b.at.y - a.at.y;
  const double length2 = dx * dx + dy * dy;
  p.x = static_cast<float>(a.at.x);
  p.y = static_cast<float>(a.at.y);
  p.dx = static_cast<float>(dx);
  p.dy = static_cast<float>(dy);
  p.perLength2 = length2 > 1e-12 ? static_cast<float>(1 / length2) : 0;
  // Thinner than a pixel, it is as wide as one and fainter: as much of it is seen.
  const auto seen = [](double radius) { return std::max(radius, 0.5); };
  const auto fainter = [](double radius) { return radius >= 0.5 ? 1.0 : 2 * std::max(0.0, radius); };
  p.radius = static_cast<float>(seen(a.radius));
  p.wider = static_cast<float>(seen(b.radius) - seen(a.radius));
  const double opacityA = a.opacity * fainter(a.radius);
  const double opacityB = b.opacity * fainter(b.radius);
  p.opacity = static_cast<float>(opacityA);
  p.clearer = static_cast<float>(opacityB - opacityA);
  p.mix = static_cast<float>(a.mix);
  p.more = static_cast<float>(b.mix - a.mix);
  const double reach = std::max(seen(a.radius), seen(b.radius)) + std::max(1.0, 0.5 * softness);
  const auto whole = [](double v) { return static_cast<std::int32_t>(std::clamp(v, -1e8, 1e8)); };
  p.left = whole(std::floor(std::min(a.at.x, b.at.x) - reach));
  p.right = whole(std::ceil(std::max(a.at.x, b.at.x) + reach) + 1);
  p.top = whole(std::floor(std::min(a.at.y, b.at.y) - reach));
  p.bottom = whole(std::ceil(std::max(a.at.y, b.at.y) + reach) + 1);
  return p;
}

bool finite(const StrokePoint& p) { return std::isfinite(p.at.x) && std::isfinite(p.at.y) && std::isfinite(p.radius); }

std::vector<StrokePiece> piecesOf(const Stroke& stroke, int index) {
  std::vector<StrokePiece> pieces;
  const auto& points = stroke.points;
  for (std::size_t i = 0; i + 1 < points.size() || (i == 0 && points.size() == 1); ++i) {
    const StrokePoint& next = points[std::min(i + 1, points.size() - 1)];
    if (!finite(points[i]) || !finite(next)) continue;
    pieces.push_back(pieceOf(points[i], next, stroke.softness));
    pieces.back().stroke = index;
  }
  return pieces;
}

std::vector<AreaEdge> edgesOf(const Filling& filling) {
  std::vector<AreaEdge> edges;
  const auto ok = [](Point p) { return std::isfinite(p.x) && std::isfinite(p.y) && std::abs(p.x) < 1e8 && std::abs(p.y) < 1e8; };
  for (const auto& line : filling.lines)
    for (std::size_t i = 0; i < line.size(); ++i) {
      const Point a = line[i];
      const Point b = line[(i + 1) % line.size()];
      if (a.y != b.y && ok(a) && ok(b)) edges.push_back({a, b});
    }
  return edges;
}

// Things sorted into strips of rows, each strip in their order.
template <class T>
class Strips {
 public:
  template <class Top, class Bottom>
  Strips(std::vector<T> all, int height, const Top& top, const Bottom& bottom) : all_(std::move(all)) {
    first_.assign(static_cast<std::size_t>((height + kStripRows - 1) / kStripRows) + 1, 0);
    const auto visit = [&](const T& t, const auto& with) {
      const int from = std::max(0, top(t)) / kStripRows;
      const int to = std::min(height, bottom(t));
      for (int s = from; s * kStripRows < to; ++s) with(static_cast<std::size_t>(s));
    };
    for (const T& t : all_) visit(t, [&](std::size_t s) { ++first_[s + 1]; });
    for (std::size_t s = 0; s + 1 < first_.size(); ++s) first_[s + 1] += first_[s];
    listed_.resize(first_.back());
    std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
    for (std::size_t i = 0; i < all_.size(); ++i)
      visit(all_[i], [&](std::size_t s) { listed_[next[s]++] = static_cast<std::uint32_t>(i); });
  }
  template <class With>
  void at(int y, const With& with) const {
    const auto s = static_cast<std::size_t>(y / kStripRows);
    for (std::size_t i = first_[s]; i < first_[s + 1]; ++i) with(all_[listed_[i]]);
  }
  [[nodiscard]] const std::vector<T>& all() const { return all_; }
  /// Which of them may touch a row.
  [[nodiscard]] std::span<const std::uint32_t> listed(int y) const {
    const auto s = static_cast<std::size_t>(y / kStripRows);
    return {listed_.data() + first_[s], first_[s + 1] - first_[s]};
  }

 private:
  std::vector<T> all_;
  std::vector<std::size_t> first_;
  std::vector<std::uint32_t> listed_;
};

using PieceStrips = Strips<StrokePiece>;
using EdgeStrips = Strips<AreaEdge>;

EdgeStrips edgeStrips(std::vector<AreaEdge> edges, int height) {
  return {std::move(edges), height, [](const AreaEdge& e) { return static_cast<int>(std::floor(std::min(e.from.y, e.to.y) - 0.5)); },
          [](const AreaEdge& e) { return static_cast<int>(std::ceil(std::max(e.from.y, e.to.y) + 0.5)) + 1; }};
}

PixelBox boxOf(const std::vector<AreaEdge>& edges) {
  PixelBox box{0, 0, 0, 0};
  for (const AreaEdge& e : edges)
    box = box.with(
        {static_cast<int>(std::floor(std::min(e.from.x, e.to.x))) - 1, static_cast<int>(std::floor(std::min(e.from.y, e.to.y))) - 1,
         static_cast<int>(std::ceil(std::max(e.from.x, e.to.x))) + 2, static_cast<int>(std::ceil(std::max(e.from.y, e.to.y))) + 2});
  return box;
}

std::vector<StrokePiece> allPieces(const LineArt& art) {
  std::vector<StrokePiece> all;
  for (std::size_t i = 0; i < art.strokes.size(); ++i) {
    const auto pieces = piecesOf(art.strokes[i], static_cast<int>(i));
    all.insert(all.end(), pieces.begin(), pieces.end());
  }
  return all;
}

class LineArtRows final : public RowMaker {
 public:
  LineArtRows(LineArt art, int width, int height)
      : art_(std::move(art)),
        width_(width),
        pieces_(
            allPieces(art_), height, [](const StrokePiece& p) { return p.top; }, [](const StrokePiece& p) { return p.bottom; }) {
    PixelBox box{0, 0, 0, 0};
    for (const StrokePiece& p : pieces_.all()) box = box.with({p.left, p.top, p.right, p.bottom});
    std::vector<std::vector<AreaEdge>> small(art_.fillings.size());
    std::size_t room = 0;
    for (std::size_t i = 0; i < art_.fillings.size(); ++i) {
      std::vector<AreaEdge> edges = edgesOf(art_.fillings[i]);
      PixelBox own = boxOf(edges);
      if (!own.empty()) box = box.with(own);
      own = own.within({0, 0, width, height});
      if (own.empty()) own = {0, 0, 0, 0};
      const std::int64_t area = std::int64_t{own.x1 - own.x0 + 2} * (own.y1 - own.y0);
      const bool atOnce = area <= kSmallArea && static_cast<std::int64_t>(room) + area <= kMostSmall;
      if (atOnce) {
        fills_.push_back({own, room, edgeStrips({}, 0)});
        small[i] = std::move(edges);
        room += static_cast<std::size_t>(area);
      } else {
        fills_.push_back({own, kInStrips, edgeStrips(std::move(edges), height)});
      }
    }
    shares_.resize(room);
    parallelBands(
        static_cast<int>(small.size()),
        [&](int from, int to) {
          for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i)
            if (const PixelBox& own = fills_[i].reach; fills_[i].first != kInStrips && !own.empty())
              coverBox(small[i].data(), small[i].size(), own.x0, own.y0, own.x1 - own.x0, own.y1 - own.y0,
                       shares_.data() + fills_[i].first);
        },
        8);
    here_.resize(static_cast<std::size_t>(height / kStripRows) + 1);
    for (std::size_t i = 0; i < fills_.size(); ++i)
      for (int strip = fills_[i].reach.y0 / kStripRows; strip * kStripRows < fills_[i].reach.y1; ++strip)
        here_[static_cast<std::size_t>(strip)].push_back(static_cast<std::uint32_t>(i));
    box_ = box.within({0, 0, width, height});
    if (box_.empty()) box_ = {0, 0, 0, 0};
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] PixelBox bounds() const override { return box_; }

  [[nodiscard]] std::optional<Tint> tint() const override {
    CommonTint one;
    for (const auto& filling : art_.fillings) one.add(filling.colour);
    return pieces_.all().empty() ? one.tint() : std::nullopt;
  }
  // What is only filled is made span by span: most of a picture it does not reach at all.
  [[nodiscard]] bool makesSpans() const override { return pieces_.all().empty(); }
  [[nodiscard]] bool costly() const override { return true; }
  void span(int y, int x0, int n, float* out) const override {
    std::memset(out, 0, sizeof(float) * 4 * static_cast<std::size_t>(n));
    paint(y, x0, n, out);
  }
  [[nodiscard]] bool paints() const override { return makesSpans(); }
  void paint(int y, int x0, int n, float* out) const override {
    if (y < box_.y0 || y >= box_.y1) return;
    float sums[kSpanStep + kSpanPadding];
    for (const std::uint32_t i : here_[static_cast<std::size_t>(y / kStripRows)]) {
      const PixelBox& reach = fills_[i].reach;
      if (y < reach.y0 || y >= reach.y1) continue;
      const int left = std::max(x0, reach.x0);
      const int right = std::min(x0 + n, reach.x1);
      if (left < right) fillPart(i, y, left, right, sums, out + static_cast<std::ptrdiff_t>(left - x0) * 4);
    }
  }

  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const auto room = static_cast<std::size_t>(width_) + 2 * kSpanPadding;
    std::vector<float> distance(room, kFarAway);
    std::vector<float> opacity(room);
    std::vector<float> mix(room);
    std::vector<float> sums(room);
    const Nearest nearest{distance.data(), opacity.data(), mix.data()};
    for (int y = y0; y < y1; ++y) {
      float* const row = out + (y - y0) * stride;
      std::memset(row, 0, sizeof(float) * 4 * static_cast<std::size_t>(width_));
      if (y < box_.y0 || y >= box_.y1) continue;
      for (const std::uint32_t i : here_[static_cast<std::size_t>(y / kStripRows)])
        if (const PixelBox& reach = fills_[i].reach; y >= reach.y0 && y < reach.y1)
          fillPart(i, y, reach.x0, reach.x1, sums.data(), row + static_cast<std::ptrdiff_t>(reach.x0) * 4);
      const auto listed = pieces_.listed(y);
      if (listed.empty()) continue;
      const PiecesOfRow pieces{pieces_.all().data(), listed.data(), listed.size(), art_.strokes.data(), art_.add, y, width_};
      HWY_DYNAMIC_DISPATCH(strokeRow)(pieces, nearest, row);
    }
  }

 private:
  // Columns [left, right) of a row, the first of them at `out`.
  void fillPart(std::size_t which, int y, int left, int right, float* sums, float* out) const {
    const std::array<float, 4>& colour = art_.fillings[which].colour;
    const Fill& fill = fills_[which];
    const float* shares = sums;
    if (fill.first != kInStrips) {
      const PixelBox& own = fill.reach;
      const auto stride = static_cast<std::size_t>(own.x1 - own.x0) + 2;
      shares = shares_.data() + fill.first + stride * static_cast<std::size_t>(y - own.y0) + static_cast<std::size_t>(left - own.x0);
    } else {
      RowCover cover(y, left, right - left, sums);
      fill.edges.at(y, [&](const AreaEdge& e) { cover.add(e); });
      if (!cover.finish()) return;
    }
    HWY_DYNAMIC_DISPATCH(layShares)(colour.data(), shares, right - left, out);
  }

  static constexpr std::size_t kInStrips = ~std::size_t{0};
  struct Fill {
    PixelBox reach;     // within the picture
    std::size_t first;  // of its shares, row by row; kInStrips: they are found from its edges where they are wanted
    EdgeStrips edges;
  };
  LineArt art_;
  int width_;
  PieceStrips pieces_;
  std::vector<Fill> fills_;
  RawPooledVector<float> shares_;                 // of those that are covered at once
  std::vector<std::vector<std::uint32_t>> here_;  // the fillings that reach into each strip of rows, in their order
  PixelBox box_;
};

}  // namespace

std::vector<StrokePoint> taperedPart(const MeasuredLine& line, double from, double to, double radius, double taper) {
  std::vector<StrokePoint> points;
  for (const auto& p : line.part(from, to, taper > 0 ? 24 : 1)) {
    double thick = 1;
    if (taper > 0) {
      const double t = std::min(1.0, std::min(p.t, 1 - p.t) / std::max(1e-6, taper / 2));
      thick = std::sqrt(t * (2 - t));
    }
    points.push_back({p.at, radius * thick});
  }
  return points;
}

std::unique_ptr<RowMaker> lineArtRows(LineArt art, int width, int height) {
  return std::make_unique<LineArtRows>(std::move(art), width, height);
}

std::array<double, 4> plainLineArtPixel(const LineArt& art, int x, int y) {
  std::array<double, 4> under{};
  const auto over = [&](const std::array<double, 4>& source, bool add) {
    for (std::size_t c = 0; c < 4; ++c) under[c] = add ? std::min(1.0, under[c] + source[c]) : source[c] + under[c] * (1 - source[3]);
  };
  for (const Filling& filling : art.fillings) {
    const auto edges = edgesOf(filling);
    // Moved so that the pixel is the first of its row, with all that lies left of it.
    std::vector<AreaEdge> moved = edges;
    for (AreaEdge& e : moved) {
      e.from.x -= x;
      e.to.x -= x;
    }
    float sums[3];
    coverRow(moved.data(), moved.size(), y, 0, 1, sums);
    std::array<double, 4> source{};
    for (std::size_t c = 0; c < 4; ++c) source[c] = static_cast<double>(sums[0]) * static_cast<double>(filling.colour[c]);
    over(source, false);
  }
  for (const Stroke& stroke : art.strokes) {
    double nearest[3] = {static_cast<double>(kFarAway), 0, 0};
    for (const StrokePiece& p : piecesOf(stroke, 0)) {
      if (x < p.left || x >= p.right || y < p.top || y >= p.bottom) continue;
      double here[3];
      HWY_DYNAMIC_DISPATCH(measurePlain)(p, x, y, here);
      if (here[0] < nearest[0]) std::copy_n(here, 3, nearest);
    }
    const double cover = HWY_DYNAMIC_DISPATCH(coverPlainStroke)(nearest[0], stroke.softness) * nearest[1];
    std::array<double, 4> source{};
    for (std::size_t c = 0; c < 4; ++c)
      source[c] = cover * (static_cast<double>(stroke.colour[c]) + nearest[2] * static_cast<double>(stroke.second[c] - stroke.colour[c]));
    over(source, art.add);
  }
  return under;
}

}  // namespace oa
#endif
