// Warp by a layer: how light another layer is, its colours or its slopes push the picture.
#include <algorithm>
#include <array>
#include <cmath>

#include "base/parallel.h"
#include "fields/field_params.h"
#include "fields/softened.h"
#include "image/buffer.h"
#include "image/colour.h"
#include "image/grey.h"
#include "image/plain_blur.h"
#include "image/plain_reading.h"
#include "image/sampling.h"
#include "lens/lens_rows.h"
#include "lens/shift_map.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "layer",
     .label = "Layer",
     .help = "What pushes: another layer of the scene, which may be hidden; without one the picture pushes itself.",
     .type = ParamType::Layer,
     .base = 0.0,
     .min = 0,
     .max = 1000000000,
     .rule = LoopRule::Fixed},
    {.id = "by",
     .label = "By",
     .help =
         "Lightness pushes one way, darkness the other; colours push across by their red and down by their green; slopes push downhill.",
     .type = ParamType::Choice,
     .base = std::string("slopes"),
     .rule = LoopRule::Fixed,
     .choices = {"lightness", "colours", "slopes"}},
    {.id = "amount",
     .label = "Amount",
     .help = "How far it pushes at most; of slopes, how far one goes that rises from black to white within its softness.",
     .base = 70.0,
     .min = -4096,
     .max = 4096,
     .sliderMin = -300,
     .sliderMax = 300,
     .unit = Unit::Pixels},
    field_params::turned("angle", "Direction", 0.0, "Where lightness pushes to; colours and slopes are turned by it.",
                         Grip{.kind = Grip::Kind::Way}),
    {.id = "softness",
     .label = "Softness",
     .help = "How far the layer is softened before it pushes: hard edges tear.",
     .base = 50.0,
     .min = 1,
     .max = 2000,
     .sliderMin = 1,
     .sliderMax = 300,
     .unit = Unit::Pixels},
};

const StepVariant kVariants[] = {
    {"Melting", "Softened far and pushed far.", {{"softness", 140.0}, {"amount", 260.0}}},
    {"Grain of wood", "Fine slopes, crosswise.", {{"angle", 90.0}, {"softness", 22.0}, {"amount", 60.0}}},
    {"Tide",
     "Lightness pushes it to and fro.",
     {{"by", std::string("lightness")}, {"amount", -120.0}},
     {{"amount", MotionKind::Swing, 120.0}}},
};

struct Push {
  enum class By { Lightness, Colours, Slopes };
  By by;
  double sigma;           // pixels of the view
  double xx, xy, yx, yy;  // from what pushes to pixels of the view
  bool rests;

  explicit Push(const StepContext& context) : sigma(context.number("softness") / 2 * context.view().scale) {
    const PlaneView& view = context.view();
    const auto name = context.choice("by");
    by = name == "lightness" ? By::Lightness : name == "colours" ? By::Colours : By::Slopes;
    rests = context.number("amount") == 0;
    // Lightness goes from -1 to 1; slopes are counted along the softness, and go downhill.
    double far = context.number("amount") * view.scale;
    if (by == By::Slopes) far *= -2 * std::max(0.5, sigma);
    const double angle = context.number("angle") * kDegree;
    const double c = std::cos(angle) * far, s = std::sin(angle) * far;
    const double det = view.xx * view.yy - view.xy * view.yx;
    if (by == By::Slopes) {
      // They are slopes of the view already; only the turn has to know whether it shows the plane from behind.
      xx = yy = c;
      xy = -s * det;
      yx = s * det;
      return;
    }
    xx = (view.yy * c - view.xy * s) / det;
    yx = (view.xx * s - view.yx * c) / det;
    xy = (-view.yy * s - view.xy * c) / det;
    yy = (view.xx * c + view.yx * s) / det;
  }
};

// What pushes across and down, from softened lightness or colours; slopes are those of lightness.
template <class T>
void pushes(const Push& push, T a, T b, T& x, T& y) {
  x = static_cast<T>(push.xx) * a + static_cast<T>(push.xy) * b;
  y = static_cast<T>(push.yx) * a + static_cast<T>(push.yy) * b;
}

// From a pixel of what pushes: lightness, or red and green, both about 0. What is transparent pushes nothing.
template <class T>
void pushing(const Push& push, int channels, const T* p, T& a, T& b) {
  b = T(0);
  if (channels == 1) {
    a = T(2) * p[0] - T(1);
    if (push.by == Push::By::Colours) b = a;
    return;
  }
  if (push.by == Push::By::Colours) {
    a = T(2) * p[0] - p[3];
    b = T(2) * p[1] - p[3];
    return;
  }
  a = T(0);
  for (int c = 0; c < 3; ++c) a += static_cast<T>(kLuma[c]) * p[c];
  a = T(2) * a - p[3];
}

