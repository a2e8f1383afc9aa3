// Ball: the picture round a ball that turns, lit or not, with a shadow on the ground.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/ball.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Ball {
  Point centre;
  double radius;
  double width, height, copies;
  double spun;  // shares of a turn
  double leanC, leanS, nodC, nodS;
  double lamp[3], half[3];
  double shade, shine, rim, ground;
  double amount;
  double pixel;

  explicit Ball(const StepContext& context)
      : centre(placeOf(context, "centre")),
        radius(context.number("radius")),
        width(context.view().frameWidth),
        height(context.view().frameHeight),
        copies(context.number("copies")),
        spun(fract(context.number("spins") * context.progress("spins") + context.number("turn") / 360)),
        leanC(std::cos(context.number("lean") * kDegree)),
        leanS(std::sin(context.number("lean") * kDegree)),
        nodC(std::cos(context.number("nod") * kDegree)),
        nodS(std::sin(context.number("nod") * kDegree)),
        shade(context.number("shade")),
        shine(context.number("shine")),
        rim(context.number("rim")),
        ground(context.number("ground")),
        amount(context.number("amount")),
        pixel(1 / context.view().scale) {
    const double angle = context.number("light") * kDegree;
    lamp[0] = std::cos(angle) * 0.72;
    lamp[1] = std::sin(angle) * 0.72;
    lamp[2] = 0.694;
    const double length = std::sqrt(lamp[0] * lamp[0] + lamp[1] * lamp[1] + (lamp[2] + 1) * (lamp[2] + 1));
    for (int k = 0; k < 3; ++k) half[k] = (lamp[k] + (k == 2 ? 1 : 0)) / length;
  }

  [[nodiscard]] bool rests() const { return amount == 0; }
  [[nodiscard]] bool opaque() const { return false; }

  [[nodiscard]] std::array<double, 4> box() const {
    if (amount < 1) return {-1e8, -1e8, 1e8, 1e8};
    const double wide = radius + pixel;
    return {centre.x - wide, centre.y - wide, centre.x + wide, centre.y + (ground > 0 ? std::max(wide, radius * 1.23 + pixel) : wide)};
  }

  // The normal of the ball at a place; beyond its edge that of the edge.
  template <class N>
  void normal(N px, N py, N (&n)[3], N& far) const {
    n[0] = (px - N(centre.x)) * N(1 / radius);
    n[1] = (py - N(centre.y)) * N(1 / radius);
    far = rootOf(n[0] * n[0] + n[1] * n[1]);
    const N held = minOf(N(1.0), inverseOrZero(far));
    n[0] = n[0] * held;
    n[1] = n[1] * held;
    n[2] = rootOf(maxOf(N(1e-4), N(1.0) - n[0] * n[0] - n[1] * n[1]));
  }

  template <class N>
  void from(N& px, N& py) const {
    N n[3];
    N far;
    normal(px, py, n, far);
    // Leaning aside, then nodding towards the eye.
    const N x = n[0] * N(leanC) + n[1] * N(leanS);
    const N up = n[1] * N(leanC) - n[0] * N(leanS);
    const N y = up * N(nodC) - n[2] * N(nodS);
    const N z = up * N(nodS) + n[2] * N(nodC);
    const N around = angleOf(x, z) * N(0.5 / std::numbers::pi);
    const N upward = angleOf(y, rootOf(maxOf(N(1e-4), N(1.0) - y * y))) * N(1 / std::numbers::pi);
    // About its poles, where all meridians run together, so do they.
    const N ring = minOf(N(1.0), rootOf(maxOf(N(1e-4), N(1.0) - y * y)) * N(radius / (2 * pixel)));
    // There and back, so that no seam is left, however often it goes round.
    const N share = mirroredOf((N(0.25 / copies) + fractOf(around - N(spun))) * N(2 * copies), 1.0);
    const N u = (N(0.5) + (share - N(0.5)) * ring) * N(width);
    const N v = (N(0.5) + upward) * N(height);
    px = px + (u - px) * N(amount);
    py = py + (v - py) * N(amount);
  }

  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    N n[3];
    N far;
    normal(px, py, n, far);
    const N cover = maxOf(N(0.0), minOf(N(1.0), (N(1.0) - far) * N(radius / pixel) + N(0.5)));
    const N falls = maxOf(N(0.0), n[0] * N(lamp[0]) + n[1] * N(lamp[1]) + n[2] * N(lamp[2]));
    const N lit = N(1 - shade) + (N(0.16) + falls * N(1.02)) * N(shade);
    N gleam = maxOf(N(0.0), n[0] * N(half[0]) + n[1] * N(half[1]) + n[2] * N(half[2]));
    for (int k = 0; k < 5; ++k) gleam = gleam * gleam;
    const N edge = N(1.0) - n[2];
    const N bright = minOf(N(1.0), gleam * N(shine) + edge * edge * edge * N(rim));
    // What lies on the ground below: wider than high, as it is seen from the side.
    const N gx = (px - N(centre.x)) * N(1 / (radius * 0.95));
    const N gy = (py - N(centre.y + radius * 1.03)) * N(1 / (radius * 0.2));
    const N dark = softOf(N(1.0) - rootOf(gx * gx + gy * gy)) * N(ground);
    const N alpha = c[3];
    const N whole(1 - amount);
    for (int k = 0; k < 3; ++k) {
      const N shown = minOf(alpha, c[k] * lit);
      c[k] = c[k] * whole + (shown + (alpha - shown) * bright) * cover * N(amount);
    }
    c[3] = alpha * (whole + (cover + (N(1.0) - cover) * dark) * N(amount));
  }
};

