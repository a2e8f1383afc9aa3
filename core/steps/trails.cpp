// Trails: the loop's own past, fading, each a little further on. There is always a past: before the first frame came the last.
#include <algorithm>
#include <cmath>
#include <vector>

#include "base/affine.h"
#include "fields/field_params.h"
#include "image/blend.h"
#include "image/combined.h"
#include "image/plain_reading.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "count",
     .label = "Count",
     .help = "How many moments of the past are seen.",
     .type = ParamType::Integer,
     .base = 6.0,
     .min = 0,
     .max = 64,
     .sliderMin = 0,
     .sliderMax = 16,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "every",
     .label = "Every",
     .help = "Frames from one to the next.",
     .type = ParamType::Integer,
     .base = 3.0,
     .min = 0,
     .max = 10000,
     .sliderMin = 0,
     .sliderMax = 30,
     .unit = Unit::Frames,
     .rule = LoopRule::Fixed},
    {.id = "fade",
     .label = "Fade",
     .help = "How much fainter each is than the one before it.",
     .base = 0.28,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "blend",
     .label = "Blend",
     .help = "Behind what is there now; the lighter of both; or all of them mixed.",
     .type = ParamType::Choice,
     .base = std::string("lighter"),
     .rule = LoopRule::Fixed,
     .choices = {"lighter", "behind", "mixed"}},
    {.id = "moved",
     .label = "Moved",
     .help = "How far each is moved on, to the right and down.",
     .type = ParamType::Point,
     .base = Point{0, -7},
     .min = -4096,
     .max = 4096,
     .sliderMin = -60,
     .sliderMax = 60,
     .unit = Unit::Pixels,
     .grip = Grip{.kind = Grip::Kind::Step}},
    {.id = "turned",
     .label = "Turned",
     .help = "How far each is turned on, round the centre.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -30,
     .sliderMax = 30,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round},
    {.id = "sized",
     .label = "Sized",
     .help = "How much larger each is than the one before it.",
     .base = 1.0,
     .min = 0.5,
     .max = 2,
     .sliderMin = 0.8,
     .sliderMax = 1.25,
     .unit = Unit::Ratio,
     .logScale = true},
    field_params::place("centre", "Centre", {0.5, 0.5}, "What they are turned and sized about; 0 to 1 across and down the frame."),
};

const StepVariant kVariants[] = {
    {"Zoom", "Each a little larger, from the middle.", {{"moved", Point{0, 0}}, {"sized", 1.06}, {"count", 8.0}}},
    {"Fan", "Each turned on.", {{"moved", Point{0, 0}}, {"turned", 7.0}, {"count", 8.0}, {"fade", 0.2}}},
    {"Long exposure",
     "All of the last second mixed.",
     {{"blend", std::string("mixed")}, {"moved", Point{0, 0}}, {"count", 12.0}, {"every", 2.0}, {"fade", 0.1}}},
};

enum class Blend { Lighter, Behind, Mixed };

struct Past {
  int count;
  int every;
  Blend blend;
  std::vector<double> shares;  // of the present, then back
  Point centre, moved;
  double turned, sized;
  explicit Past(const StepContext& context)
      : count(context.integer("count")),
        every(context.integer("every")),
        centre{context.point("centre").x * context.view().frameWidth, context.point("centre").y * context.view().frameHeight},
        moved(context.point("moved")),
        turned(context.number("turned") * kDegree),
        sized(context.number("sized")) {
    const auto name = context.choice("blend");
    blend = name == "lighter" ? Blend::Lighter : name == "behind" ? Blend::Behind : Blend::Mixed;
    const double left = 1 - context.number("fade");
    double sum = 0;
    for (int k = 0; k <= count; ++k) sum += shares.emplace_back(std::pow(left, k));
    if (blend == Blend::Mixed)
      for (double& share : shares) share /= sum;
  }
  // From the plane as it was so many times ago to where it is seen now.
  [[nodiscard]] Affine way(int k) const {
    const double c = std::cos(turned * k) * std::pow(sized, k), s = std::sin(turned * k) * std::pow(sized, k);
    return {c, -s, centre.x - c * centre.x + s * centre.y + moved.x * k, s, c, centre.y - s * centre.x - c * centre.y + moved.y * k};
  }
};

