// Palette only: every pixel in one of a few colours, with a dither between them.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/paletteonly.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

#include <vector>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct PaletteOnly {
  static constexpr int kAside = 1;
  PlanePlaces places;
  std::vector<std::array<double, 3>> colours;
  double dither;
  double grain;
  double amount;
  // How much each channel counts, as eyes see differences of encoded values.
  static constexpr double kSeen[3] = {0.55, 0.77, 0.33};

  explicit PaletteOnly(const StepContext& context)
      : places(context.view()), dither(context.number("dither") * 0.36), grain(context.number("grain")), amount(context.number("amount")) {
    for (const Values& item : context.items()) {
      const Colour c = item.colour("colour");
      colours.push_back({static_cast<double>(c.r), static_cast<double>(c.g), static_cast<double>(c.b)});
    }
  }

  // The ordered dither of eight by eight (B. E. Bayer 1973), from -0.5 to 0.5: its bits are those of the place, taken by turns.
  template <class N>
  void beside(N px, N py, N* out) const {
    N x = floorOf(px * N(1 / grain) + N(1e-4));
    N y = floorOf(py * N(1 / grain) + N(1e-4));
    N sum(0.0);
    double weight = 32;
    for (int bit = 0; bit < 3; ++bit) {
      const N hx = floorOf(x * N(0.5)), hy = floorOf(y * N(0.5));
      const N ox = x - hx * N(2.0), oy = y - hy * N(2.0);
      // 0, 2, 3, 1 for the four places of a square.
      sum = sum + (absOf(ox - oy) + oy * N(0.5)) * N(weight);
      x = hx;
      y = hy;
      weight /= 4;
    }
    out[0] = sum * N(1.0 / 64) - N(0.4922);
  }

  template <class N>
  void colour(N (&c)[3], N alpha, const N* aside) const {
    const N straight = inverseOrZero(alpha);
    const N off = aside[0] * N(dither);
    N p[3];
    for (int k = 0; k < 3; ++k) p[k] = c[k] * straight + off;
    N nearest(1e9), next(1e9);
    N best[3] = {N(0.0), N(0.0), N(0.0)}, second[3] = {N(0.0), N(0.0), N(0.0)};
    for (const auto& colour : colours) {
      N away(0.0);
      N own[3];
      for (int k = 0; k < 3; ++k) {
        own[k] = N(colour[static_cast<std::size_t>(k)]);
        const N d = (p[k] - own[k]) * N(kSeen[k]);
        away = away + d * d;
      }
      away = rootOf(away);
      for (int k = 0; k < 3; ++k) {
        second[k] = whereLess(away, nearest, best[k], whereLess(away, next, own[k], second[k]));
        best[k] = whereLess(away, nearest, own[k], best[k]);
      }
      next = whereLess(away, nearest, nearest, minOf(next, away));
      nearest = minOf(nearest, away);
    }
    // Right between two of them they run into each other, so that no pixel flickers by a rounding error.
    const N sure = minOf(N(1.0), N(0.5) + (next - nearest) * N(40.0));
    for (int k = 0; k < 3; ++k) {
      const N made = second[k] + (best[k] - second[k]) * sure;
      c[k] = c[k] + (made * alpha - c[k]) * N(amount);
    }
  }
};

OA_POINT_FORMULA(PaletteOnly)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_POINT_STEP(PaletteOnly)

namespace {

const ParamSpec kColourParams[] = {
    {.id = "colour",
     .label = "Colour",
     .help = "One of the colours that there are.",
     .type = ParamType::Colour,
     .base = hexColour(0x808080)},
};

// A harbour at dusk: from the dark to the light, then what stands out.
void beginning(std::size_t i, std::span<Value> values) {
  constexpr unsigned kFirst[] = {0x10242e, 0x2a5d6b, 0x6fa39a, 0xf2e3c2, 0xd9824f, 0x7b3b47};
  values[0] = hexColour(kFirst[i % std::size(kFirst)]);
}

const ItemsSpec kColours{.id = "colours",
                         .single = "Colour",
                         .help = "The colours that there are.",
                         .params = kColourParams,
                         .least = 2,
                         .first = 6,
                         .beginning = beginning,
                         .leads = "Colours"};

const ParamSpec kParams[] = {
    {.id = "dither",
     .label = "Dither",
     .help = "How far two colours are woven into each other where the picture lies between them.",
     .base = 0.5,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "grain",
     .label = "Grain",
     .help = "Of the weave.",
     .base = 4.0,
     .min = 1,
     .max = 256,
     .sliderMin = 1,
     .sliderMax = 32,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "amount",
     .label = "Amount",
     .help = "How much of the picture is replaced; none leaves it as it is.",
     .base = 1.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

const StepVariant kVariants[] = {
    {"Poster", "No weave: flat areas.", {{"dither", 0.0}}},
    {"Coarse weave", "Large and strong.", {{"grain", 12.0}, {"dither", 0.9}}},
    {"Tinted", "Only half of it.", {{"amount", 0.5}, {"dither", 0.3}}},
};

}  // namespace

const StepSpec& paletteonlyStep() {
  static const StepSpec spec{.id = "paletteonly",
                             .title = "Palette only",
                             .group = "surface",
                             .help = "Leaves a few colours alone, the nearest for every pixel, woven into each other between them.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .items = &kColours,
                             .variants = kVariants,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
