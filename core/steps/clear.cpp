// Remove a colour: what stands before a flat ground is cut out of it.
#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <utility>

#include "base/parallel.h"
#include "image/blur.h"
#include "image/cropped.h"
#include "image/grow.h"
#include "image/sampling.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/clear.cpp"
#include <hwy/foreach_target.h>
#include "simd/num-inl.h"

#ifndef OA_CLEAR_ONCE
#define OA_CLEAR_ONCE
namespace oa {
namespace {

// Colour differences of Rec. ITU-R BT.709 (item 3.3), for display values; blue-yellow and red-cyan, within a half.
constexpr double kLumaWeights[3] = {0.2126, 0.7152, 0.0722};
constexpr double kBlue = 1.8556;
constexpr double kRed = 1.5748;

struct Ground {
  double blue, red, luma;  // of the colour that is removed
  double near, far;        // distances at which a pixel is gone, and whole
  double spill;
  double grey;  // how far lightness counts: grounds without a colour are told by it

  explicit Ground(const StepContext& context) {
    const Colour c = context.colour("colour");
    const double parts[3] = {c.r, c.g, c.b};
    luma = 0;
    for (int k = 0; k < 3; ++k) luma += kLumaWeights[k] * parts[k];
    blue = (parts[2] - luma) / kBlue;
    red = (parts[0] - luma) / kRed;
    grey = std::clamp(1 - std::hypot(blue, red) / 0.12, 0.25, 1.0);
    near = context.number("tolerance") * 0.6;
    far = near + std::max(1e-4, context.number("softness") * 0.6);
    spill = context.number("spill");
  }
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// How much of a pixel is kept; what the ground has thrown on it is taken out of its colour.
template <class N>
HWY_INLINE N keptOf(const Ground& g, N (&c)[3], N a) {
  const N straight = inverseOrZero(a);
  const N luma = mulAddOf(N(kLumaWeights[0]), c[0], mulAddOf(N(kLumaWeights[1]), c[1], N(kLumaWeights[2]) * c[2]));
  const N blue = (c[2] - luma) * straight * N(1 / kBlue);
  const N red = (c[0] - luma) * straight * N(1 / kRed);
  const N db = blue - N(g.blue);
  const N dr = red - N(g.red);
  const N dl = (luma * straight - N(g.luma)) * N(g.grey);
  const N distance = rootOf(mulAddOf(db, db, mulAddOf(dr, dr, dl * dl)));
  const N kept = softOf((distance - N(g.near)) * N(1 / (g.far - g.near)));
  // Along the ground's own hue nothing is left of it.
  const double strength = std::hypot(g.blue, g.red);
  if (g.spill > 0 && strength > 1e-3) {
    const double ub = g.blue / strength;
    const double ur = g.red / strength;
    const N along = maxOf(N(0.0), mulAddOf(blue, N(ub), red * N(ur))) * N(g.spill) * a;
    const N less[3] = {along * N(ur * kRed), N(0.0), along * N(ub * kBlue)};
    const N r = c[0] - less[0];
    const N b = c[2] - less[2];
    // The lightness stays: green is what the others leave of it.
    const N green = (luma - N(kLumaWeights[0]) * r - N(kLumaWeights[2]) * b) * N(1 / kLumaWeights[1]);
    const N made[3] = {r, green, b};
    for (int k = 0; k < 3; ++k) c[k] = minOf(a, maxOf(N(0.0), made[k]));
  }
  return kept;
}

// A row of a picture: its colours without the spill, and what is kept.
void clearRow(const Ground& g, const float* in, int n, float* rgba, float* kept) {
  for (int i = 0; i < n; i += Num::lanes()) {
    hn::Vec<Num::D> r, gr, b, a;
    hn::LoadInterleaved4(Num::D(), in + i * 4, r, gr, b, a);
    Num c[3] = {r, gr, b};
    keptOf(g, c, Num(a)).store(kept + i);
    hn::StoreInterleaved4(c[0].v, c[1].v, c[2].v, a, Num::D(), rgba + i * 4);
  }
}

double clearPlain(const Ground& g, double (&c)[3], double a) { return keptOf(g, c, a); }

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(clearRow);
HWY_EXPORT(clearPlain);

namespace {

const ParamSpec kParams[] = {
    {.id = "colour", .label = "Colour", .help = "The ground that is taken away.", .type = ParamType::Colour, .base = hexColour(0x2fae4e)},
    {.id = "tolerance",
     .label = "Tolerance",
     .help = "How far from it a colour may be and is still gone.",
     .base = 0.2,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "softness",
     .label = "Softness",
     .help = "Over how far a range of colours it comes back.",
     .base = 0.2,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "spill",
     .label = "Spill",
     .help = "Takes its tinge from what stands before it.",
     .base = 0.8,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "holes",
     .label = "Fill holes",
     .help = "Holes up to this width within what is left are closed.",
     .base = 0.0,
     .min = 0,
     .max = 64,
     .sliderMin = 0,
     .sliderMax = 24,
     .unit = Unit::Pixels,
     .rule = LoopRule::Fixed},
    {.id = "grow",
     .label = "Grow",
     .help = "Widens what is left, or below 0 takes off its rim.",
     .base = 0.0,
     .min = -64,
     .max = 64,
     .sliderMin = -12,
     .sliderMax = 12,
     .unit = Unit::Pixels},
    {.id = "feather",
     .label = "Feather",
     .help = "Softens its rim.",
     .base = 0.0,
     .min = 0,
     .max = 256,
     .sliderMin = 0,
     .sliderMax = 24,
     .unit = Unit::Pixels},
};

// Both parts of the work in one plane each.
class ClearRows final : public RowMaker {
 public:
  ClearRows(Plane picture, std::shared_ptr<const RowMaker> kept) : picture_(std::move(picture)), kept_(std::move(kept)) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const int width = picture_.width();
    FloatBuffer kept(static_cast<std::size_t>(paddedRow(width, 1) * (y1 - y0)));
    kept_->rows(y0, y1, kept.data(), paddedRow(width, 1));
    for (int y = y0; y < y1; ++y) {
      const float* const in = picture_.row(y);
      const float* const times = kept.data() + (y - y0) * paddedRow(width, 1);
      float* const to = out + (y - y0) * stride;
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < 4; ++c) to[x * 4 + c] = in[x * 4 + c] * times[x];
    }
  }

