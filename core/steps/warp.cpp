// Warp by noise: every pixel is read some way off, as two noises say.
#include <algorithm>
#include <cmath>
#include <optional>
#include <tuple>
#include <vector>

#include "base/parallel.h"
#include "base/random.h"
#include "fields/edged.h"
#include "fields/field_params.h"
#include "fields/lattice.h"
#include "image/enlarged.h"
#include "image/sampling.h"
#include "image/strips.h"
#include "simd/lattice_noise.h"
#include "steps/step.h"

namespace oa {
namespace {

const std::vector<ParamSpec>& params() {
  namespace fp = field_params;
  static const std::vector<ParamSpec> list{
      {.id = "amount",
       .label = "Amount",
       .help = "How far pixels are moved, at most about twice this.",
       .base = 60.0,
       .min = 0,
       .max = 4096,
       .sliderMin = 0,
       .sliderMax = 400,
       .unit = Unit::Pixels},
      fp::cell(320, "Size of the bends: large ones sway, small ones crumple. Rounded so that whole cells fill the frame."),
      {.id = "detail",
       .label = "Detail",
       .help = "Layers of ever finer bends.",
       .type = ParamType::Integer,
       .base = 2.0,
       .min = 1,
       .max = 6,
       .unit = Unit::Count,
       .rule = LoopRule::Fixed},
      fp::churn(2, "How far the bends evolve within a lap."),
      fp::edges("mirror"),
      fp::seed(),
  };
  return list;
}

// Pixels of the view: what strips are read at lies within that.
constexpr float kFarthest = 2e6f;

// Noise reaches about 0.25 from its middle: this makes `amount` what a strong bend moves by.
constexpr double kGain = 4;

struct Bends {
  NoiseSettings across, down;
  double amount;     // pixels of the view
  double perSample;  // pixels between samples of the bends that are enough
  Edge edge;