OA_LENS_FORMULA(Ball)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Ball)

namespace {

const ParamSpec kParams[] = {
    {.id = "radius",
     .label = "Radius",
     .help = "Of the ball.",
     .base = 360.0,
     .min = 1,
     .max = 16384,
     .sliderMin = 20,
     .sliderMax = 1200,
     .unit = Unit::Pixels,
     .grip = Grip{.from = "centre"}},
    field_params::place("centre", "Centre", {0.5, 0.48}, "Where it is; 0 to 1 across and down the frame."),
    field_params::goneBy("spins", "Spins", 1.0, 4, "Whole turns within a lap; negative ones go back."),
    field_params::turned("turn", "Turn", 0.0, "How far it is turned where the loop begins."),
    field_params::turned("lean", "Lean", 18.0, "How far its axis leans aside."),
    {.id = "nod",
     .label = "Nod",
     .help = "How far its upper pole leans towards the eye.",
     .type = ParamType::Angle,
     .base = 14.0,
     .min = -90,
     .max = 90,
     .unit = Unit::Degrees},
    {.id = "copies",
     .label = "Copies",
     .help = "How often the picture goes round, each time there and back.",
     .type = ParamType::Integer,
     .base = 1.0,
     .min = 1,
     .max = 32,
     .sliderMin = 1,
     .sliderMax = 6,
     .unit = Unit::Count,
     .rule = LoopRule::Fixed},
    {.id = "shade",
     .label = "Shade",
     .help = "How much the light models it; none leaves it flat.",
     .base = 0.85,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    field_params::turned("light", "Light", -130.0, "Where the light comes from.", Grip{.kind = Grip::Kind::Way, .from = "centre"}),
    {.id = "shine",
     .label = "Shine",
     .help = "How bright the spot is where it mirrors the light.",
     .base = 0.45,
     .min = 0,
     .max = 2,
     .sliderMin = 0,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "rim",
     .label = "Rim",
     .help = "How bright its edge is, as of glass or planets.",
     .base = 0.2,
     .min = 0,
     .max = 2,
     .sliderMin = 0,
     .sliderMax = 1,
     .unit = Unit::Share},
    {.id = "ground",
     .label = "Ground",
     .help = "How dark its shadow on the ground is.",
     .base = 0.5,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "amount",
     .label = "Amount",
     .help = "How far the picture is wrapped round; none leaves it as it is.",
     .base = 1.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

const StepVariant kVariants[] = {
    {"Planet",
     "Large, leaning, with a bright rim and no ground.",
     {{"radius", 470.0}, {"rim", 0.6}, {"ground", 0.0}, {"shine", 0.1}, {"lean", 26.0}, {"centre", Point{0.5, 0.5}}}},
    {"Marble", "Small and shining.", {{"radius", 190.0}, {"shine", 1.2}, {"rim", 0.35}, {"copies", 2.0}, {"spins", 2.0}}},
    {"Paper ball", "Flat, as if it were cut out.", {{"shade", 0.0}, {"shine", 0.0}, {"rim", 0.0}, {"ground", 0.3}}},
};

}  // namespace

const StepSpec& ballStep() {
  static const StepSpec spec{
      .id = "ball",
      .title = "Ball",
      .group = "body",
      .help = "Wraps the picture round a ball that turns by whole turns, with light, shine and a shadow on the ground.",
      .kind = StepKind::Area,
      .params = kParams,
      .variants = kVariants,
      .area = make,
      .reference = reference};
  return spec;
}

}  // namespace oa
#endif