 private:
  Plane picture_;
  std::shared_ptr<const RowMaker> kept_;
};

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const Ground ground(context);
  const double holes = context.number("holes") / 2 * view.scale;
  const double grow = context.number("grow") * view.scale;
  const double sigma = context.number("feather") / 2 * view.scale;
  const int around = static_cast<int>(std::ceil(2 * holes) + std::ceil(std::abs(grow))) + (sigma > 0 ? blurReach(sigma) : 0);
  const PlaneView wanted = view.grown(around);
  const auto from = input.pull(wanted);
  Plane picture(view.width, view.height, 4);
  Plane mask(wanted.width, wanted.height, 1);
  parallelBands(wanted.height, [&](int y0, int y1) {
    const std::ptrdiff_t stride = paddedRow(wanted.width, 4);
    FloatBuffer band(static_cast<std::size_t>(stride * (y1 - y0)));
    const bool field = from->channels() == 1;
    FloatBuffer grey(field ? static_cast<std::size_t>(paddedRow(wanted.width, 1) * (y1 - y0)) : 0);
    if (field)
      from->rows(y0, y1, grey.data(), paddedRow(wanted.width, 1));
    else
      from->rows(y0, y1, band.data(), stride);
    for (int y = y0; y < y1; ++y) {
      float* const row = band.data() + (y - y0) * stride;
      for (int x = 0; field && x < wanted.width; ++x) {
        const float v = std::clamp(grey.data()[(y - y0) * paddedRow(wanted.width, 1) + x], 0.0f, 1.0f);
        std::fill_n(row + static_cast<std::ptrdiff_t>(x) * 4, 3, v);
        row[static_cast<std::ptrdiff_t>(x) * 4 + 3] = 1;
      }
      HWY_DYNAMIC_DISPATCH(clearRow)(ground, row, wanted.width, row, mask.row(y));
      if (y >= around && y < around + view.height)
        std::copy_n(row + static_cast<std::ptrdiff_t>(around) * 4, static_cast<std::size_t>(view.width) * 4, picture.row(y - around));
    }
  });
  if (holes > 0) mask = grown(grown(mask, holes), -holes);
  if (grow != 0) mask = grown(mask, grow);
  std::shared_ptr<const RowMaker> kept = planeRows(std::move(mask), true);
  if (sigma > 0) kept = blurred(*kept, wanted.width, wanted.height, {sigma, sigma, Edge::Clamp, false});
  return std::make_shared<ClearRows>(std::move(picture), cropped(std::move(kept), around, around, view.width, wanted.width));
}

// Rims as they are made: holes, growing and feathering are measured elsewhere.
ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Ground ground(context);
  const double scale = context.view().scale;
  const double holes = context.number("holes") / 2 * scale;
  const double grow = context.number("grow") * scale;
  const double sigma = context.number("feather") / 2 * scale;
  const auto pixel = [=](int x, int y, double& kept) {
    ReferencePixel p = input(x, y);
    if (p.channels == 1) {
      const double v = std::clamp(p.v[0], 0.0, 1.0);
      p = {4, {v, v, v, 1}};
    }
    double c[3] = {p.v[0], p.v[1], p.v[2]};
    kept = HWY_DYNAMIC_DISPATCH(clearPlain)(ground, c, p.v[3]);
    return ReferencePixel{4, {c[0], c[1], c[2], p.v[3]}};
  };
  // Discs and Gaussians over plain pixels.
  using Mask = std::function<double(int, int)>;
  const auto remembered = [](Mask mask) -> Mask {
    const auto known = std::make_shared<std::map<std::pair<int, int>, double>>();
    return [mask = std::move(mask), known](int x, int y) {
      const auto found = known->find({x, y});
      return found != known->end() ? found->second : known->emplace(std::pair(x, y), mask(x, y)).first->second;
    };
  };
  const Mask first = remembered([=](int x, int y) {
    double kept = 0;
    (void)pixel(x, y, kept);
    return kept;
  });
  const auto widened = [=](const Mask& mask, double radius) -> Mask {
    if (radius == 0) return mask;
    return remembered([=](int x, int y) {
      const auto at = [&](int whole) {
        double best = mask(x, y);
        for (int j = -whole; j <= whole; ++j)
          for (int i = -whole; i <= whole; ++i)
            if (i * i + j * j <= whole * whole) best = radius > 0 ? std::max(best, mask(x + i, y + j)) : std::min(best, mask(x + i, y + j));
        return best;
      };
      const double size = std::abs(radius);
      const int below = static_cast<int>(size);
      const double share = size - below;
      return share > 0 ? at(below) * (1 - share) + at(below + 1) * share : at(below);
    });
  };
  Mask mask = widened(widened(first, holes), -holes);
  mask = widened(mask, grow);
  const Mask soft = sigma <= 0 ? mask : Mask([=](int x, int y) {
    const int reach = static_cast<int>(std::ceil(3.5 * sigma));
    double sum = 0;
    double weights = 0;
    for (int j = -reach; j <= reach; ++j)
      for (int i = -reach; i <= reach; ++i) {
        const double w = std::exp(-(i * i + j * j) / (2 * sigma * sigma));
        sum += w * mask(x + i, y + j);
        weights += w;
      }
    return sum / weights;
  });
  return [=](int x, int y) {
    double kept = 0;
    ReferencePixel p = pixel(x, y, kept);
    kept = soft(x, y);
    for (double& v : p.v) v *= kept;
    return p;
  };
}

}  // namespace

const StepSpec& clearStep() {
  static const StepSpec spec{.id = "clear",
                             .title = "Remove a colour",
                             .group = "colour",
                             .help = "Cuts what stands before a flat ground out of it: the ground's colour becomes transparent.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
