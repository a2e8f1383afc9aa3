// Sharpen: what differs from its blurred self made to differ more.
#include <algorithm>
#include <cmath>

#include "fields/field_params.h"
#include "fields/softened.h"
#include "image/combined.h"
#include "image/plain_blur.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/sharpen.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// `n` premultiplied pixels, held within what their alpha lets them be.
void sharpened(const float* sharp, const float* soft, float amount, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  const auto isAlpha = alphaLanes(d);
  for (int i = 0; i < n * 4; i += static_cast<int>(hn::Lanes(d))) {
    const auto from = hn::LoadU(d, sharp + i);
    const auto more = hn::MulAdd(hn::Set(d, amount), hn::Sub(from, hn::LoadU(d, soft + i)), from);
    hn::StoreU(hn::IfThenElse(isAlpha, from, hn::Min(alphaOf(d, from), hn::Max(hn::Zero(d), more))), d, out + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(sharpened);

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How much more it differs.",
     .base = 0.8,
     .min = 0,
     .max = 8,
     .sliderMin = 0,
     .sliderMax = 3,
     .unit = Unit::Share},
    {.id = "radius",
     .label = "Radius",
     .help = "How large what counts as its surroundings is: small ones bring out detail, large ones shapes.",
     .base = 6.0,
     .min = 0.2,
     .max = 2000,
     .sliderMin = 0.5,
     .sliderMax = 120,
     .unit = Unit::Pixels,
     .logScale = true},
};

const StepVariant kVariants[] = {
    {"Crisp", "Fine detail alone.", {{"radius", 2.0}, {"amount", 1.2}}},
    {"Clear", "Large shapes stand out, as after rain.", {{"radius", 90.0}, {"amount", 0.7}}},
    {"Etched", "Hard edges everywhere.", {{"radius", 10.0}, {"amount", 3.5}}},
};

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const auto amount = static_cast<float>(context.number("amount"));
  auto rows = input.pull(view);
  if (amount == 0) return rows;
  // The radius is twice the standard deviation, as it is of a blur.
  const auto soft = softened(input, view, context.number("radius") / 2 * view.scale);
  const int channels = rows->channels();
  return combinedRows({rows, soft}, view.width, {channels, rows->opaque()},
                      [amount, channels](const float* const* in, int, int, int n, float* out) {
                        if (channels == 1) {
                          for (int i = 0; i < n; ++i) out[i] = in[0][i] + amount * (in[0][i] - in[1][i]);
                          return;
                        }
                        HWY_DYNAMIC_DISPATCH(sharpened)(in[0], in[1], amount, n, out);
                      });
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const double amount = context.number("amount");
  if (amount == 0) return input;
  const auto soft = plainBlur([input](int x, int y) { return input(x, y).v; }, context.number("radius") / 2 * context.view().scale);
  return [=](int x, int y) {
    ReferencePixel p = input(x, y);
    const PlainPixel blurred = soft(x, y);
    for (std::size_t c = 0; c < (p.channels == 1 ? 1 : 3); ++c) {
      p.v[c] += amount * (p.v[c] - blurred[c]);
      if (p.channels == 4) p.v[c] = std::clamp(p.v[c], 0.0, p.v[3]);
    }
    return p;
  };
}

}  // namespace

const StepSpec& sharpenStep() {
  static const StepSpec spec{.id = "sharpen",
                             .title = "Sharpen",
                             .group = "surface",
                             .help = "Makes edges and fine detail stand out: what differs from its surroundings differs more.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