// One more of the past, on what is there already: the present first.
template <class T>
void laid(Blend blend, T share, const T* p, T* sum) {
  if (blend == Blend::Lighter)
    for (int c = 0; c < 4; ++c) sum[c] = std::max(sum[c], share * p[c]);
  else if (blend == Blend::Mixed)
    for (int c = 0; c < 4; ++c) sum[c] += share * p[c];
  else {
    const T open = (T(1) - sum[3]) * share;
    for (int c = 0; c < 4; ++c) sum[c] += open * p[c];
  }
}

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const Past past(context);
  std::vector<std::shared_ptr<const RowMaker>> parts{input.pull(view)};
  const int channels = parts[0]->channels();
  if (past.count == 0 || (past.blend == Blend::Behind && parts[0]->opaque())) return parts[0];
  const Moment now = input.moment();
  bool opaque = parts[0]->opaque();
  for (int k = 1; k <= past.count; ++k) {
    parts.push_back(input.pull(view.through(past.way(k), view.frameWidth, view.frameHeight),
                               now.at(now.frame - static_cast<std::int64_t>(k) * past.every)));
    opaque = opaque && parts.back()->opaque();
    // What is broken off half-way comes back empty, in as many channels as it likes.
    if (parts.back()->channels() != channels) return parts[0];
  }
  return combinedRows(std::move(parts), view.width, {channels, opaque},
                      [past, channels](const float* const* in, int, int, int n, float* out) {
                        if (channels == 1) {
                          const bool mixed = past.blend == Blend::Mixed;
                          for (int i = 0; i < n; ++i) out[i] = mixed ? in[0][i] * static_cast<float>(past.shares[0]) : in[0][i];
                          for (int k = 1; k <= past.count; ++k) {
                            const auto share = static_cast<float>(past.shares[static_cast<std::size_t>(k)]);
                            for (int i = 0; i < n; ++i) out[i] = mixed ? out[i] + share * in[k][i] : std::max(out[i], share * in[k][i]);
                          }
                          return;
                        }
                        const float first = past.blend == Blend::Mixed ? static_cast<float>(past.shares[0]) : 1;
                        for (int i = 0; i < n * 4; ++i) out[i] = in[0][i] * first;
                        for (int k = 1; k <= past.count; ++k) {
                          const auto share = static_cast<float>(past.shares[static_cast<std::size_t>(k)]);
                          if (past.blend == Blend::Behind) {
                            layBehind(in[k], share, out, n);
                          } else if (past.blend == Blend::Lighter) {
                            for (int i = 0; i < n * 4; ++i) out[i] = std::max(out[i], share * in[k][i]);
                          } else {
                            for (int i = 0; i < n * 4; ++i) out[i] += share * in[k][i];
                          }
                        }
                      });
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const PlaneView view = context.view();
  const Past past(context);
  if (past.count == 0) return input;
  const Moment now = context.moment();
  std::vector<ReferenceField> then;
  for (int k = 0; k <= past.count; ++k)
    then.push_back(k == 0 ? input
                          : input.at(static_cast<int>(floorMod(now.frame - static_cast<std::int64_t>(k) * past.every, now.frames)),
                                     static_cast<int>(now.frames)));
  return [=](int px, int py) {
    ReferencePixel sum;
    for (int k = 0; k <= past.count; ++k) {
      const Point at =
          k == 0 ? Point{static_cast<double>(px), static_cast<double>(py)} : view.pixel(past.way(k).inverse()(view.place(px, py)));
      ReferencePixel p;
      p.v = {};
      eachOfFour(at.x, at.y, [&](double weight, int x, int y) {
        const ReferencePixel part = then[static_cast<std::size_t>(k)](x, y);
        p.channels = std::max(p.channels, part.channels);
        for (std::size_t c = 0; c < 4; ++c) p.v[c] += weight * part.v[c];
      });
      const double share = past.shares[static_cast<std::size_t>(k)];
      if (k == 0) {
        sum = p;
        if (past.blend == Blend::Mixed)
          for (double& v : sum.v) v *= share;
        if (p.channels == 1 && past.blend == Blend::Behind) return sum;
        continue;
      }
      laid(past.blend, share, p.v.data(), sum.v.data());
    }
    return sum;
  };
}

}  // namespace

const StepSpec& trailsStep() {
  static const StepSpec spec{.id = "trails",
                             .title = "Trails",
                             .group = "surface",
                             .help = "Lets what was there a little earlier fade away behind it, each time moved and turned a little.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
