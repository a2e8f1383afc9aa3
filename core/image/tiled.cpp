#include "image/tiled.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/numbers.h"
#include "base/parallel.h"
#include "base/random.h"
#include "image/enlarged.h"
#include "image/grey.h"
#include "image/sampling.h"
#include "image/tile_places.h"

namespace oa {
namespace {

double wrapped(double v, double n) { return v - std::floor(v / n) * n; }

// Tiles are counted along an axis; mirrored ones are turned back.
double folded(const TileAxis& axis, double at, std::int64_t& index, TileSpot::Side& side) {
  if (!axis.tiled()) {
    index = 0;
    return at;
  }
  const double period = axis.period();
  const double place = at + 0.5 + axis.gap / 2;
  index = static_cast<std::int64_t>(std::floor(place / period));
  double within = place - static_cast<double>(index) * period;
  side.before = within;
  side.after = period - within;
  if (axis.kind == TileAxis::Kind::Mirror && floorMod(index, 2) == 1) {
    within = period - within;
    side.sign = -1;
  }
  return within - axis.gap / 2 - 0.5;
}

// How many of `n` pixels, each `step` further on, lie before the end of their tile; at least the first.
int untilTheEnd(const TileSpot::Side& side, double step, int n) {
  if (step == 0) return n;
  const double left = step > 0 ? std::ceil(side.after / step - 1e-9) : std::floor(side.before / -step + 1e-9) + 1;
  return static_cast<int>(std::clamp(left, 1.0, static_cast<double>(n)));
}

// Narrows [begin, end) to those places on a line that lie within `least` and `most`.
void narrowed(double at, double step, double least, double most, int& begin, int& end) {
  if (step == 0) {
    if (at < least || at > most) end = begin;
    return;
  }
  const double one = (least - at) / step;
  const double other = (most - at) / step;
  const auto whole = [](double v) { return static_cast<int>(std::clamp(v, -1e6, 1e6)); };
  begin = std::max(begin, whole(std::floor(std::min(one, other))));
  end = std::max(begin, std::min(end, whole(std::ceil(std::max(one, other))) + 1));
}

// Beyond a border's width all is alike.
double heldAt(double at, int size) { return std::clamp(at, -kTileBefore, size + kTileBehind) + kTileBorder; }

// A place on the picture that its tile shows, counted from its border's corner.
struct FacePlace {
  double x;
  double y;
};
FacePlace placeOn(const Tiling& t, const std::vector<TileFace>& others, const TileSpot& spot) {
  if (spot.face == 0) return {heldAt(spot.x, t.axes[0].size), heldAt(spot.y, t.axes[1].size)};
  const TileFace& face = others[static_cast<std::size_t>(spot.face - 1)];
  return {heldAt(spot.x * face.timesX + face.plusX, face.width), heldAt(spot.y * face.timesY + face.plusY, face.height)};
}

// Where in each row of a picture with its border there is anything, as far as a cubic that begins there sees it.
class InkRows {
 public:
  explicit InkRows(const PlanePixels& plane) : rows_(static_cast<std::size_t>(plane.height)) {
    std::vector<Part> own(rows_.size());
    for (int y = 0; y < plane.height; ++y) {
      const float* const row = plane.row(y);
      const auto empty = [&](int x) { return row[x * 4 + 3] == 0; };
      int first = 0;
      int last = plane.width - 1;
      while (first <= last && empty(first)) ++first;
      while (last > first && empty(last)) --last;
      if (first <= last) own[static_cast<std::size_t>(y)] = {first, last};
    }
    // It mixes the row before with two behind.
    for (int y = 0; y < plane.height; ++y)
      for (int k = std::max(0, y - 1); k <= std::min(plane.height - 1, y + 2); ++k)
        rows_[static_cast<std::size_t>(y)].take(own[static_cast<std::size_t>(k)]);
  }
  struct Part {
    int first = 1 << 29;
    int last = -(1 << 29);
    void take(const Part& o) { first = std::min(first, o.first), last = std::max(last, o.last); }
  };
  // For places from row to row.
  [[nodiscard]] Part between(double one, double other) const {
    const auto row = [&](double v) { return std::clamp(static_cast<int>(std::floor(v)), 0, static_cast<int>(rows_.size()) - 1); };
    Part part;
    for (int y = row(std::min(one, other)); y <= row(std::max(one, other)); ++y) part.take(rows_[static_cast<std::size_t>(y)]);
    return part;
  }

