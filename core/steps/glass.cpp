// Glass: the picture seen through frosted or ribbed glass, or through glass bricks.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/glass.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Glass {
  enum class Kind { Ribbed, Bricks, Frosted };
  Kind kind;
  Point centre;
  double c, s;
  double size;
  double strength;
  double shine;
  double pixel;  // share of a rib
  Draw across, down;

  explicit Glass(const StepContext& context)
      : centre{context.view().frameWidth / 2, context.view().frameHeight / 2},
        c(std::cos(context.number("angle") * kDegree)),
        s(std::sin(context.number("angle") * kDegree)),
        size(context.number("size")),
        strength(context.number("strength")),
        shine(context.number("shine")),
        pixel(1 / context.view().scale / size),
        across(static_cast<std::uint64_t>(context.number("seed")) * 2 + 11),
        down(static_cast<std::uint64_t>(context.number("seed")) * 2 + 12) {
    const auto name = context.choice("kind");
    kind = name == "ribbed" ? Kind::Ribbed : name == "bricks" ? Kind::Bricks : Kind::Frosted;
  }

  [[nodiscard]] bool rests() const { return strength == 0 && shine == 0; }

  // Within the glass's own directions, in pieces.
  template <class N>
  void within(N px, N py, N& u, N& v) const {
    const N x = px - N(centre.x);
    const N y = py - N(centre.y);
    u = (x * N(c) + y * N(s)) * N(1 / size);
    v = (y * N(c) - x * N(s)) * N(1 / size);
  }
  // How far off the middle of a piece, -1 to 1; towards its edges it goes back, so that pieces meet without a jump.
  template <class N>
  static N bent(N t) {
    const N off = (fractOf(t) - N(0.5)) * N(2.0);
    return off * (N(1.0) - off * off) * N(2.6);
  }
  // Even numbers between whole places.
  template <class N>
  N drawn(const Draw& draw, N u, N v) const {
    const N x = floorOf(u), y = floorOf(v);
    const N tx = softOf(u - x), ty = softOf(v - y);
    const auto at = [&](double i, double j) { return draw(wrapped(x + N(i)) + wrapped(y + N(j)) * N(127.0)); };
    const N upper = at(0, 0) + (at(1, 0) - at(0, 0)) * tx;
    const N lower = at(0, 1) + (at(1, 1) - at(0, 1)) * tx;
    return upper + (lower - upper) * ty - N(0.5);
  }
  template <class N>
  static N wrapped(N a) {
    return a - floorOf((a + N(0.5)) * N(1.0 / 251)) * N(251.0);
  }
  // Bricks are twice as wide as high, each row half a brick on.
  template <class N>
  void brick(N& u, N v) const {
    u = u * N(0.5) + repeatedOf(floorOf(v), 2.0) * N(0.5);
  }

  template <class N>
  void from(N& px, N& py) const {
    N u, v;
    within(px, py, u, v);
    N x(0.0), y(0.0);
    if (kind == Kind::Ribbed) {
      x = bent(u) * N(strength);
    } else if (kind == Kind::Bricks) {
      brick(u, v);
      x = bent(u) * N(strength);
      y = bent(v) * N(strength * 0.6);
    } else {
      x = (drawn(across, u, v) + drawn(across, u * N(2.3) + N(40.0), v * N(2.3)) * N(0.5)) * N(2 * strength);
      y = (drawn(down, u, v) + drawn(down, u * N(2.3) + N(40.0), v * N(2.3)) * N(0.5)) * N(2 * strength);
    }
    px = px + x * N(c) - y * N(s);
    py = py + x * N(s) + y * N(c);
  }

  static constexpr bool kFields = true;
  template <class N>
  void light(N px, N py, N (&p)[4]) const {
    if (shine == 0) return;
    N u, v;
    within(px, py, u, v);
    N bright(0.0), dark(0.0);
    // A narrow light beside each joint, and a narrow shade before it.
    const auto joint = [&](N t, double wide) {
      const N off = fractOf(t);
      bright = bright + softOf(N(1.0) - absOf(off - N(0.16 * wide)) * N(1 / (0.13 * wide + pixel)));
      dark = dark + softOf(N(1.0) - minOf(off, N(1.0) - off) * N(1 / (0.16 * wide + pixel)));
    };
    if (kind == Kind::Ribbed) {
      joint(u, 1);
    } else if (kind == Kind::Bricks) {
      brick(u, v);
      joint(u, 0.35);
      joint(v, 0.7);
    } else {
      bright = maxOf(N(0.0), drawn(across, u, v) + drawn(down, u, v)) * N(0.5);
    }
    bright = minOf(N(1.0), bright) * N(shine * 0.55);
    dark = minOf(N(1.0), dark) * N(shine * 0.6);
    for (int k = 0; k < 3; ++k) {
      const N shown = p[k] * (N(1.0) - dark);
      p[k] = shown + maxOf(N(0.0), p[3] - shown) * bright;
    }
  }
};

OA_LENS_FORMULA(Glass)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Glass)

namespace {

const ParamSpec kParams[] = {
    {.id = "kind",
     .label = "Kind",
     .help = "Ribs side by side, bricks in rows, or a rough surface.",
     .type = ParamType::Choice,
     .base = std::string("ribbed"),
     .rule = LoopRule::Fixed,
     .choices = {"ribbed", "bricks", "frosted"}},
    {.id = "size",
     .label = "Size",
     .help = "Of a rib, a brick or a grain.",
     .base = 74.0,
     .min = 2,
     .max = 4096,
     .sliderMin = 6,
     .sliderMax = 400,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "strength",
     .label = "Strength",
     .help = "How far the glass bends what is seen.",
     .base = 46.0,
     .min = 0,
     .max = 4096,
     .sliderMin = 0,
     .sliderMax = 200,
     .unit = Unit::Pixels},
    field_params::turned("angle", "Angle", 0.0, "Turns the glass."),
    {.id = "shine", .label = "Shine", .help = "How much its edges gleam.", .base = 0.35, .min = 0, .max = 1, .unit = Unit::Share},
    field_params::when(field_params::seed("Another number, another rough surface."), "kind", {"frosted"}),
};

const StepVariant kVariants[] = {
    {"Bathroom window", "Fine and rough.", {{"kind", std::string("frosted")}, {"size", 13.0}, {"strength", 26.0}, {"shine", 0.2}}},
    {"Bricks", "Large bricks, row on row.", {{"kind", std::string("bricks")}, {"size", 150.0}, {"strength", 60.0}, {"shine", 0.5}}},
    {"Reeds", "Narrow ribs aslant.", {{"size", 26.0}, {"strength", 34.0}, {"angle", 18.0}, {"shine", 0.25}}},
};

}  // namespace

const StepSpec& glassStep() {
  static const StepSpec spec{.id = "glass",
                             .title = "Glass",
                             .group = "body",
                             .help = "Shows the picture through glass: frosted, ribbed or in bricks.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
