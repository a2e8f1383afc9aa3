// Glow: what is bright shines beyond its edges, in linear light, over five radii at once.
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/parallel.h"
#include "fields/field_params.h"
#include "fields/smoothness.h"
#include "image/blur.h"
#include "image/colour.h"
#include "image/combined.h"
#include "image/cropped.h"
#include "image/plain_blur.h"
#include "image/resampled.h"
#include "image/same_rows.h"
#include "image/sampling.h"
#include "image/transfer.h"
#include "steps/step.h"

#ifndef OA_GLOW_ONCE
#define OA_GLOW_ONCE
namespace oa {
// Opaque but for a rounding, as sums of opaque pixels are.
constexpr float kNearlyOpaque = 1 - 0x1p-20f;
}  // namespace oa
#endif

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/glow.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "image/alpha-inl.h"
#include "image/pixel_planes-inl.h"
#include "image/transfer-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, 16>;
using V = hn::Vec<D>;

// shining() of `n` pixels, in place.
void shiningSpan(float threshold, const float* tint, int n, float* rgba) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V r, g, b, a;
    partPixels(d, rgba + i * 4, r, g, b, a);
    const V most = hn::Max(r, hn::Max(g, b));
    const V share = hn::Div(hn::Max(hn::Zero(d), hn::Sub(most, hn::Set(d, threshold))), hn::Max(hn::Set(d, 1e-6f), most));
    const auto of = [&](V c, int k) HWY_ATTR { return hn::Mul(c, hn::Mul(share, hn::Set(d, tint[k]))); };
    joinPixels(d, of(r, 0), of(g, 1), of(b, 2), hn::Set(d, 1.0f), rgba + i * 4);
  }
}

// lit() of `n` pixels, in place.
void litSpan(float amount, bool alone, const float* shine, int n, float* rgba) {
  const D d;
  const V zero = hn::Zero(d);
  const V one = hn::Set(d, 1.0f);
  const V times = hn::Set(d, amount);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V sr, sg, sb, sa;
    partPixels(d, shine + i * 4, sr, sg, sb, sa);
    sr = hn::Max(zero, hn::Mul(times, sr));
    sg = hn::Max(zero, hn::Mul(times, sg));
    sb = hn::Max(zero, hn::Mul(times, sb));
    V r = zero, g = zero, b = zero, a = zero;
    if (!alone) partPixels(d, rgba + i * 4, r, g, b, a);
    V share = one;
    V alpha = one;
    // On what is opaque light is added, and that is all.
    if (!hn::AllTrue(d, hn::Eq(a, one))) {
      const V dense = hn::Sqrt(hn::Min(one, hn::Max(sr, hn::Max(sg, sb))));
      const V bare = hn::Sub(one, a);
      alpha = hn::MulAdd(bare, dense, a);
      share = hn::MulAdd(bare, hn::IfThenElseZero(hn::Gt(dense, zero), hn::Div(one, hn::Max(dense, hn::Set(d, 1e-6f)))), a);
    }
    const auto of = [&](V c, V more) HWY_ATTR { return hn::Min(alpha, hn::MulAdd(more, share, c)); };
    joinPixels(d, of(r, sr), of(g, sg), of(b, sb), alpha, rgba + i * 4);
  }
}

// The same of display-encoded pixels, up to the first vector of them that is not opaque, or would be but for a rounding: on the others
// light is added, and that is all. Returns how many were done.
int litWhereOpaque(float amount, const float* shine, const float* rgba, int n, float* out) {
  const D d;
  const V one = hn::Set(d, 1.0f);
  const V nearly = hn::Set(d, kNearlyOpaque);
  const V times = hn::Set(d, amount);
  const auto isAlpha = alphaLanes(d);
  const int lanes = static_cast<int>(hn::Lanes(d));
  int i = 0;
  for (; i < n * 4; i += lanes) {
    const V pixels = hn::LoadU(d, rgba + i);
    if (HWY_UNLIKELY(!hn::AllFalse(d, hn::And(isAlpha, hn::Lt(pixels, nearly))))) return i / 4;
    const V more = hn::Max(hn::Zero(d), hn::Mul(times, hn::LoadU(d, shine + i)));
    const V light = hn::Add(curved<Decoded>(d, hn::Min(one, pixels)), more);
    hn::StoreU(hn::IfThenElse(isAlpha, one, curved<Encoded>(d, hn::Min(one, light))), d, out + i);
  }
  return n;
}