 private:
  std::vector<Part> rows_;
};

class TiledRows final : public RowMaker {
 public:
  TiledRows(const Tiling& tiling, const PlanePixels& tile, std::shared_ptr<const void> keep, int width, std::vector<TileFace> others)
      : t_(tiling),
        tile_(tile),
        keep_(std::move(keep)),
        own_{.pixels = tile, .width = tiling.axes[0].size, .height = tiling.axes[1].size, .keep = nullptr},
        others_(std::move(others)),
        width_(width),
        cubic_(tiling.light ? Cubic::Spline : Cubic::Convolution),
        upright_(tiling.to.xy == 0 && tiling.to.yx == 0),
        solid_((tiling.opaque ? tiling.box : tiling.solid).within({0, tiling.box.y0, width, tiling.box.y1})),
        exact_(tiling.exact && onlyCopies(tiling)) {
    t_.variety.workOut();
    // Much of a picture that has nothing round it is empty too, mostly; of a large one that takes longer to find out.
    const auto bare = [&](const TileAxis& axis) { return axis.edge() == Edge::Transparent; };
    constexpr std::ptrdiff_t kMostLookedAt = std::ptrdiff_t{1} << 18;
    std::ptrdiff_t pixels = static_cast<std::ptrdiff_t>(tile.width) * tile.height;
    for (const TileFace& face : others_) pixels += static_cast<std::ptrdiff_t>(face.pixels.width) * face.pixels.height;
    if (!t_.variety.on || t_.opaque || !bare(t_.axes[0]) || !bare(t_.axes[1]) || pixels > kMostLookedAt) return;
    ink_.emplace_back(tile);
    for (const TileFace& face : others_) ink_.emplace_back(face.pixels);
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return t_.opaque; }
  [[nodiscard]] bool hides(int y, int x0, int n) const override {
    return y >= solid_.y0 && y < solid_.y1 && x0 >= solid_.x0 && x0 + n <= solid_.x1;
  }
  [[nodiscard]] PixelBox bounds() const override { return t_.box; }
  // Turned ones are read in blocks, whose sources lie close together.
  [[nodiscard]] bool makesSpans() const override { return upright_; }

  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const bool slight = std::abs(t_.to.yx) < kSlight;
    // Of varied ones a row goes from tile to tile, and the fewer pieces it is made in the fewer are begun twice.
    const int block = !slight ? 64 : t_.variety.on ? width_ : kSpanStep;
    for (int x = 0; x < width_; x += block)
      for (int y = y0; y < y1; ++y) span(y, x, std::min(block, width_ - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * 4);
  }

  void span(int y, int x0, int n, float* out) const override {
    // What cannot be covered is not looked at.
    const int begin = std::clamp(t_.box.x0 - x0, 0, n);
    const int end = y < t_.box.y0 || y >= t_.box.y1 ? begin : std::clamp(t_.box.x1 - x0, begin, n);
    std::fill_n(out, static_cast<std::ptrdiff_t>(begin) * 4, 0.0f);
    std::fill_n(out + static_cast<std::ptrdiff_t>(end) * 4, static_cast<std::ptrdiff_t>(n - end) * 4, 0.0f);
    if (begin == end) return;
    float* const to = out + static_cast<std::ptrdiff_t>(begin) * 4;
    if (t_.variety.on)
      varied(y, x0 + begin, end - begin, to);
    else if (upright_ && t_.stagger != 2 && (!t_.light || std::abs(t_.to.xx) == 1))
      upright(y, x0 + begin, end - begin, to);
    else
      turned(y, x0 + begin, end - begin, to);
    // The weights of opaque pixels make 1 but for a rounding.
    if (exact_ || y < solid_.y0 || y >= solid_.y1) return;
    const int from = std::clamp(solid_.x0 - x0, begin, end);
    makeOpaque(out + static_cast<std::ptrdiff_t>(from) * 4, std::clamp(solid_.x1 - x0, from, end) - from);
  }