  explicit Bends(const StepContext& context) {
    const PlaneView& view = context.view();
    const double rest = context.baseNumber("cell");
    const double zoom = context.number("cell") / rest;
    NoiseSettings s;
    s.periodX = std::max(1, static_cast<int>(std::lround(view.frameWidth / rest)));
    s.periodY = std::max(1, static_cast<int>(std::lround(view.frameHeight / rest)));
    const double cellWidth = view.frameWidth / s.periodX * zoom;
    const double cellHeight = view.frameHeight / s.periodY * zoom;
    const Axes axes = axesAlong(view, {0, 0}, {1 / cellWidth, 0}, {0, 1 / cellHeight});
    s.u0 = axes.u0;
    s.ux = axes.ux;
    s.uy = axes.uy;
    s.v0 = axes.v0;
    s.vx = axes.vx;
    s.vy = axes.vy;
    s.octaves = context.integer("detail");
    s.churn = context.integer("churn");
    s.progress = context.progress("churn");
    across = down = s;
    const auto seed = static_cast<std::uint64_t>(context.number("seed"));
    across.seed = static_cast<std::uint32_t>(mix64(seed * 2) >> 40);
    down.seed = static_cast<std::uint32_t>(mix64(seed * 2 + 1) >> 40);
    amount = context.number("amount") * view.scale * kGain;
    edge = edgeFromName(context.choice("edges"));
    // Cubics through samples this close miss the finest bends by less than a thousandth of their height.
    perSample = std::min(cellWidth, cellHeight) * view.scale / std::ldexp(12.0, s.octaves - 1);
  }
};

// How far each pixel is read off, along one direction of the plane: for each row four rows of `wide`, to be mixed.
class Shift {
 public:
  Shift(const NoiseSettings& settings, const PlaneView& view, double perSample) {
    NoiseSettings sampled = settings;
    if (perSample < 2) {
      wide_ = Plane(view.width, view.height, 1);
    } else {
      grid_.emplace(view, std::min(perSample, 16.0), 1);
      grid_->place(sampled);
    }
    Plane& to = room();
    const LatticeNoise noise(sampled, to.width());
    parallelBands(to.height(), [&](int y0, int y1) { noise.rows(y0, y1, to.row(y0), to.stride()); });
  }
  // Turns what two noises say into pixels across and down the plane.
  static void intoPixels(Shift& across, Shift& down, const double* m) {
    Plane& a = across.room();
    Plane& b = down.room();
    const float to[4] = {static_cast<float>(m[0]), static_cast<float>(m[1]), static_cast<float>(m[2]), static_cast<float>(m[3])};
    // Noise has its middle at a half.
    const float x = -0.5f * (to[0] + to[1]);
    const float y = -0.5f * (to[2] + to[3]);
    parallelBands(a.height(), [&](int y0, int y1) {
      for (int row = y0; row < y1; ++row) {
        float* const one = a.row(row);
        float* const other = b.row(row);
        for (int i = 0; i < a.width(); ++i) {
          const float u = one[i];
          const float v = other[i];
          one[i] = std::clamp(to[0] * u + to[1] * v + x, -kFarthest, kFarthest);
          other[i] = std::clamp(to[2] * u + to[3] * v + y, -kFarthest, kFarthest);
        }
      }
    });
    if (across.grid_) std::tie(across.wide_, down.wide_) = enlargedAcross(*across.grid_, *down.grid_);
  }
  // Where row `y` comes from.
  void row(int y, const float** from, float* weights) const {
    const int first = grid_ ? grid_->cellOf(y, weights) : y;
    for (int k = 0; k < 4; ++k) from[k] = wide_.row(grid_ ? first + k : y);
    if (!grid_)
      for (int k = 0; k < 4; ++k) weights[k] = k == 0 ? 1.0f : 0.0f;
  }
  [[nodiscard]] const std::optional<SampleGrid>& grid() const { return grid_; }
  [[nodiscard]] const Plane& samples() const { return grid_ ? grid_->plane : wide_; }
  // No shift is longer: a cubic goes no further beyond its samples.
  [[nodiscard]] double farthest() const {
    const int width = samples().width();
    // As many at once as a compiler likes.
    constexpr int kLanes = 16;
    std::vector<float> bands(static_cast<std::size_t>((samples().height() + kBandRows - 1) / kBandRows));
    parallelBands(samples().height(), [&](int y0, int y1) {
      float most[kLanes] = {};
      for (int y = y0; y < y1; ++y) {
        const float* const row = samples().row(y);
        int x = 0;
        for (; x + kLanes <= width; x += kLanes)
          for (int k = 0; k < kLanes; ++k) most[k] = std::max(most[k], std::abs(row[x + k]));
        for (; x < width; ++x) most[0] = std::max(most[0], std::abs(row[x]));
      }
      bands[static_cast<std::size_t>(y0 / kBandRows)] = *std::max_element(most, most + kLanes);
    });
    return 1.25 * 1.25 * static_cast<double>(*std::max_element(bands.begin(), bands.end()));
  }

