// Warp by noise: every pixel is read some way off, as two noises say.
#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "base/random.h"
#include "base/parallel.h"
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
    if (perSample < 2) {
      wide_ = Plane(view.width, view.height, 1);
      fill(wide_, LatticeNoise(settings, view.width));
      return;
    }
    grid_.emplace(view, std::min(perSample, 16.0), 1);
    NoiseSettings sampled = settings;
    grid_->place(sampled);
    fill(grid_->plane, LatticeNoise(sampled, grid_->plane.width()));
    wide_ = enlargedAcross(*grid_);
    // The cubic goes a little beyond its samples.
    const float beyond = 0.15f * (high_ - low_);
    low_ -= beyond;
    high_ += beyond;
  }
  // Where row `y` comes from.
  void row(int y, const float** from, float* weights) const {
    const int first = grid_ ? grid_->cellOf(y, weights) : y;
    for (int k = 0; k < 4; ++k) from[k] = wide_.row(grid_ ? first + k : y);
    if (!grid_)
      for (int k = 0; k < 4; ++k) weights[k] = k == 0 ? 1.0f : 0.0f;
  }
  // Turns what two noises say into pixels across and down the plane.
  static void intoPixels(Shift& across, Shift& down, const double* m) {
    Plane& a = across.wide_;
    Plane& b = down.wide_;
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
  }
  [[nodiscard]] double low() const { return static_cast<double>(low_) - 0.5; }
  [[nodiscard]] double high() const { return static_cast<double>(high_) - 0.5; }

 private:
  void fill(Plane& plane, const LatticeNoise& noise) {
    // The ends of each band are found while it lies in the cache.
    struct Ends {
      float low = 1e30f;
      float high = -1e30f;
    };
    std::vector<Ends> bands(static_cast<std::size_t>((plane.height() + kBandRows - 1) / kBandRows));
    parallelBands(plane.height(), [&](int y0, int y1) {
      noise.rows(y0, y1, plane.row(y0), plane.stride());
      Ends& ends = bands[static_cast<std::size_t>(y0 / kBandRows)];
      for (int y = y0; y < y1; ++y) {
        const auto [low, high] = std::minmax_element(plane.row(y), plane.row(y) + plane.width());
        ends = {std::min(ends.low, *low), std::max(ends.high, *high)};
      }
    });
    low_ = high_ = *plane.row(0);
    for (const Ends& ends : bands) {
      low_ = std::min(low_, ends.low);
      high_ = std::max(high_, ends.high);
    }
  }
  std::optional<SampleGrid> grid_;
  Plane wide_;  // at all pixels of a row; for each of the grid's rows, or for every one
  float low_ = 0;
  float high_ = 0;
};

class WarpRows final : public RowMaker {
 public:
  WarpRows(const Bends& bends, const Input& input, const PlaneView& view)
      : across_(bends.across, view, bends.perSample), down_(bends.down, view, bends.perSample), width_(view.width), edge_(bends.edge) {
    // A shift along the plane's axes, in pixels of the view.
    const double det = view.xx * view.yy - view.xy * view.yx;
    const double a = bends.amount / det;
    const double m[4] = {view.yy * a, -view.xy * a, -view.yx * a, view.xx * a};
    Shift::intoPixels(across_, down_, m);
    if (edge_ != Edge::Beyond && view.isFrame()) {
      read(input.pull(view), view.width, view.height);
      return;
    }
    const auto reach = [&](double x, double y, bool up) {
      const double ends[2] = {std::min(x * across_.low(), x * across_.high()) + std::min(y * down_.low(), y * down_.high()),
                              std::max(x * across_.low(), x * across_.high()) + std::max(y * down_.low(), y * down_.high())};
      return std::max(0, static_cast<int>(std::ceil(up ? ends[1] : -ends[0])) + 2);
    };
    left_ = reach(m[0], m[1], false);
    top_ = reach(m[2], m[3], false);
    PlaneView wanted = view.grown(left_, top_, reach(m[0], m[1], true), reach(m[2], m[3], true));
    // Wide bends read far afield: what would be many times the view is read more coarsely.
    const double pixels = static_cast<double>(wanted.width) * wanted.height;
    const double most = std::max(4e6, 6.0 * view.width * view.height);
    if (pixels > most) {
      const PlaneView coarse = wanted.coarser(std::sqrt(pixels / most));
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
        sampleShifted(strips_.pixels(), edge_, left_, begin + top_, shifts, width_, count, to, stride);
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