 private:
  // Tile by tile along the row, mixed down first and then across.
  void upright(int y, int x0, int n, float* out) const {
    TileSpot first = t_.spotAt(x0, y);
    const double v = heldAt(first.y, t_.axes[1].size);
    const int row = static_cast<int>(std::floor(v));
    const double ty = v - row;
    double w[4];
    weightsOf(cubic_, ty, w);
    const float down[4] = {static_cast<float>(w[0]), static_cast<float>(w[1]), static_cast<float>(w[2]), static_cast<float>(w[3])};
    const float* four[4];
    for (int k = 0; k < 4; ++k) four[k] = tile_.row(std::clamp(row + k - 1, 0, tile_.height - 1));
    const double step = t_.to.xx;
    alignas(64) float mixed[(kStretch + 8 + kSpanPadding) * 4];
    for (int i = 0; i < n;) {
      const TileSpot at = i == 0 ? first : t_.spotAt(x0 + i, y);
      const double direction = turnedBack(at.column) ? -step : step;
      // As many pixels as stay within this tile and whose sources fit.
      int count = std::min(n - i, static_cast<int>(std::min(1e6, kStretch / std::max(1e-9, std::abs(step)))));
      count = std::max(1, std::min(count, untilNextTile(at.x, direction)));
      const double begin = heldAt(at.x, t_.axes[0].size);
      const bool whole = std::abs(direction) == 1 && at.x >= -1 && at.x + direction * (count - 1) >= -1 && at.x <= t_.axes[0].size &&
                         at.x + direction * (count - 1) <= t_.axes[0].size;
      float* const to = out + static_cast<std::ptrdiff_t>(i) * 4;
      if (whole) {
        const int last = static_cast<int>(std::floor(begin));
        const double tx = begin - last;
        // Turned back the last pixel is the first of them in the picture.
        const bool back = direction < 0;
        const int column = back ? last - (count - 1) : last;
        alignas(64) float ahead[(kStretch + kSpanPadding) * 4];
        float* const made = back ? ahead : to;
        const float* from = tile_.row(row) + static_cast<std::ptrdiff_t>(column - 1) * 4;
        if (ty != 0 || t_.light) {
          const float* parts[4];
          for (int k = 0; k < 4; ++k) parts[k] = four[k] + static_cast<std::ptrdiff_t>(column - 1) * 4;
          mixRowsCubic(parts, down, (count + 3) * 4, mixed);
          from = mixed;
        }
        if (tx == 0 && ty == 0 && !t_.light) {
          std::memcpy(made, from + 4, sizeof(float) * static_cast<std::size_t>(count) * 4);
        } else {
          weightsOf(cubic_, tx, w);
          const float across[4] = {static_cast<float>(w[0]), static_cast<float>(w[1]), static_cast<float>(w[2]), static_cast<float>(w[3])};
          shifted(from, across, count, made);
        }
        if (back)
          for (int k = 0; k < count; ++k) std::memcpy(to + (count - 1 - k) * 4, made + k * 4, sizeof(float) * 4);
      } else {
        alignas(64) std::int32_t columns[kStretch + kSpanPadding];
        alignas(64) float shares[kStretch + kSpanPadding];
        count = std::min(count, kStretch);
        columnPlaces(at.x, direction, t_.axes[0].size, count, columns, shares);
        const int least = std::min(columns[0], columns[count - 1]);
        int most = std::max(columns[0], columns[count - 1]);
        // The border is as wide as what the last of them reads.
        most = std::min(most + 4, tile_.width);
        const float* parts[4];
        for (int k = 0; k < 4; ++k) parts[k] = four[k] + static_cast<std::ptrdiff_t>(least) * 4;
        mixRowsCubic(parts, down, (most - least) * 4, mixed);
        // A place at the very end is read with one more, of no weight; but nothing times what is no number is none.
        std::fill_n(mixed + static_cast<std::ptrdiff_t>(most - least) * 4, 4, 0.0f);
        for (int k = 0; k < count; ++k) columns[k] -= least;
        sampleColumnsCubic(mixed, 4, columns, shares, count, to);
      }
      i += count;
    }
  }

