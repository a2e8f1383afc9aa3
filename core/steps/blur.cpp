// Gaussian blur.
#include "image/cropped.h"
#include "image/blur.h"
#include "image/resampled.h"

#include <cmath>
#include <map>

#include "fields/edged.h"
#include "fields/field_params.h"
#include "image/colour.h"
#include "image/sampling.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "across",
     .label = "Across",
     .help = "Radius of the blur to the left and right: twice its standard deviation.",
     .base = 18.0,
     .min = 0,
     .max = 4000,
     .sliderMin = 0,
     .sliderMax = 240,
     .unit = Unit::Pixels},
    {.id = "down",
     .label = "Down",
     .help = "Radius of the blur upwards and downwards: twice its standard deviation.",
     .base = 18.0,
     .min = 0,
     .max = 4000,
     .sliderMin = 0,
     .sliderMax = 240,
     .unit = Unit::Pixels},
    field_params::edges("clamp"),
};

BlurSettings settingsOf(const StepContext& context) {
  BlurSettings s;
  // The radius is twice the standard deviation, as in CSS Backgrounds and Borders Level 3, section 6.1.1.
  s.sigmaX = context.number("across") / 2 * context.view().scale;
  s.sigmaY = context.number("down") / 2 * context.view().scale;
  s.edge = edgeFromName(context.choice("edges"));
  s.linearLight = true;
  return s;
}

// Wider blurs read a coarser picture: what is lost is far finer than what they leave.
constexpr double kMostSigma = 128;

// More pixels on one side: `least`, and so many more that they begin at a multiple of `step`, counted from the frame's edge.
int before(double edge, int least, int step) {
  const int first = static_cast<int>(std::floor(edge)) - least;
  return static_cast<int>(std::floor(edge)) - static_cast<int>(floorMod(first, step) == 0 ? first : first - floorMod(first, step));
}

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  BlurSettings s = settingsOf(context);
  const PlaneView& view = context.view();
  if (s.edge != Edge::Beyond && view.isFrame()) return blurred(*input.pull(view), view.width, view.height, s);
  const double coarse = std::exp2(std::ceil(std::log2(std::max(1.0, std::max(s.sigmaX, s.sigmaY) / kMostSigma))));
  if (coarse > 1) {
    PlaneView small = view.coarser(coarse);
    return resampled(make(StepContext(context, small), input), small, view);
  }
  // What is to be had in light is asked for in no more pixels than are needed.
  const int given = s.edge == Edge::Beyond ? std::min(givenMost(s.sigmaX), givenMost(s.sigmaY)) : 1;
  const int x = blurReach(s.sigmaX, given);
  const int y = blurReach(s.sigmaY, given);
  const int leftward = view.upright() ? before(view.left * view.scale, x, kBlurCells) : x;
  const int upward = view.upright() ? before(view.top * view.scale, y, kBlurCells) : y;
  const auto whole = [given](int pixels) { return (pixels + given - 1) / given * given - pixels; };
  const PlaneView wanted = view.grown(leftward, upward, x + whole(leftward + view.width + x), y + whole(upward + view.height + y));
  auto from = given > 1 ? input.light(wanted.thinned(given)) : nullptr;
  if (from) {
    s.given = given;
    s.inLight = true;
  } else {
    from = edgedRows(input, wanted, s.edge);
  }
  s.edge = Edge::Clamp;
  return cropped(blurred(*from, wanted.width, wanted.height, s), leftward, upward, view.width, wanted.width);
}

// A round blur may be made in any direction.
bool upright(const StepContext& context) {
  return context.number("across") != context.number("down") || edgeFromName(context.choice("edges")) != Edge::Beyond;
}

ReferencePixel converted(ReferencePixel p, double (*curve)(double)) {
  if (p.channels == 1 || p.v[3] <= 0) return p;
  for (std::size_t i = 0; i < 3; ++i) p.v[i] = curve(std::min(1.0, p.v[i] / p.v[3])) * p.v[3];
  return p;
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const BlurSettings s = settingsOf(context);
  const int width = context.view().width;
  const int height = context.view().height;
  // Both directions one after the other, each from the full Gaussian; results are kept, being slow to make.
  auto source = std::make_shared<std::map<std::pair<int, int>, ReferencePixel>>();
  auto across = std::make_shared<std::map<std::pair<int, int>, ReferencePixel>>();
  const auto sum = [](double sigma, auto at) {
    const int reach = sigma < 0.05 ? 0 : static_cast<int>(std::ceil(sigma * 4.5));
    ReferencePixel total;
    total.v = {};
    double weights = 0;
    for (int k = -reach; k <= reach; ++k) {
      const double w = reach == 0 ? 1 : std::exp(-0.5 * k * k / (sigma * sigma));
      const ReferencePixel p = at(k);
      total.channels = std::max(total.channels, p.channels);
      for (std::size_t c = 0; c < 4; ++c) total.v[c] += w * p.v[c];
      weights += w;
    }
    for (double& v : total.v) v /= weights;
    return total;
  };
  const auto original = [=](int x, int y) {
    const auto key = std::pair(x, y);
    if (const auto found = source->find(key); found != source->end()) return found->second;
    return source->emplace(key, converted(input(x, y), srgbDecode)).first->second;
  };
  const auto rowBlurred = [=](int x, int y) {
    const auto key = std::pair(x, y);
    if (const auto found = across->find(key); found != across->end()) return found->second;
    const ReferencePixel made = sum(s.sigmaX, [&](int k) {
      const int i = s.edge == Edge::Beyond ? x + k : edgeIndex(s.edge, x + k, width);
      return s.edge == Edge::Transparent && i < 0 ? ReferencePixel{1, {}} : original(i, y);
    });
    return across->emplace(key, made).first->second;
  };
  return [=](int x, int y) {
    const ReferencePixel made = sum(s.sigmaY, [&](int k) {
      const int j = s.edge == Edge::Beyond ? y + k : edgeIndex(s.edge, y + k, height);
      return s.edge == Edge::Transparent && j < 0 ? ReferencePixel{1, {}} : rowBlurred(x, j);
    });
    return converted(made, srgbEncode);
  };
}

// A Gaussian leaves little that is finer than its own width, and what was smooth before it stays so.
double smooth(const StepContext& context, double input) {
  return std::max(input, std::min(context.number("across"), context.number("down")) / 8);
}

}  // namespace

const StepSpec& blurStep() {
  static const StepSpec spec{.id = "blur",
                             .title = "Blur",
                             .group = "soften",
                             .help = "Softens the picture, with a radius of its own across and down.",
                             .version = 2,
                             .kind = StepKind::Area,
                             .params = kParams,
                             .area = make,
                             .smooth = smooth,
                             .upright = upright,
                             .reference = reference};
  return spec;
}

}  // namespace oa
