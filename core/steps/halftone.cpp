// Halftone: tones as dots or lines of one ink, or of one for each colour, as print makes them.
#include <cstdint>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/halftone.cpp"
#include <hwy/foreach_target.h>
#include "steps/point_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Halftone {
  static constexpr int kAside = 3;  // what is added to a tone, counted in soft edges, to tell how bare the paper is: one for each screen
  PlanePlaces places;
  double across[3][2], down[3][2];  // directions of each screen, in cells for a pixel of the plane
  double centre[2];
  bool lines;
  bool each;
  double sharp;
  double clean;  // how much of all tones the screen covers: the rest is left for its soft edges, so that black and white stay clean
  double amount;
  double ink[3], paper[3];
  // How far into its cell the view's first pixel lies, and each next one across and down, in shares of 2^32: they begin anew at a cell's
  // end by themselves. Of each screen along and across.
  struct Shares {
    std::uint32_t first[2], across[2], down[2];
  } shares[3];

  explicit Halftone(const StepContext& context)
      : places(context.view()),
        centre{context.view().frameWidth / 2, context.view().frameHeight / 2},
        lines(context.choice("shape") == "lines"),
        each(context.choice("inks") == "each"),
        amount(context.number("amount")) {
    const double size = context.number("size");
    // Screens of several inks are turned against each other, so that they do not beat.
    const double turned[3] = {15, 75, 45};
    for (int k = 0; k < 3; ++k) {
      const double angle = (context.number("angle") + (each ? turned[k] - 45 : 0)) * kDegree;
      across[k][0] = std::cos(angle) / size;
      across[k][1] = std::sin(angle) / size;
      down[k][0] = -across[k][1];
      down[k][1] = across[k][0];
    }
    // Edges are never harder than a pixel.
    const double runs = 0.03 + 0.6 * context.number("soft");
    sharp = 1 / std::max(runs, 2.4 * places.pixel / size);
    clean = 1 - runs;
    const Colour inkColour = context.colour("ink");
    const Colour paperColour = context.colour("paper");
    const float inks[3] = {inkColour.r, inkColour.g, inkColour.b};
    const float papers[3] = {paperColour.r, paperColour.g, paperColour.b};
    for (int k = 0; k < 3; ++k) {
      ink[k] = static_cast<double>(inks[k]);
      paper[k] = static_cast<double>(papers[k]);
      const Cells first = cellsAtPixel(k, 0, 0);
      const Cells right = cellsAt(k, places.xx, places.yx);
      const Cells below = cellsAt(k, places.xy, places.yy);
      const auto shareOf = [](double cells) {
        return static_cast<std::uint32_t>(static_cast<std::int64_t>((cells - std::nearbyint(cells)) * 4294967296.0));
      };
      shares[k] = {{shareOf(first.u), shareOf(first.v)}, {shareOf(right.u), shareOf(right.v)}, {shareOf(below.u), shareOf(below.v)}};
    }
  }

  // The tone up to which there is ink, so many cells along and across a screen, is half of all and what waves add to that. Tones are
  // counted from it in softness of an edge. A wave is half a cosine, by a parabola twice: within some hundredths, and the same for all.
  // `a` is 1 in the middle of a cell and -1 between two of them.
  template <class N>
  [[nodiscard]] N waveOn(N a, double high, N edge) const {
    return mulAddOf(a, mulAddOf(a * a, N(0.25 * high), N(-0.75 * high)), edge);
  }
  [[nodiscard]] double bareEdge() const { return 0.5 - 0.5 * sharp; }
  [[nodiscard]] double waveHeight() const { return (lines ? 1.0 : 0.5) * clean * sharp; }

  struct Cells {
    double u, v;
  };
  [[nodiscard]] Cells cellsAt(int k, double x, double y) const {
    return {x * across[k][0] + y * across[k][1], x * down[k][0] + y * down[k][1]};
  }
  [[nodiscard]] Cells cellsAtPixel(int k, int x, int y) const {
    return cellsAt(k, places.x0 + x * places.xx + y * places.xy - centre[0], places.y0 + x * places.yx + y * places.yy - centre[1]);
  }
  [[nodiscard]] int screens() const { return each ? 3 : 1; }

  // How far pixels are into their cells.
  struct Phase {
    using DI = hn::RebindToSigned<Num::D>;
    hn::Vec<DI> at, step;
    // From pixel `x0` of row `y` on, vector by vector.
    Phase(const Shares& of, int axis, int x0, int y, hn::Vec<DI> along) {
      const DI di;
      const std::uint32_t pixel = of.across[axis];
      const std::uint32_t first = of.first[axis] + static_cast<std::uint32_t>(y) * of.down[axis] + static_cast<std::uint32_t>(x0) * pixel;
      at = hn::Add(hn::Set(di, static_cast<std::int32_t>(first)), hn::Mul(hn::Set(di, static_cast<std::int32_t>(pixel)), along));
      step = hn::Set(di, static_cast<std::int32_t>(pixel * static_cast<std::uint32_t>(Num::lanes())));
    }
    HWY_INLINE Num next() {
      const Num here = hn::ConvertTo(Num::D(), at);
      at = hn::Add(at, step);
      return Num(1.0) - absOf(here) * Num(4 / 4294967296.0);
    }
  };

  // Screen by screen: all that one needs stays in registers.
  void asideAlong(Num along, int x0, int y, int n, float* const* out) const {
    AtHand<Halftone> own = *this;
    const double high = own.waveHeight();
    const Num edge(own.bareEdge());
    const auto pixels = hn::ConvertTo(Phase::DI(), along.v);
    for (int k = 0; k < kAside; ++k) {
      if (k >= screens()) {
        std::fill_n(out[k], n, 0.0f);
        continue;
      }
      Phase u(shares[k], 0, x0, y, pixels);
      Phase v(shares[k], 1, x0, y, pixels);
      for (int i = 0; i < n; i += Num::lanes()) {
        const Num one = own.waveOn(v.next(), high, edge);
        (own.lines ? one : own.waveOn(u.next(), high, one)).store(out[k] + i);
      }
    }
  }
  [[nodiscard]] double asideAt(int k, int x, int y) const {
    if (k >= screens()) return 0;
    const Cells at = cellsAtPixel(k, x, y);
    const auto a = [](double t) { return 1 - 4 * std::abs(t - std::nearbyint(t)); };
    const double one = waveOn(a(at.v), waveHeight(), bareEdge());
    return lines ? one : waveOn(a(at.u), waveHeight(), one);
  }

  template <class N>
  void colour(N (&c)[3], N alpha, const N* aside) const {
    // Most pixels are opaque.
    if (allOne(alpha))
      printed(
          c, aside, [](N v) { return v; }, [](N v) { return v; });
    else
      printed(
          c, aside, [straight = inverseOrZero(alpha)](N v) { return v * straight; }, [alpha](N v) { return v * alpha; });
  }
  template <class N, class Straight, class Premultiplied>
  HWY_INLINE void printed(N (&c)[3], const N* aside, Straight straight, Premultiplied premultiplied) const {
    // Products are rounded before they are added to anything, or opaque pixels would come out one way or the other by what lies beside
    // them.
    const auto bare = [&](N tone, int k) { return softOf(mulAddOf(straight(tone), N(sharp), aside[k])); };
    const auto mix = [&](N from, N to) {
      return amount == 1 ? premultiplied(to) : mulAddOf(premultiplied(to), N(amount), from * N(1 - amount));
    };
    if (each) {
      for (int k = 0; k < 3; ++k) c[k] = mix(c[k], bare(c[k], k));
      return;
    }
    const N light = mulAddOf(c[2], N(static_cast<double>(kLuma[2])),
                             mulAddOf(c[1], N(static_cast<double>(kLuma[1])), c[0] * N(static_cast<double>(kLuma[0]))));
    const N paperShare = bare(light, 0);
    for (int k = 0; k < 3; ++k) c[k] = mix(c[k], mulAddOf(N(paper[k] - ink[k]), paperShare, N(ink[k])));
  }
};