// All five blurs by their shares.
void addedUp(const float* const* in, const float* shares, int count, int n, float* out) {
  const D d;
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    V sum = hn::Mul(hn::LoadU(d, in[0] + i), hn::Set(d, shares[0]));
    for (int k = 1; k < count; ++k) sum = hn::MulAdd(hn::LoadU(d, in[k] + i), hn::Set(d, shares[k]), sum);
    hn::StoreU(sum, d, out + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(shiningSpan);
HWY_EXPORT(litSpan);
HWY_EXPORT(litWhereOpaque);
HWY_EXPORT(addedUp);

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How strongly it shines.",
     .base = 0.9,
     .min = 0,
     .max = 20,
     .sliderMin = 0,
     .sliderMax = 4,
     .unit = Unit::Ratio},
    {.id = "threshold",
     .label = "Threshold",
     .help = "How bright a place must be to shine.",
     .base = 0.55,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "radius",
     .label = "Radius",
     .help = "How far its light reaches.",
     .base = 320.0,
     .min = 1,
     .max = 4000,
     .sliderMin = 10,
     .sliderMax = 1200,
     .unit = Unit::Pixels,
     .logScale = true,
     .grip = Grip{}},
    {.id = "falloff",
     .label = "Falloff",
     .help = "None spreads it evenly, all keeps it close to where it comes from.",
     .base = 0.5,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "tint",
     .label = "Tint",
     .help = "Colours the light; white leaves it as it is.",
     .type = ParamType::Colour,
     .base = hexColour(0xfff4e2)},
    {.id = "alone",
     .label = "Light alone",
     .help = "Leaves the picture out, for a layer that is laid over another.",
     .type = ParamType::Toggle,
     .base = false,
     .rule = LoopRule::Fixed},
};

const StepVariant kVariants[] = {
    {"Haze", "All that is light runs out far.", {{"threshold", 0.3}, {"radius", 900.0}, {"falloff", 0.2}, {"amount", 0.8}}},
    {"Neon", "Close and strong.", {{"threshold", 0.5}, {"radius", 140.0}, {"amount", 2.2}, {"falloff", 0.6}}},
    {"Breathing", "Swells and fades.", {{"amount", 0.2}}, {{"amount", MotionKind::Swing, 1.8}}},
};

constexpr int kRadii = 5;

struct Light {
  double threshold;  // linear
  double sigma[kRadii];
  double share[kRadii];  // of each blur; one in all
  double amount;
  double tint[3];
  double grey;  // of the tint
  bool alone;
  explicit Light(const StepContext& context) : threshold(srgbDecode(context.number("threshold"))), alone(context.toggle("alone")) {
    const double widest = context.number("radius") / 2 * context.view().scale;
    const double ratio = std::exp2(-1 - 1.2 * context.number("falloff"));
    double whole = 0;
    for (int k = 0; k < kRadii; ++k) {
      sigma[k] = widest * std::exp2(k - kRadii + 1);
      whole += share[k] = std::pow(2 * ratio, k);
    }
    for (double& s : share) s /= whole;
    amount = context.number("amount");
    const Colour colour = context.colour("tint");
    const float parts[3] = {colour.r, colour.g, colour.b};
    grey = 0;
    for (int k = 0; k < 3; ++k) {
      tint[k] = srgbDecode(static_cast<double>(parts[k])) * static_cast<double>(colour.a);
      grey += tint[k] * static_cast<double>(kLuma[k]);
    }
    rests = context.number("amount") == 0 && !alone;
  }
  bool rests;
};

// What shines of a linear premultiplied pixel: as much of it as lies above the threshold, in its own colour.
template <class T>
void shining(const Light& light, T* p) {
  const T most = std::max(p[0], std::max(p[1], p[2]));
  const T share = std::max(T(0), most - static_cast<T>(light.threshold)) / std::max(T(1e-6), most);
  for (int c = 0; c < 3; ++c) p[c] *= share * static_cast<T>(light.tint[c]);
  p[3] = T(1);
}

// Light on a linear premultiplied pixel. Where there was nothing it is as dense as it is bright.
template <class T>
void lit(const Light& light, const T* shine, T* p) {
  T most = T(0);
  const T amount = static_cast<T>(light.amount);
  for (int c = 0; c < 3; ++c) most = std::max(most, amount * shine[c]);
  const T dense = std::sqrt(std::min(T(1), std::max(T(0), most)));
  if (light.alone) p[0] = p[1] = p[2] = p[3] = T(0);
  const T alpha = p[3] + (T(1) - p[3]) * dense;
  // Encoded, what is covered by so much alone comes out as bright as it is.
  const T before = p[3];
  for (int c = 0; c < 3; ++c) {
    const T more = std::max(T(0), amount * shine[c]);
    p[c] = std::min(alpha, p[c] + more * (before + (T(1) - before) * (dense > T(0) ? T(1) / std::max(dense, T(1e-6)) : T(0))));
  }
  p[3] = alpha;
}

