// Gaussian blur.
#include "image/blur.h"

#include <cmath>
#include <map>

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
  s.sigmaX = context.number("across") / 2 * context.frame().scale;
  s.sigmaY = context.number("down") / 2 * context.frame().scale;
  s.edge = edgeFromName(context.choice("edges"));
  s.linearLight = true;
  return s;
}

std::unique_ptr<RowMaker> make(const StepContext& context, const RowMaker& input, int width, int height) {
  return blurred(input, width, height, settingsOf(context));
}

ReferencePixel converted(ReferencePixel p, double (*curve)(double)) {
  if (p.channels == 1 || p.v[3] <= 0) return p;
  for (std::size_t i = 0; i < 3; ++i) p.v[i] = curve(std::min(1.0, p.v[i] / p.v[3])) * p.v[3];
  return p;
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const BlurSettings s = settingsOf(context);
  const int width = context.frame().width;
  const int height = context.frame().height;
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
      const int i = edgeIndex(s.edge, x + k, width);
      return i < 0 ? ReferencePixel{1, {}} : original(i, y);
    });
    return across->emplace(key, made).first->second;
  };
  return [=](int x, int y) {
    const ReferencePixel made = sum(s.sigmaY, [&](int k) {
      const int j = edgeIndex(s.edge, y + k, height);
      return j < 0 ? ReferencePixel{1, {}} : rowBlurred(x, j);
    });
    return converted(made, srgbEncode);
  };
}

}  // namespace

const StepSpec& blurStep() {
  static const StepSpec spec{.id = "blur",
                             .title = "Blur",
                             .group = "soften",
                             .help = "Softens the picture, with a radius of its own across and down.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