class PushMap final : public ShiftMap {
 public:
  PushMap(const Push& push, const Input& layer, const PlaneView& view) : view_(around(view)) {
    const PlaneView wide = view_.grown(1);
    const auto soft = softened(layer, wide, push.sigma);
    const int channels = soft->channels();
    const Plane plane = wholePlane(*soft, wide.width, wide.height);
    x_ = Plane(view_.width, view_.height, 1);
    y_ = Plane(view_.width, view_.height, 1);
    const auto pixel = [&](int x, int y) { return plane.row(y) + static_cast<std::ptrdiff_t>(x) * channels; };
    parallelBands(view_.height, [&](int y0, int y1) {
      if (push.by != Push::By::Slopes) {
        for (int y = y0; y < y1; ++y)
          for (int x = 0; x < view_.width; ++x) {
            float a, b;
            pushing(push, channels, pixel(x + 1, y + 1), a, b);
            pushes(push, a, b, x_.row(y)[x], y_.row(y)[x]);
          }
        return;
      }
      // Lightness of three rows, each found once.
      const std::ptrdiff_t stride = paddedRow(wide.width, 1);
      FloatBuffer room(static_cast<std::size_t>(stride * 3));
      const auto row = [&](int y) { return room.data() + y % 3 * stride; };
      const auto find = [&](int y) {
        float* const to = row(y);
        if (channels == 1) {
          for (int x = 0; x < wide.width; ++x) to[x] = 2 * *pixel(x, y) - 1;
          return;
        }
        takeLightness(pixel(0, y), wide.width, to);
        for (int x = 0; x < wide.width; ++x) to[x] = 2 * to[x] - pixel(x, y)[3];
      };
      find(y0);
      find(y0 + 1);
      for (int y = y0; y < y1; ++y) {
        find(y + 2);
        const float* const above = row(y);
        const float* const here = row(y + 1);
        const float* const below = row(y + 2);
        float* const toX = x_.row(y);
        float* const toY = y_.row(y);
        for (int x = 0; x < view_.width; ++x) pushes(push, (here[x + 2] - here[x]) / 4, (below[x + 1] - above[x + 1]) / 4, toX[x], toY[x]);
      }
    });
  }

 private:
  void shifts(int px, int py, int n, float* x, float* y) const override {
    const int row = std::clamp(py + kAround, 0, view_.height - 1);
    const int first = px + kAround;
    if (first >= 0 && first + n <= view_.width) {
      std::copy_n(x_.row(row) + first, n, x);
      std::copy_n(y_.row(row) + first, n, y);
      return;
    }
    for (int i = 0; i < n; ++i) {
      const int column = std::clamp(first + i, 0, view_.width - 1);
      x[i] = x_.row(row)[column];
      y[i] = y_.row(row)[column];
    }
  }
  PlaneView view_;
  Plane x_, y_;
};

std::shared_ptr<const RowMaker> makeLooking(const StepContext& context, const Input& input, const Input& layer) {
  const Push push(context);
  if (push.rests) return input.pull(context.view());
  return lensRows(std::make_unique<PushMap>(push, layer, context.view()), input, context.view());
}

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) { return makeLooking(context, input, input); }

ReferenceField plainLooking(const StepContext& context, ReferenceField input, ReferenceField layer) {
  const Push push(context);
  if (push.rests) return input;
  const auto channels = std::make_shared<int>(0);
  const auto soft = plainBlur(
      [layer, channels](int x, int y) {
        const ReferencePixel p = layer(x, y);
        *channels = p.channels;
        return p.v;
      },
      push.sigma);
  const auto at = [=](int x, int y) {
    const PlainPixel p = soft(x, y);
    std::array<double, 2> made{};
    pushing(push, *channels, p.data(), made[0], made[1]);
    return made;
  };
  const auto place = [=](int x, int y) {
    Point off;
    if (push.by == Push::By::Slopes)
      pushes(push, (at(x + 1, y)[0] - at(x - 1, y)[0]) / 4, (at(x, y + 1)[0] - at(x, y - 1)[0]) / 4, off.x, off.y);
    else
      pushes(push, at(x, y)[0], at(x, y)[1], off.x, off.y);
    return Point{x + off.x, y + off.y};
  };
  return [=](int x, int y) {
    // The mean of what the pixel covers, as far as its neighbours say how much that is.
    const Point here = place(x, y), right = place(x + 1, y), below = place(x, y + 1);
    const double longest = std::max(std::hypot(right.x - here.x, right.y - here.y), std::hypot(below.x - here.x, below.y - here.y));
    const int side = longest < 1.3 ? 1 : static_cast<int>(std::min(16.0, std::ceil(longest * 2)));
    ReferencePixel sum;
    sum.v = {};
    for (int k = 0; k < side * side; ++k) {
      const int column = k % side, row = k / side;
      const double u = (column + 0.5) / side - 0.5, v = (row + 0.5) / side - 0.5;
      const Point from{here.x + u * (right.x - here.x) + v * (below.x - here.x), here.y + u * (right.y - here.y) + v * (below.y - here.y)};
      eachOfFour(from.x, from.y, [&](double weight, int fromX, int fromY) {
        const ReferencePixel p = input(fromX, fromY);
        sum.channels = std::max(sum.channels, p.channels);
        for (std::size_t c = 0; c < 4; ++c) sum.v[c] += weight / (side * side) * p.v[c];
      });
    }
    return sum;
  };
}

ReferenceField reference(const StepContext& context, ReferenceField input) { return plainLooking(context, input, input); }

}  // namespace

const StepSpec& pushStep() {
  static const StepSpec spec{
      .id = "push",
      .title = "Warp by a layer",
      .group = "bend",
      .help = "Pushes the picture about as another layer says: by how light it is, by its colours or down its slopes.",
      .kind = StepKind::Area,
      .params = kParams,
      .variants = kVariants,
      .area = make,
      .looking = makeLooking,
      .referenceLooking = plainLooking,
      .reference = reference};
  return spec;
}

}  // namespace oa