OA_POINT_FORMULA(Halftone)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_POINT_STEP(Halftone)

namespace {

const ParamSpec kParams[] = {
    {.id = "shape",
     .label = "Shape",
     .help = "Dots that grow until they meet, or lines that swell.",
     .type = ParamType::Choice,
     .base = std::string("dots"),
     .rule = LoopRule::Fixed,
     .choices = {"dots", "lines"}},
    {.id = "size",
     .label = "Size",
     .help = "From dot to dot.",
     .base = 20.0,
     .min = 1,
     .max = 1024,
     .sliderMin = 3,
     .sliderMax = 120,
     .unit = Unit::Pixels,
     .logScale = true},
    field_params::turned("angle", "Angle", 45.0, "Of the screen."),
    {.id = "inks",
     .label = "Inks",
     .help = "One ink on paper, or one for each colour, their screens turned against each other.",
     .type = ParamType::Choice,
     .base = std::string("each"),
     .rule = LoopRule::Fixed,
     .choices = {"each", "one"}},
    {.id = "ink",
     .label = "Ink",
     .help = "Its colour.",
     .type = ParamType::Colour,
     .base = hexColour(0x14323f),
     .shownWhen = ShownWhen{"inks", {"one"}}},
    {.id = "paper",
     .label = "Paper",
     .help = "What is left bare.",
     .type = ParamType::Colour,
     .base = hexColour(0xf3e9d2),
     .shownWhen = ShownWhen{"inks", {"one"}}},
    {.id = "soft", .label = "Soft", .help = "How much the ink runs.", .base = 0.15, .min = 0, .max = 1, .unit = Unit::Share},
    {.id = "amount",
     .label = "Amount",
     .help = "How much of the picture it replaces.",
     .base = 1.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

const StepVariant kVariants[] = {
    {"One ink", "Large dots of one ink on paper.", {{"inks", std::string("one")}, {"size", 22.0}}},
    {"Engraving",
     "Fine lines that swell.",
     {{"inks", std::string("one")}, {"shape", std::string("lines")}, {"size", 9.0}, {"angle", 20.0}}},
    {"Misprint", "Soft coarse dots over the picture itself.", {{"size", 34.0}, {"soft", 0.5}, {"amount", 0.6}, {"angle", 30.0}}},
};

}  // namespace

const StepSpec& halftoneStep() {
  static const StepSpec spec{.id = "halftone",
                             .title = "Halftone",
                             .group = "surface",
                             .help = "Turns tones into dots or lines of ink, as print does, in one ink or in one for each colour.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .variants = kVariants,
                             .point = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