  // In whole pixels at the end of a stretch more is written than there is room for.
  static void shifted(const float* from, const float* across, int count, float* to) {
    const int safe = count / kSpanPadding * kSpanPadding;
    if (safe > 0) shiftRowCubic(from, across, safe, to);
    if (safe == count) return;
    alignas(64) float rest[2 * kSpanPadding * 4];
    alignas(64) float in[(2 * kSpanPadding + 4) * 4] = {};
    std::memcpy(in, from + static_cast<std::ptrdiff_t>(safe) * 4, sizeof(float) * static_cast<std::size_t>(count - safe + 3) * 4);
    shiftRowCubic(in, across, count - safe, rest);
    std::memcpy(to + static_cast<std::ptrdiff_t>(safe) * 4, rest, sizeof(float) * static_cast<std::size_t>(count - safe) * 4);
  }

  [[nodiscard]] bool turnedBack(std::int64_t column) const { return t_.axes[0].kind == TileAxis::Kind::Mirror && floorMod(column, 2) == 1; }

  // Pixels from a place within a tile until the tile ends.
  [[nodiscard]] int untilNextTile(double x, double direction) const {
    if (!t_.axes[0].tiled()) return 1 << 20;
    const double half = t_.axes[0].gap / 2 + 0.5;
    const double left = direction > 0 ? t_.axes[0].size - 1 + half - x : x + half;
    return static_cast<int>(std::clamp(std::ceil(left / std::max(1e-9, std::abs(direction)) - 1e-9), 1.0, 1e6));
  }

  void turned(int y, int x0, int n, float* out) const {
    alignas(64) float x[kSpanStep + kSpanPadding];
    alignas(64) float v[kSpanStep + kSpanPadding];
    // Counted from the tile that the first place lies in.
    const Point at = t_.to({static_cast<double>(x0), static_cast<double>(y)});
    const TileSpot first = t_.spotAt(x0, y);
    const TileAxis& across = t_.axes[0];
    const TileAxis& down = t_.axes[1];
    // Staggered rows lie further on by a share of a tile each, columns likewise.
    double u = at.x - (t_.stagger == 1 ? static_cast<double>(first.row) * t_.shift * across.period() : 0);
    double w = at.y - (t_.stagger == 2 ? static_cast<double>(first.column) * t_.shift * down.period() : 0);
    if (across.tiled()) u -= static_cast<double>(first.column) * across.period();
    if (down.tiled()) w -= static_cast<double>(first.row) * down.period();
    const double by = t_.stagger == 1 ? t_.shift * across.period() : t_.stagger == 2 ? t_.shift * down.period() : 0;
    foldedPlaces({TileFold(across, first.column), TileFold(down, first.row), static_cast<float>(u), static_cast<float>(w),
                  static_cast<float>(t_.to.xx), static_cast<float>(t_.to.yx), t_.stagger, static_cast<float>(by)},
                 n, x, v);
    samplePlaneCubic(tile_, Edge::Clamp, x, v, n, out, cubic_, {t_.to.xy, t_.to.yy});
  }

