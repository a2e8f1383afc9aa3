// Cloth: waves that run through the picture, lit as folds are.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/cloth.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Cloth {
  static constexpr int kWaves = 4;
  Point way;
  Point origin;            // where it is held
  double wave[kWaves][2];  // waves for a pixel of the plane
  double begun[kWaves];
  double share[kWaves];
  double amount;
  double length;
  double held;  // over how many pixels it is held
  double shade, shine;
  double lampX, lampY;

  explicit Cloth(const StepContext& context)
      : amount(context.number("amount")),
        length(context.number("length")),
        held(context.number("held")),
        shade(context.number("shade")),
        shine(context.number("shine")) {
    const PlaneView& view = context.view();
    const double angle = context.number("angle") * kDegree;
    way = {std::cos(angle), std::sin(angle)};
    const double half = (std::abs(way.x) * view.frameWidth + std::abs(way.y) * view.frameHeight) / 2;
    origin = {view.frameWidth / 2 - way.x * half, view.frameHeight / 2 - way.y * half};
    // Waves of lengths that do not go into each other, a little aside of the way; each passes by whole ones, or it would not close.
    const double lengths[kWaves] = {1, 0.618, 1.71, 0.39};
    const double aside[kWaves] = {0.16, -0.34, 0.47, 0.11};
    const double shares[kWaves] = {0.5, 0.24, 0.3, 0.1};
    const double times[kWaves] = {1, 2, 1, 3};
    const double done = context.progress("travel") * context.number("travel");
    for (int k = 0; k < kWaves; ++k) {
      const double turned = angle + aside[k];
      wave[k][0] = std::cos(turned) / (length * lengths[k]);
      wave[k][1] = std::sin(turned) / (length * lengths[k]);
      begun[k] = fract(done * times[k] + 0.37 * k);
      share[k] = shares[k] * lengths[k];
    }
    const double lamp = context.number("light") * kDegree;
    lampX = std::cos(lamp);
    lampY = std::sin(lamp);
  }

  [[nodiscard]] bool rests() const { return amount == 0; }
  [[nodiscard]] double bends() const { return 0.39 * length / 48; }

  // How steeply it rises across and down.
  template <class N>
  void slope(N px, N py, N& sx, N& sy) const {
    const N x = px - N(origin.x);
    const N y = py - N(origin.y);
    sx = N(0.0);
    sy = N(0.0);
    for (int k = 0; k < kWaves; ++k) {
      const N rise =
          cosineOf(fractOf(x * N(wave[k][0]) + y * N(wave[k][1]) - N(begun[k])) * N(2 * std::numbers::pi)) * N(share[k] * length);
      sx = sx + rise * N(wave[k][0]);
      sy = sy + rise * N(wave[k][1]);
    }
    if (held <= 0) return;
    const N loose = softOf((x * N(way.x) + y * N(way.y)) * N(1 / held));
    sx = sx * loose;
    sy = sy * loose;
  }

  template <class N>
  void from(N& px, N& py) const {
    N sx, sy;
    slope(px, py, sx, sy);
    px = px + sx * N(amount);
    py = py + sy * N(amount);
  }

  static constexpr bool kFields = true;
  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    N sx, sy;
    slope(px, py, sx, sy);
    const N faces = (sx * N(lampX) + sy * N(lampY));
    const N lit = maxOf(N(0.0), N(1.0) - faces * N(shade));
    N gleam = softOf(N(0.0) - faces * N(1.1) - N(0.35));
    gleam = gleam * N(shine);
    for (int k = 0; k < 3; ++k) {
      const N dark = minOf(c[3], c[k] * lit);
      c[k] = dark + (c[3] - dark) * gleam;
    }
  }
};

OA_LENS_FORMULA(Cloth)
OA_SMOOTH_LENS(Cloth)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Cloth)
OA_SMOOTH_STEP(Cloth)

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How far the folds push it about.",
     .base = 46.0,
     .min = 0,
     .max = 4096,
     .sliderMin = 0,
     .sliderMax = 200,
     .unit = Unit::Pixels},
    {.id = "length",
     .label = "Length",
     .help = "From fold to fold.",
     .base = 520.0,
     .min = 8,
     .max = 8192,
     .sliderMin = 60,
     .sliderMax = 2000,
     .unit = Unit::Pixels,
     .logScale = true},
    field_params::turned("angle", "Direction", 14.0, "Where the waves run to.", Grip{.kind = Grip::Kind::Way}),
    field_params::goneBy("travel", "Travel", 1.0, 6, "Waves that go by within a lap."),
    {.id = "held",
     .label = "Held",
     .help = "Over how much of it the edge where the waves begin is held, as at a pole.",
     .base = 0.0,
     .min = 0,
     .max = 16384,
     .sliderMin = 0,
     .sliderMax = 1200,
     .unit = Unit::Pixels},
    {.id = "shade",
     .label = "Shade",
     .help = "How dark the far sides of the folds are.",
     .base = 0.5,
     .min = 0,
     .max = 2,
     .sliderMin = 0,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "shine",
     .label = "Shine",
     .help = "How much the near sides gleam, as silk does.",
     .base = 0.22,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::turned("light", "Light", -120.0, "Where the light comes from."),
};

const StepVariant kVariants[] = {
    {"Flag", "Held at its left edge.", {{"held", 900.0}, {"amount", 90.0}, {"length", 640.0}, {"angle", 6.0}, {"travel", 2.0}}},
    {"Curtain", "Upright folds that hardly move it.", {{"angle", 0.0}, {"length", 210.0}, {"amount", 16.0}, {"shade", 0.7}}},
    {"Silk", "Long gleaming waves.", {{"length", 900.0}, {"amount", 70.0}, {"shine", 0.55}, {"shade", 0.4}, {"angle", 38.0}}},
};

}  // namespace

const StepSpec& clothStep() {
  static const StepSpec spec{.id = "cloth",
                             .title = "Cloth",
                             .group = "body",
                             .help = "Lets the picture wave as cloth does, in folds that catch the light.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .smooth = smooth,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