 private:
  [[nodiscard]] Plane& room() { return grid_ ? grid_->plane : wide_; }
  std::optional<SampleGrid> grid_;
  Plane wide_;  // at all pixels of a row; for each of the grid's rows, or for every one
};

// How far beyond a view its pixels are read.
struct Margins {
  double left = 0, top = 0, right = 0, bottom = 0;
  void take(const Margins& other) {
    left = std::max(left, other.left), top = std::max(top, other.top);
    right = std::max(right, other.right), bottom = std::max(bottom, other.bottom);
  }
};

// Where the shifts of every pixel are there.
Margins marginsByPixel(const Plane& across, const Plane& down, int width, int height) {
  std::vector<Margins> bands(static_cast<std::size_t>((height + kBandRows - 1) / kBandRows));
  parallelBands(height, [&](int y0, int y1) {
    Margins& far = bands[static_cast<std::size_t>(y0 / kBandRows)];
    for (int y = y0; y < y1; ++y) {
      const float* const a = across.row(y);
      const auto [up, on] = std::minmax_element(down.row(y), down.row(y) + width);
      float left = 0;
      auto right = static_cast<float>(width - 1);
      for (int x = 0; x < width; ++x) {
        const float at = static_cast<float>(x) + a[x];
        left = std::min(left, at);
        right = std::max(right, at);
      }
      far.take({-static_cast<double>(left), -(y + static_cast<double>(*up)), static_cast<double>(right) - (width - 1),
                y + static_cast<double>(*on) - (height - 1)});
    }
  });
  Margins far;
  for (const Margins& band : bands) far.take(band);
  return far;
}

// What cubics between the samples of a column of cells reach, as a line of numbers each: the least and the most of each sample and the
// three behind it, for four rows that follow each other, and what is beyond them.
class CellColumns {
 public:
  explicit CellColumns(int columns) : n_(static_cast<std::size_t>(columns)) {
    for (auto& row : least_) row.resize(n_);
    for (auto& row : most_) row.resize(n_);
    low.assign(n_, 1e9f);
    high.assign(n_, -1e9f);
  }
  // Takes the next row of samples; those of four make cells.
  void add(const float* row, int j) { spans(row, n_, least_[j % 4].data(), most_[j % 4].data()); }
  // How far the cells between the last four rows reach, counted from `top` and `bottom`.
  void reach(float top, float bottom) {
    reach(least_[0].data(), least_[1].data(), least_[2].data(), least_[3].data(), most_[0].data(), most_[1].data(), most_[2].data(),
          most_[3].data(), n_, top, bottom, low.data(), high.data());
  }
  std::vector<float> low, high;  // of each column of cells