  // A run of pixels within one tile after the other.
  void varied(int y, int x0, int n, float* out) const {
    for (int i = 0; i < n;) {
      const TileSpot here = t_.spotAt(x0 + i, y);
      const int most = std::min(kSpanStep, n - i);
      const int count = std::min(untilTheEnd(here.sides[0], t_.to.xx, most), untilTheEnd(here.sides[1], t_.to.yx, most));
      run(here, count, out + static_cast<std::ptrdiff_t>(i) * 4);
      i += count;
    }
  }

  void run(const TileSpot& here, int n, float* out) const {
    const double dx = t_.to.xx * here.sides[0].sign;
    const double dy = t_.to.yx * here.sides[1].sign;
    // In the gaps there is nothing.
    int begin = 0;
    int end = n;
    if (t_.axes[0].edge() == Edge::Transparent) narrowed(here.x, dx, -2, t_.axes[0].size + 1, begin, end);
    if (t_.axes[1].edge() == Edge::Transparent) narrowed(here.y, dy, -2, t_.axes[1].size + 1, begin, end);
    const TileFace& face = here.face == 0 ? own_ : others_[static_cast<std::size_t>(here.face - 1)];
    if (!ink_.empty() && begin < end) {
      const auto down = [&](int i) { return (here.y + i * dy) * face.timesY + face.plusY + kTileBorder; };
      const InkRows::Part ink = ink_[static_cast<std::size_t>(here.face)].between(down(begin), down(end - 1));
      // Places of which none of four neighbours across is there, with some way to spare.
      const auto across = [&](double column) { return (column - kTileBorder - face.plusX) / face.timesX; };
      narrowed(here.x, dx, across(ink.first - 2.5), across(ink.last + 1.5), begin, end);
    }
    if (begin > 0) std::fill_n(out, static_cast<std::ptrdiff_t>(std::min(begin, n)) * 4, 0.0f);
    if (end < n) std::fill_n(out + static_cast<std::ptrdiff_t>(end) * 4, static_cast<std::ptrdiff_t>(n - end) * 4, 0.0f);
    if (begin >= end) return;
    const int count = end - begin;
    float* const to = out + static_cast<std::ptrdiff_t>(begin) * 4;
    // On a line in the picture that is shown.
    const Point step{dx * face.timesX, dy * face.timesY};
    const Point first{(here.x + begin * dx) * face.timesX + face.plusX, (here.y + begin * dy) * face.timesY + face.plusY};
    const auto within = [&](double at, double by, int size) {
      const double last = at + by * (count - 1);
      return std::min(at, last) >= -kTileBefore && std::max(at, last) <= size + kTileBehind;
    };
    if (within(first.x, step.x, face.width) && within(first.y, step.y, face.height))
      sampleLineCubic(face.pixels, Edge::Clamp, {first.x + kTileBorder, first.y + kTileBorder}, step, count, to, cubic_,
                      {t_.to.xy * here.sides[0].sign * face.timesX, t_.to.yy * here.sides[1].sign * face.timesY});
    else
      heldAtBorder(face, first, step, count, to);
    if (here.gain != 1) gained(to, count, static_cast<float>(here.gain));
  }

  void heldAtBorder(const TileFace& face, const Point& first, const Point& step, int n, float* out) const {
    alignas(64) float x[kSpanStep + kSpanPadding];
    alignas(64) float v[kSpanStep + kSpanPadding];
    const TileFold heldAcross({.kind = TileAxis::Kind::Edge, .size = face.width, .gap = 0}, 0);
    const TileFold heldDown({.kind = TileAxis::Kind::Edge, .size = face.height, .gap = 0}, 0);
    foldedPlaces({heldAcross, heldDown, static_cast<float>(first.x), static_cast<float>(first.y), static_cast<float>(step.x),
                  static_cast<float>(step.y), 0, 0},
                 n, x, v);
    samplePlaneCubic(face.pixels, Edge::Clamp, x, v, n, out, cubic_);
  }

  static constexpr int kStretch = kSpanStep;
  // Turned no more than this, a whole span still reads few of the tile's rows.
  static constexpr double kSlight = 0.2;