// The field's encoded values as light, by a table that is finer than what is seen.
class FieldCurve {
 public:
  FieldCurve(double (*curve)(double)) {
    for (int i = 0; i <= kSteps + 1; ++i) table_[i] = static_cast<float>(curve(std::min(1.0, static_cast<double>(i) / kSteps)));
  }
  [[nodiscard]] float operator()(float v) const {
    const float at = std::min(1.0f, std::max(0.0f, v)) * kSteps;
    const auto whole = static_cast<int>(at);
    return table_[whole] + (table_[whole + 1] - table_[whole]) * (at - static_cast<float>(whole));
  }

 private:
  static constexpr int kSteps = 4096;
  float table_[kSteps + 2];
};

// All five blurs of what shines, added up, in a view as coarse as the finest of them allows.
std::shared_ptr<const RowMaker> shineOf(const Light& light, const Input& input, const PlaneView& view, int channels) {
  const double coarser = std::exp2(std::max(0.0, std::floor(std::log2(std::max(1.0, light.sigma[0])))));
  PlaneView wide = coarser > 1 ? view.coarser(coarser) : view;
  // Beyond four times its sigma there is less than a ten-thousandth of a blur, which the picture's edge stands for.
  const double widest = light.sigma[kRadii - 1] / coarser;
  const int reach = std::min(blurReach(widest), static_cast<int>(std::ceil(4 * widest)) + 2);
  wide = wide.grown(reach);
  const auto pulled = input.pull(wide);
  Plane shine = wholePlane(*pulled, wide.width, wide.height);
  // What is broken off half-way comes back empty, in as many channels as it likes.
  if (shine.channels() != channels) return {};
  parallelBands(wide.height, [&](int y0, int y1) {
    static const FieldCurve decode(srgbDecode);
    for (int y = y0; y < y1; ++y) {
      float* const row = shine.row(y);
      if (channels == 1) {
        for (int x = 0; x < wide.width; ++x)
          row[x] = std::max(0.0f, decode(row[x]) - static_cast<float>(light.threshold)) * static_cast<float>(light.grey);
        continue;
      }
      decodeSpan(row, wide.width);
      const float tint[3] = {static_cast<float>(light.tint[0]), static_cast<float>(light.tint[1]), static_cast<float>(light.tint[2])};
      HWY_DYNAMIC_DISPATCH(shiningSpan)(static_cast<float>(light.threshold), tint, wide.width, row);
    }
  });
  const auto from = planeRows(std::move(shine), false);
  std::vector<std::shared_ptr<const RowMaker>> soft;
  for (const double sigma : light.sigma) {
    BlurSettings s;
    s.sigmaX = s.sigmaY = sigma / coarser;
    soft.push_back(blurred(*from, wide.width, wide.height, s));
  }
  const auto sum =
      combinedRows(std::move(soft), wide.width, {channels, false}, [light, channels](const float* const* in, int, int, int n, float* out) {
        float shares[kRadii];
        std::copy_n(light.share, kRadii, shares);
        HWY_DYNAMIC_DISPATCH(addedUp)(in, shares, kRadii, n * channels, out);
      });
  if (coarser <= 1) return cropped(sum, (wide.width - view.width) / 2, (wide.height - view.height) / 2, view.width, wide.width);
  // Of the sum no more than what is seen, and what an enlargement mixes beyond it.
  const int beyond = std::max(0, reach - 4);
  const PlaneView seen = wide.part(beyond, beyond, wide.width - 2 * beyond, wide.height - 2 * beyond);
  const auto shown = cropped(sum, beyond, beyond, seen.width, wide.width);
  return resampled(planeRows(wholePlane(*shown, seen.width, seen.height), false), seen, view);
}

std::shared_ptr<const RowMaker> shiningField(std::shared_ptr<const RowMaker> field, std::shared_ptr<const RowMaker> shine,
                                             const Light& light, int width) {
  return combinedRows({std::move(field), std::move(shine)}, width, {1, true}, [light](const float* const* in, int, int, int n, float* out) {
    static const FieldCurve decode(srgbDecode);
    static const FieldCurve root([](double v) { return srgbEncode(v * v); });
    for (int i = 0; i < n; ++i) {
      const float linear = (light.alone ? 0 : decode(in[0][i])) + static_cast<float>(light.amount) * std::max(0.0f, in[1][i]);
      const float made = root(std::sqrt(linear));
      // What lies beyond black and white stays there.
      out[i] = !light.alone && (in[0][i] < 0 || in[0][i] > 1) ? std::max(in[0][i], made) : made;
    }
  });
}