 private:
  // Written so that compilers work on whole vectors: nothing that is read is written.
  static void spans(const float* row, std::size_t n, float* __restrict least, float* __restrict most) {
    for (std::size_t i = 0; i < n; ++i) {
      least[i] = std::min(std::min(row[i], row[i + 1]), std::min(row[i + 2], row[i + 3]));
      most[i] = std::max(std::max(row[i], row[i + 1]), std::max(row[i + 2], row[i + 3]));
    }
  }
  // A cubic leaves what its samples span by no more than so much of it, as the negative ones of its weights are an eighth together at
  // most, along either direction.
  static void reach(const float* l0, const float* l1, const float* l2, const float* l3, const float* m0, const float* m1, const float* m2,
                    const float* m3, std::size_t n, float top, float bottom, float* __restrict low, float* __restrict high) {
    constexpr float kBeyond = 1.25f * 1.25f / 2 - 0.5f;
    for (std::size_t i = 0; i < n; ++i) {
      const float least = std::min(std::min(l0[i], l1[i]), std::min(l2[i], l3[i]));
      const float most = std::max(std::max(m0[i], m1[i]), std::max(m2[i], m3[i]));
      const float beyond = kBeyond * (most - least);
      low[i] = std::min(low[i], top + least - beyond);
      high[i] = std::max(high[i], bottom + most + beyond);
    }
  }
  std::size_t n_;
  std::vector<float> least_[4], most_[4];
};

// Where shifts are known every few pixels: cell by cell between them.
Margins marginsByCell(const SampleGrid& across, const SampleGrid& down) {
  const double lastX = across.width - 1;
  const double lastY = across.height - 1;
  const int columns = across.plane.width() - 3;
  CellColumns x(columns);
  CellColumns y(columns);
  for (int j = 0; j < across.plane.height(); ++j) {
    x.add(across.plane.row(j), j);
    y.add(down.plane.row(j), j);
    const double top = std::max(0.0, across.beginY + (j - 3) * across.stepY);
    const double bottom = std::min(lastY, across.beginY + (j - 2) * across.stepY);
    if (j < 3 || top > bottom) continue;
    x.reach(0, 0);
    y.reach(static_cast<float>(top), static_cast<float>(bottom));
  }
  Margins far;
  for (int i = 0; i < columns; ++i) {
    const double left = std::max(0.0, across.beginX + i * across.stepX);
    const double right = std::min(lastX, across.beginX + (i + 1) * across.stepX);
    const auto at = static_cast<std::size_t>(i);
    if (left > right) continue;
    far.take({-(left + static_cast<double>(x.low[at])), -static_cast<double>(y.low[at]), right + static_cast<double>(x.high[at]) - lastX,
              static_cast<double>(y.high[at]) - lastY});
  }
  return far;
}

class WarpRows final : public RowMaker {
 public:
  WarpRows(const Bends& bends, const Input& input, const PlaneView& view)
      : across_(bends.across, view, bends.perSample), down_(bends.down, view, bends.perSample), width_(view.width), edge_(bends.edge) {
    // A shift along the plane's axes, in pixels of the view.
    const double det = view.xx * view.yy - view.xy * view.yx;
    const double a = bends.amount / det;
    const double m[4] = {view.yy * a, -view.xy * a, -view.yx * a, view.xx * a};
    Shift::intoPixels(across_, down_, m);
    farthest_ = std::max(across_.farthest(), down_.farthest());
    if (edge_ != Edge::Beyond && view.isFrame()) {
      read(input.pull(view), view.width, view.height);
      return;
    }
    const Margins far = across_.grid() ? marginsByCell(*across_.grid(), *down_.grid())
                                       : marginsByPixel(across_.samples(), down_.samples(), view.width, view.height);
    // With the neighbour that is read as well, and what floats are wrong by.
    const auto pixels = [](double margin) { return static_cast<int>(std::ceil(margin)) + 2; };
    left_ = pixels(far.left);
    top_ = pixels(far.top);
    PlaneView wanted = view.grown(left_, top_, pixels(far.right), pixels(far.bottom));
    // Wide bends read far afield: what would be many times the view is read more coarsely.
    const double wantedPixels = static_cast<double>(wanted.width) * wanted.height;
    const double most = std::max(4e6, 6.0 * view.width * view.height);
    if (wantedPixels > most) {
      const PlaneView coarse = wanted.coarser(std::sqrt(wantedPixels / most));
      const Point origin = coarse.pixel(wanted.place(0, 0));
      const Point right = coarse.pixel(wanted.place(1, 0));
      const Point below = coarse.pixel(wanted.place(0, 1));
      coarser_ = Affine{right.x - origin.x, below.x - origin.x, origin.x, right.y - origin.y, below.y - origin.y, origin.y};
      wanted = coarse;
    }
    read(edgedRows(input, wanted, edge_), wanted.width, wanted.height);
    edge_ = Edge::Clamp;
  }
  [[nodiscard]] int channels() const override { return channels_; }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    ShiftRow shifts[kBandRows];
    for (int begin = y0; begin < y1; begin += kBandRows) {
      const int count = std::min(kBandRows, y1 - begin);
      for (int r = 0; r < count; ++r) {
        across_.row(begin + r, shifts[r].across, shifts[r].weights);
        down_.row(begin + r, shifts[r].down, shifts[r].weights);
      }
      float* const to = out + (begin - y0) * stride;
      if (coarser_)
        for (int r = 0; r < count; ++r) coarseRow(begin + r, shifts[r], to + r * stride);
      else
        sampleShifted(strips_.pixels(), edge_, left_, begin + top_, shifts, farthest_, width_, count, to, stride);
    }
  }

 private:
  // A row of what is read more coarsely than it is shown.
  void coarseRow(int y, const ShiftRow& shift, float* out) const {
    FloatBuffer places(static_cast<std::size_t>(2 * paddedRow(width_, 1)));
    float* const x = places.data();
    float* const v = x + paddedRow(width_, 1);
    mixRowsCubic(shift.across, shift.weights, width_, x);
    mixRowsCubic(shift.down, shift.weights, width_, v);
    for (int i = 0; i < width_; ++i) {
      const Point at = (*coarser_)({i + left_ + static_cast<double>(x[i]), y + top_ + static_cast<double>(v[i])});
      x[i] = static_cast<float>(at.x);
      v[i] = static_cast<float>(at.y);
    }
    samplePlane(source_.pixels(), edge_, x, v, width_, out);
  }
  void read(std::shared_ptr<const RowMaker> rows, int width, int height) {
    channels_ = rows->channels();
    opaque_ = rows->opaque() && (edge_ != Edge::Transparent || channels_ == 1);
    if (coarser_)
      source_ = SourcePlane(std::move(rows), width, height);
    else
      strips_ = StripPlane(*rows, width, height);
  }