  Tiling t_;
  PlanePixels tile_;
  std::shared_ptr<const void> keep_;
  TileFace own_;
  std::vector<TileFace> others_;
  std::vector<InkRows> ink_;  // of each picture, or of none
  int width_;
  Cubic cubic_;
  bool upright_;
  PixelBox solid_;  // where all is opaque
  bool exact_;
};

}  // namespace

bool isQuarterTurn(const Tiling& t, const PlanePixels& tile) {
  return t.to.xx == 0 && t.to.yy == 0 && t.stagger == 0 && !t.variety.on &&
         static_cast<std::ptrdiff_t>(tile.width) * tile.height <= kMostFormed;
}

Tiling exchanged(Tiling t) {
  std::swap(t.axes[0], t.axes[1]);
  std::swap(t.to.xx, t.to.yx);
  std::swap(t.to.xy, t.to.yy);
  std::swap(t.to.x0, t.to.y0);
  return t;
}

Plane exchanged(const PlanePixels& tile) {
  Plane plane(tile.height, tile.width, 4);
  // Blocks that stay in the cache, whichever way they are read.
  constexpr int kBlock = 8;
  parallelBands(plane.height(), [&](int y0, int y1) {
    for (int top = y0; top < y1; top += kBlock)
      for (int left = 0; left < plane.width(); left += kBlock)
        for (int y = top; y < std::min(y1, top + kBlock); ++y)
          for (int x = left; x < std::min(plane.width(), left + kBlock); ++x)
            std::memcpy(plane.row(y) + static_cast<std::ptrdiff_t>(x) * 4, tile.row(x) + static_cast<std::ptrdiff_t>(y) * 4,
                        sizeof(float) * 4);
  });
  return plane;
}

bool onlyCopies(const Tiling& t) {
  const auto whole = [](double v) { return v == std::round(v); };
  const auto endless = [](const TileAxis& axis) { return axis.tiled() && axis.gap == 0; };
  return std::abs(t.to.xx) == 1 && std::abs(t.to.yy) == 1 && t.to.xy == 0 && t.to.yx == 0 && whole(t.to.x0) && whole(t.to.y0) &&
         endless(t.axes[0]) && endless(t.axes[1]) && t.stagger == 0 && !t.variety.on && !t.light;
}

Edge TileAxis::edge() const {
  switch (kind) {
    case Kind::Edge:
      return Edge::Clamp;
    case Kind::Repeat:
      return gap > 0 ? Edge::Transparent : Edge::Wrap;
    case Kind::Mirror:
      return gap > 0 ? Edge::Transparent : Edge::Mirror;
    default:
      return Edge::Transparent;
  }
}

Affine planeOf(const PlaneView& view) {
  return {view.xx / view.scale, view.xy / view.scale, view.planeX(0, 0), view.yx / view.scale, view.yy / view.scale, view.planeY(0, 0)};
}

Affine withWholeSteps(Affine map) {
  for (double* step : {&map.xx, &map.xy, &map.yx, &map.yy, &map.x0, &map.y0})
    if (std::abs(*step - std::round(*step)) < 1e-9) *step = std::round(*step);
  return map;
}

TileLook TileVariety::of(std::int64_t column, std::int64_t row) const {
  // Most are close to the first; dividing takes as long as all the rest.
  const auto within = [&](std::int64_t i) { return i >= 0 && i < period ? i : i < 0 && i >= -period ? i + period : floorMod(i, period); };
  const auto cell = static_cast<std::uint64_t>(within(row) * period + within(column));
  if (!known.empty()) return known[cell];
  const auto random = [&](std::uint64_t which) { return randomUnit(seed * 4 + which, cell); };
  constexpr std::uint64_t kFaces = std::uint64_t{1} << 32;
  const int face = faces > 1 ? static_cast<int>(randomUnit(seed * 4, kFaces + cell) * faces) : 0;
  return {random(0) < mirrored, moved * random(1), 1 + tinted * (2 * random(2) - 1), face};
}

void TileVariety::workOut() {
  constexpr int kFew = 8;
  if (!on || period > kFew || !known.empty()) return;
  std::vector<TileLook> made;
  for (int row = 0; row < period; ++row)
    for (int column = 0; column < period; ++column) made.push_back(of(column, row));
  known = std::move(made);
}

TileSpot Tiling::spotAt(double px, double py) const {
  const Point p = to({px, py});
  TileSpot spot;
  if (stagger == 1) {
    spot.y = folded(axes[1], p.y, spot.row, spot.sides[1]);
    spot.x = folded(axes[0], p.x - static_cast<double>(spot.row) * shift * axes[0].period(), spot.column, spot.sides[0]);
  } else {
    spot.x = folded(axes[0], p.x, spot.column, spot.sides[0]);
    const double by = stagger == 2 ? static_cast<double>(spot.column) * shift * axes[1].period() : 0;
    spot.y = folded(axes[1], p.y - by, spot.row, spot.sides[1]);
  }
  if (!variety.on) return spot;
  const TileLook one = variety.of(spot.column, spot.row);
  const double width = axes[0].size;
  if (one.mirrored) {
    spot.x = width - 1 - spot.x;
    spot.sides[0].sign = -spot.sides[0].sign;
  }
  if (one.moved > 0 && axes[0].tiled() && axes[0].gap == 0) {
    const double within = wrapped(spot.x + 0.5 + one.moved * width, width);
    spot.x = within - 0.5;
    // What leaves on one side comes in on the other.
    TileSpot::Side& side = spot.sides[0];
    side.before = std::min(side.before, side.sign > 0 ? within : width - within);
    side.after = std::min(side.after, side.sign > 0 ? width - within : within);
  }
  spot.gain = one.gain;
  spot.face = one.face;
  return spot;
}

std::unique_ptr<RowMaker> tiledRows(const Tiling& tiling, const PlanePixels& tile, std::shared_ptr<const void> keep, int width,
                                    std::vector<TileFace> others) {
  if (isQuarterTurn(tiling, tile)) {
    auto plane = std::make_shared<const Plane>(exchanged(tile));
    const PlanePixels pixels = plane->pixels();
    return std::make_unique<TiledRows>(exchanged(tiling), pixels, std::move(plane), width, std::vector<TileFace>());
  }
  return std::make_unique<TiledRows>(tiling, tile, std::move(keep), width, std::move(others));
}

std::array<double, 4> plainTilePixel(const Tiling& tiling, const PlanePixels& tile, const std::vector<TileFace>& others, int x, int y) {
  const TileSpot spot = tiling.spotAt(x, y);
  const FacePlace at = placeOn(tiling, others, spot);
  const PlanePixels& plane = spot.face == 0 ? tile : others[static_cast<std::size_t>(spot.face - 1)].pixels;
  double wx[4];
  double wy[4];
  cubicWeights(at.x - std::floor(at.x), wx);
  cubicWeights(at.y - std::floor(at.y), wy);
  std::array<double, 4> sum{};
  for (int j = 0; j < 4; ++j)
    for (int i = 0; i < 4; ++i) {
      const int column = std::clamp(static_cast<int>(std::floor(at.x)) + i - 1, 0, plane.width - 1);
      const int row = std::clamp(static_cast<int>(std::floor(at.y)) + j - 1, 0, plane.height - 1);
      for (std::size_t c = 0; c < 4; ++c) sum[c] += wx[i] * wy[j] * static_cast<double>(plane.row(row)[column * 4 + static_cast<int>(c)]);
    }
  sum[3] = std::clamp(sum[3], 0.0, 1.0);
  for (std::size_t c = 0; c < 3; ++c) sum[c] = std::min(sum[3], std::clamp(sum[c], 0.0, sum[3]) * spot.gain);
  return sum;
}

}  // namespace oa
