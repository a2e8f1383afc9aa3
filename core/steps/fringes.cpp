// Colour fringes: red and blue moved apart, along one way or out from a place, as through a poor lens.
#include <algorithm>
#include <array>
#include <cmath>

#include "fields/field_params.h"
#include "image/combined.h"
#include "image/plain_reading.h"
#include "steps/step.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/fringes.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>
#include <hwy/cache_control.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

// Red of one picture, green of another, blue of a third; as opaque as any of them.
void partedOn(const float* red, const float* green, const float* blue, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  alignas(16) static constexpr float kRed[4] = {1, 0, 0, 0};
  alignas(16) static constexpr float kBlue[4] = {0, 0, 1, 0};
  alignas(16) static constexpr float kAlpha[4] = {0, 0, 0, 1};
  const auto is = [&](const float* lane) HWY_ATTR { return hn::Gt(hn::LoadDup128(d, lane), hn::Zero(d)); };
  const auto isRed = is(kRed);
  const auto isBlue = is(kBlue);
  const auto isAlpha = is(kAlpha);
  for (int i = 0; i < n * 4; i += static_cast<int>(hn::Lanes(d))) {
    const auto r = hn::LoadU(d, red + i);
    const auto g = hn::LoadU(d, green + i);
    const auto b = hn::LoadU(d, blue + i);
    hwy::Prefetch(red + i + 1024);
    hwy::Prefetch(green + i + 1024);
    hwy::Prefetch(blue + i + 1024);
    const auto colour = hn::IfThenElse(isRed, r, hn::IfThenElse(isBlue, b, g));
    hn::StoreU(hn::IfThenElse(isAlpha, hn::Max(g, hn::Max(r, b)), colour), d, out + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(partedOn);

namespace {

const ParamSpec kParams[] = {
    {.id = "amount",
     .label = "Amount",
     .help = "How far they are apart, at the corners if they part from a place.",
     .base = 14.0,
     .min = -2000,
     .max = 2000,
     .sliderMin = -80,
     .sliderMax = 80,
     .unit = Unit::Pixels},
    {.id = "by",
     .label = "By",
     .help = "Out from the centre, or all of it along one way.",
     .type = ParamType::Choice,
     .base = std::string("centre"),
     .rule = LoopRule::Fixed,
     .choices = {"centre", "way"}},
    {.id = "angle",
     .label = "Direction",
     .help = "Where red goes.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round,
     .shownWhen = ShownWhen{"by", {"way"}},
     .grip = Grip{.kind = Grip::Kind::Way}},
    field_params::when(field_params::place("centre", "Centre", {0.5, 0.5}, "Where they do not part; 0 to 1 across and down the frame."),
                       "by", {"centre"}),
};

const StepVariant kVariants[] = {
    {"Misprint", "Aslant, all of it alike.", {{"by", std::string("way")}, {"angle", 20.0}, {"amount", 12.0}}},
    {"Wide lens", "Far apart at the corners.", {{"amount", 60.0}}},
    {"Trembling", "To and fro along a row.", {{"by", std::string("way")}, {"amount", -10.0}}, {{"amount", MotionKind::Swing, 18.0, 3}}},
};

// Where a channel is seen from: red one way, blue the other, green where it is.
Affine wayOf(const StepContext& context, double side) {
  const PlaneView& view = context.view();
  const double by = context.number("amount") / 2 * side;
  if (context.choice("by") == "way") {
    const double angle = context.number("angle") * kDegree;
    return {1, 0, by * std::cos(angle), 0, 1, by * std::sin(angle)};
  }
  const Point share = context.point("centre");
  const Point centre{share.x * view.frameWidth, share.y * view.frameHeight};
  // Never turned inside out.
  const double size = std::max(0.05, 1 + by / (std::hypot(view.frameWidth, view.frameHeight) / 2));
  return {size, 0, centre.x * (1 - size), 0, size, centre.y * (1 - size)};
}

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  auto rows = input.pull(view);
  if (context.number("amount") == 0) return rows;
  const auto moved = [&](double side) { return input.pull(view.through(wayOf(context, side), view.frameWidth, view.frameHeight)); };
  const auto red = moved(1);
  const auto blue = moved(-1);
  const int channels = rows->channels();
  // What is broken off half-way comes back empty, in as many channels as it likes.
  if (red->channels() != channels || blue->channels() != channels) return rows;
  const bool opaque = rows->opaque() && red->opaque() && blue->opaque();
  return combinedRows({rows, red, blue}, view.width, {4, opaque}, [channels](const float* const* in, int, int, int n, float* out) {
    if (channels == 1) {
      for (int i = 0; i < n; ++i) {
        const float parts[4] = {in[1][i], in[0][i], in[2][i], 1};
        for (int c = 0; c < 4; ++c) out[i * 4 + c] = std::min(1.0f, std::max(0.0f, parts[c]));
      }
      return;
    }
    HWY_DYNAMIC_DISPATCH(partedOn)(in[1], in[0], in[2], n, out);
  });
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  if (context.number("amount") == 0) return input;
  const PlaneView view = context.view();
  const std::array<Affine, 2> back{wayOf(context, 1).inverse(), wayOf(context, -1).inverse()};
  return [input = std::move(input), view, back](int px, int py) {
    const auto read = [&](const Affine& to) {
      const Point at = view.pixel(to(view.place(px, py)));
      ReferencePixel sum;
      sum.v = {};
      eachOfFour(at.x, at.y, [&](double weight, int x, int y) {
        ReferencePixel p = input(x, y);
        const double grey = std::clamp(p.v[0], 0.0, 1.0);
        if (p.channels == 1) p = {4, {grey, grey, grey, 1}};
        for (std::size_t c = 0; c < 4; ++c) sum.v[c] += weight * p.v[c];
      });
      return sum;
    };
    const ReferencePixel red = read(back[0]), green = read({}), blue = read(back[1]);
    return ReferencePixel{4, {red.v[0], green.v[1], blue.v[2], std::max({red.v[3], green.v[3], blue.v[3]})}};
  };
}

}  // namespace

const StepSpec& fringesStep() {
  static const StepSpec spec{.id = "fringes",
                             .title = "Colour fringes",
                             .group = "surface",
                             .help = "Moves red and blue apart, as a poor lens does towards the corners or a bad print along one way.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .variants = kVariants,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
#endif