  Shift across_;
  Shift down_;
  double farthest_ = 0;
  int width_;
  Edge edge_;
  StripPlane strips_;   // what is read
  SourcePlane source_;  // the same where it is read more coarsely
  int channels_ = 1;
  int left_ = 0;  // how far it sticks out
  int top_ = 0;
  std::optional<Affine> coarser_;  // from the pixels that would be read to those that are
  bool opaque_ = true;
};

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  return std::make_shared<WarpRows>(Bends(context), input, context.view());
}

// What ends at the frame's edges ends in whole pixels of an upright view.
bool upright(const StepContext& context) { return edgeFromName(context.choice("edges")) != Edge::Beyond; }

// What was smooth is drawn together at most as much as the bends change from pixel to pixel: noise rises by no more than about its
// whole height in a cell, and each finer layer, half as high in half the cell, is as steep as the one before.
double smooth(const StepContext& context, double input) {
  const Bends bends(context);
  // Beyond these edges something else begins at once.
  if (input <= 0 || bends.edge == Edge::Transparent || bends.edge == Edge::Wrap) return 0;
  const int layers = bends.across.octaves;
  const double steepness = layers / (2 - std::exp2(1 - layers));
  const double cell = 12 * bends.perSample * std::exp2(layers - 1);
  return std::min(input / (1 + bends.amount / cell * steepness), bends.perSample / context.view().scale);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Bends bends(context);
  const PlaneView& view = context.view();
  const int width = view.width;
  const int height = view.height;
  const int channels = input(0, 0).channels;
  const double det = view.xx * view.yy - view.xy * view.yx;
  return [=](int x, int y) {
    const double across = bends.amount * (LatticeNoise::reference(bends.across, x, y) - 0.5) / det;
    const double down = bends.amount * (LatticeNoise::reference(bends.down, x, y) - 0.5) / det;
    const double fx = x + view.yy * across - view.xy * down;
    const double fy = y + view.xx * down - view.yx * across;
    const double cx = std::floor(fx);
    const double cy = std::floor(fy);
    ReferencePixel sum{channels, {}};
    for (int k = 0; k < 4; ++k) {
      const auto wantedX = static_cast<std::int64_t>(cx) + (k & 1);
      const auto wantedY = static_cast<std::int64_t>(cy) + (k >> 1);
      const int px = bends.edge == Edge::Beyond ? static_cast<int>(wantedX) : edgeIndex(bends.edge, wantedX, width);
      const int py = bends.edge == Edge::Beyond ? static_cast<int>(wantedY) : edgeIndex(bends.edge, wantedY, height);
      if (bends.edge == Edge::Transparent && (px < 0 || py < 0)) continue;
      const double weight = (k & 1 ? fx - cx : 1 - (fx - cx)) * (k >> 1 ? fy - cy : 1 - (fy - cy));
      const ReferencePixel p = input(px, py);
      for (std::size_t c = 0; c < 4; ++c) sum.v[c] += weight * p.v[c];
    }
    return sum;
  };
}

}  // namespace

const StepSpec& warpStep() {
  static const StepSpec spec{.id = "warp",
                             .title = "Warp by noise",
                             .group = "bend",
                             .help = "Bends the picture as heat, water or crumpled cloth would, with bends that evolve and come home.",
                             .version = 2,
                             .kind = StepKind::Area,
                             .params = params(),
                             .area = make,
                             .smooth = smooth,
                             .upright = upright,
                             .reference = reference};
  return spec;
}

}  // namespace oa