// A picture and what shines of it; its light is there before what is shown of it.
class ShiningPicture final : public SameRows {
 public:
  ShiningPicture(const std::shared_ptr<const RowMaker>& picture, const std::shared_ptr<const RowMaker>& shine, const Light& light,
                 int width)
      : SameRows(combinedRows({picture, shine}, width, lookOf(*picture, light),
                              [light](const float* const* in, int, int, int n, float* out) { show(light, in[0], in[1], n, out); })),
        picture_(picture),
        shine_(shine),
        light_(light),
        width_(width) {}
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    const auto known = picture_->linear();
    return combinedRows({known ? known : picture_, shine_}, width_, lookOf(*picture_, light_),
                        [light = light_, decodes = !known](const float* const* in, int, int, int n, float* out) {
                          std::copy_n(in[0], static_cast<std::size_t>(n) * 4, out);
                          brighten(light, decodes, in[1], n, out);
                        });
  }

 private:
  static CombinedLook lookOf(const RowMaker& picture, const Light& light) { return {4, picture.opaque() && !light.alone}; }

  static void show(const Light& light, const float* from, const float* shine, int n, float* out) {
    for (int done = 0; done < n;) {
      const std::ptrdiff_t at = static_cast<std::ptrdiff_t>(done) * 4;
      const int opaque =
          light.alone ? 0
                      : HWY_DYNAMIC_DISPATCH(litWhereOpaque)(static_cast<float>(light.amount), shine + at, from + at, n - done, out + at);
      done += opaque;
      if (opaque > 0) continue;
      const int count = light.alone ? n : std::min(kSpanPadding, n - done);
      std::copy_n(from + at, static_cast<std::size_t>(count) * 4, out + at);
      brighten(light, true, shine + at, count, out + at);
      encodeSpan(out + at, count);
      done += count;
    }
  }
  // `n` pixels become what they are in light with what shines on them.
  static void brighten(const Light& light, bool decodes, const float* shine, int n, float* rgba) {
    // What is opaque comes out the same whatever lies beside it.
    for (int i = 0; i < n; ++i)
      if (rgba[i * 4 + 3] >= kNearlyOpaque) rgba[i * 4 + 3] = 1;
    if (decodes) decodeSpan(rgba, n);
    HWY_DYNAMIC_DISPATCH(litSpan)(static_cast<float>(light.amount), light.alone, shine, n, rgba);
  }

  std::shared_ptr<const RowMaker> picture_;
  std::shared_ptr<const RowMaker> shine_;
  Light light_;
  int width_;
};

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const Light light(context);
  auto rows = input.pull(view);
  if (light.rests) return rows;
  const int channels = rows->channels();
  auto shine = shineOf(light, input, view, channels);
  if (!shine) return rows;
  if (channels == 1) return shiningField(rows, shine, light, view.width);
  return std::make_shared<ShiningPicture>(rows, shine, light, view.width);
}

PlainPixel converted(PlainPixel p, double (*curve)(double)) {
  if (p[3] <= 0) return {};
  for (std::size_t c = 0; c < 3; ++c) p[c] = curve(std::clamp(p[c] / p[3], 0.0, 1.0)) * p[3];
  return p;
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Light light(context);
  if (light.rests) return input;
  const auto shine = [input, light](int x, int y) {
    const ReferencePixel p = input(x, y);
    if (p.channels == 1) return PlainPixel{std::max(0.0, srgbDecode(std::clamp(p.v[0], 0.0, 1.0)) - light.threshold) * light.grey};
    PlainPixel linear = converted(p.v, srgbDecode);
    shining(light, linear.data());
    return linear;
  };
  std::array<PlainPicture, kRadii> soft;
  for (std::size_t k = 0; k < kRadii; ++k) soft[k] = plainBlur(shine, light.sigma[k]);
  return [=](int x, int y) {
    ReferencePixel p = input(x, y);
    PlainPixel sum{};
    for (std::size_t k = 0; k < kRadii; ++k) {
      const PlainPixel part = soft[k](x, y);
      for (std::size_t c = 0; c < 4; ++c) sum[c] += light.share[k] * part[c];
    }
    if (p.channels == 1) {
      const double made = srgbEncode(std::min(1.0, (light.alone ? 0 : srgbDecode(std::clamp(p.v[0], 0.0, 1.0))) + light.amount * sum[0]));
      p.v[0] = !light.alone && (p.v[0] < 0 || p.v[0] > 1) ? std::max(p.v[0], made) : made;
      return p;
    }
    p.v = converted(p.v, srgbDecode);
    lit(light, sum.data(), p.v.data());
    p.v = converted(p.v, srgbEncode);
    return p;
  };
}

}  // namespace

const StepSpec& glowStep() {
  static const StepSpec spec{.id = "glow",
                             .title = "Glow",
                             .group = "light",
                             .help = "Lets what is bright shine beyond its edges, near ones strongly and far ones faintly, as light does.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .smooth = smoothAsBefore,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
