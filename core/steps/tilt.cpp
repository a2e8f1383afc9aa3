// Tilt: the picture as a plane in space, seen in perspective: by angles, by four corners, or as a tunnel.
#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "steps/tilt.cpp"
#include <hwy/foreach_target.h>
#include "steps/lens_formula-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

struct Tilt {
  bool tunnel;
  // From a place that is shown to one that is read, as a projective map: (x, y, w), both divided by w.
  double map[9];
  double fade;   // how much of what lies near the horizon is let go
  double reach;  // w at which it begins to: as much smaller as the picture appears
  // Of the tunnel.
  Point centre;
  double width, height, copies, radius, gone, turn, deep;
  bool neutral = false;
  std::array<double, 4> shown{-1e9, -1e9, 1e9, 1e9};
  static constexpr double kGone = 0.12;  // of `reach`: where nothing is left

  explicit Tilt(const StepContext& context)
      : tunnel(context.choice("by") == "tunnel"),
        fade(context.number("fade")),
        centre(placeOf(context, tunnel ? "eye" : "pivot")),
        width(context.view().frameWidth),
        height(context.view().frameHeight),
        copies(context.number("copies")),
        radius(std::max(1.0, context.number("radius"))),
        gone(context.number("travel") * context.progress("travel") * 2 * context.view().frameHeight),
        turn(context.number("turn") / 360),
        deep(context.number("deep")) {
    reach = kGone + fade;
    if (tunnel) return;
    context.choice("by") == "corners" ? byCorners(context) : byAngles(context);
    const double still[9] = {1, 0, 0, 0, 1, 0, 0, 0, 1};
    neutral = true;
    for (int i = 0; i < 9; ++i) neutral = neutral && std::abs(map[i] - still[i]) < 1e-12;
    if (!opaque()) shownOf(context.view());
  }

  // What of a view is not let go: at the horizon, and beyond it, there is nothing.
  void shownOf(const PlaneView& view) {
    const Point corner[4] = {view.place(-1, -1), view.place(view.width, -1), view.place(view.width, view.height),
                             view.place(-1, view.height)};
    const auto above = [&](const Point& p) { return depth(p.x, p.y) - reach * kGone * 0.999; };
    double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
    const auto add = [&](const Point& p) {
      left = std::min(left, p.x);
      top = std::min(top, p.y);
      right = std::max(right, p.x);
      bottom = std::max(bottom, p.y);
    };
    for (int k = 0; k < 4; ++k) {
      const Point& from = corner[k];
      const Point& to = corner[(k + 1) % 4];
      const double here = above(from), there = above(to);
      if (here >= 0) add(from);
      if ((here < 0) == (there < 0)) continue;
      const double t = here / (here - there);
      add({from.x + (to.x - from.x) * t, from.y + (to.y - from.y) * t});
    }
    shown = left <= right ? std::array{left, top, right, bottom} : std::array<double, 4>{};
  }
  [[nodiscard]] std::array<double, 4> box() const { return shown; }

  // The inverse of a matrix of three by three but for its size.
  static void adjugate(const double (&m)[9], double (&out)[9]) {
    for (int r = 0; r < 3; ++r)
      for (int c = 0; c < 3; ++c) {
        const int a = (c + 1) % 3, b = (c + 2) % 3, d = (r + 1) % 3, e = (r + 2) % 3;
        out[r * 3 + c] = m[a * 3 + d] * m[b * 3 + e] - m[a * 3 + e] * m[b * 3 + d];
      }
  }

  // A plane through the pivot, turned about the axes through it, as a pinhole at a distance before it sees it.
  void byAngles(const StepContext& context) {
    const double a = context.number("back") * kDegree, b = context.number("aside") * kDegree, t = context.number("turn") * kDegree;
    const double far = context.number("distance") * std::max(width, height);
    // Where the plane's own directions point to: first the turn within it, then aside, then back.
    const double u[3] = {std::cos(t) * std::cos(b), std::sin(t) * std::cos(a) + std::cos(t) * std::sin(b) * std::sin(a), 0};
    const double v[3] = {-std::sin(t) * std::cos(b), std::cos(t) * std::cos(a) - std::sin(t) * std::sin(b) * std::sin(a), 0};
    const double uz = -std::sin(a) * std::sin(t) + std::cos(t) * std::sin(b) * std::cos(a);
    const double vz = -std::sin(a) * std::cos(t) - std::sin(t) * std::sin(b) * std::cos(a);
    // From the plane to what is seen, then the other way round; both about the pivot.
    const double seen[9] = {u[0], v[0], 0, u[1], v[1], 0, uz / far, vz / far, 1};
    double back[9];
    adjugate(seen, back);
    about(back);
    beOneAt(centre);
  }

  // How large the picture appears is counted from how large it does there.
  void beOneAt(Point p) {
    const double w = map[6] * p.x + map[7] * p.y + map[8];
    if (std::abs(w) > 1e-12)
      for (double& m : map) m /= w;
  }

  // The frame's corners where they are dragged to (P. S. Heckbert 1989, "Fundamentals of texture mapping and image warping", 2.2.3).
  void byCorners(const StepContext& context) {
    const Point p[4] = {placeOf(context, "upperLeft"), placeOf(context, "upperRight"), placeOf(context, "lowerRight"),
                        placeOf(context, "lowerLeft")};
    const double dx1 = p[1].x - p[2].x, dx2 = p[3].x - p[2].x, sx = p[0].x - p[1].x + p[2].x - p[3].x;
    const double dy1 = p[1].y - p[2].y, dy2 = p[3].y - p[2].y, sy = p[0].y - p[1].y + p[2].y - p[3].y;
    const double whole = dx1 * dy2 - dx2 * dy1;
    // Corners in one line make no picture: it stays as it is.
    const double g = std::abs(whole) < 1e-9 ? 0 : (sx * dy2 - dx2 * sy) / whole;
    const double h = std::abs(whole) < 1e-9 ? 0 : (dx1 * sy - sx * dy1) / whole;
    const double seen[9] = {(p[1].x - p[0].x + g * p[1].x) / width,
                            (p[3].x - p[0].x + h * p[3].x) / height,
                            p[0].x,
                            (p[1].y - p[0].y + g * p[1].y) / width,
                            (p[3].y - p[0].y + h * p[3].y) / height,
                            p[0].y,
                            g / width,
                            h / height,
                            1};
    const double size = seen[0] * seen[4] - seen[1] * seen[3];
    adjugate(seen, map);
    if (std::abs(whole) < 1e-9 || std::abs(size) < 1e-9)
      for (int i = 0; i < 9; ++i) map[i] = i % 4 == 0;
    const double w = (g + h) / 2 + 1;
    beOneAt({(seen[0] * width / 2 + seen[1] * height / 2 + seen[2]) / w, (seen[3] * width / 2 + seen[4] * height / 2 + seen[5]) / w});
  }

  void about(const double (&m)[9]) {
    const double x = centre.x, y = centre.y;
    // Shifted to the pivot, mapped, shifted back.
    const double s[9] = {m[0], m[1], m[2] - m[0] * x - m[1] * y, m[3], m[4], m[5] - m[3] * x - m[4] * y,
                         m[6], m[7], m[8] - m[6] * x - m[7] * y};
    for (int c = 0; c < 3; ++c) {
      map[c] = s[c] + x * s[6 + c];
      map[3 + c] = s[3 + c] + y * s[6 + c];
      map[6 + c] = s[6 + c];
    }
  }

  [[nodiscard]] bool rests() const { return !tunnel && neutral; }
  [[nodiscard]] double bends() const { return tunnel ? 0 : 1e9; }
  [[nodiscard]] bool opaque() const { return tunnel || (map[6] == 0 && map[7] == 0); }

  template <class N>
  N depth(N px, N py) const {
    return px * N(map[6]) + py * N(map[7]) + N(map[8]);
  }

  template <class N>
  void from(N& px, N& py) const {
    if (tunnel) {
      const N dx = px - N(centre.x);
      const N dy = py - N(centre.y);
      const N far = maxOf(rootOf(dx * dx + dy * dy), N(radius * 0.02));
      const N round = fractOf(angleOf(N(0.0) - dx, dy) * N(0.5 / std::numbers::pi) + N(0.5 - turn)) * N(copies);
      px = mirroredOf(round * N(2.0), 1.0) * N(width);
      // Rings at equal distances along it are seen at radii that are as their inverses.
      py = mirroredOf(N(gone) + N(height * (1 + 2 * deep)) * N(radius) / far, height);
      return;
    }
    const N w = N(1.0) / maxOf(N(1e-3), depth(px, py));
    const N x = (px * N(map[0]) + py * N(map[1]) + N(map[2])) * w;
    const N y = (px * N(map[3]) + py * N(map[4]) + N(map[5])) * w;
    px = x;
    py = y;
  }

  template <class N>
  void light(N px, N py, N (&c)[4]) const {
    if (tunnel) {
      const N dx = px - N(centre.x);
      const N dy = py - N(centre.y);
      const N seen = softOf(rootOf(dx * dx + dy * dy) * N(1 / (radius * (0.1 + fade))));
      for (int k = 0; k < 3; ++k) c[k] = c[k] * seen;
      return;
    }
    if (opaque()) return;
    const N there = softOf(depth(px, py) * N(1 / reach) - N(kGone));
    for (int k = 0; k < 4; ++k) c[k] = c[k] * there;
  }
};

OA_LENS_FORMULA(Tilt)
OA_SMOOTH_LENS(Tilt)

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
#include "fields/field_params.h"

namespace oa {

OA_LENS_STEP(Tilt)
OA_SMOOTH_STEP(Tilt)

namespace {

ParamSpec when(std::string_view by, ParamSpec spec) { return field_params::when(std::move(spec), "by", {by}); }

const ParamSpec kParams[] = {
    {.id = "by",
     .label = "By",
     .help = "Angles, as a sheet that is turned in space; its four corners; or a tunnel whose wall the picture lines.",
     .type = ParamType::Choice,
     .base = std::string("angles"),
     .rule = LoopRule::Fixed,
     .choices = {"angles", "corners", "tunnel"}},
    when("angles", {.id = "back",
                    .label = "Back",
                    .help = "Lays its upper edge back; negative ones lay the lower edge back.",
                    .type = ParamType::Angle,
                    .base = 58.0,
                    .min = -89,
                    .max = 89,
                    .unit = Unit::Degrees}),
    when("angles", {.id = "aside",
                    .label = "Aside",
                    .help = "Turns its right edge back; negative ones the left edge.",
                    .type = ParamType::Angle,
                    .base = 0.0,
                    .min = -89,
                    .max = 89,
                    .unit = Unit::Degrees}),
    {.id = "turn",
     .label = "Turn",
     .help = "Turns the picture within its own plane, or round the tunnel.",
     .type = ParamType::Angle,
     .base = 0.0,
     .min = -3600,
     .max = 3600,
     .sliderMin = -180,
     .sliderMax = 180,
     .unit = Unit::Degrees,
     .rule = LoopRule::Round,
     .shownWhen = ShownWhen{"by", {"angles", "tunnel"}}},
    when("angles", {.id = "distance",
                    .label = "Distance",
                    .help = "How far away it is looked at from, in frames: near ones exaggerate.",
                    .base = 0.9,
                    .min = 0.1,
                    .max = 20,
                    .sliderMin = 0.3,
                    .sliderMax = 4,
                    .unit = Unit::Ratio,
                    .logScale = true}),
    when("angles", field_params::place("pivot", "Pivot", {0.5, 0.62}, "What stays where it is; 0 to 1 across and down the frame.")),
    when("corners", field_params::place("upperLeft", "Upper left", {0.18, 0.1}, "Where the frame's corner comes to lie.")),
    when("corners", field_params::place("upperRight", "Upper right", {0.88, 0.02}, "Where the frame's corner comes to lie.")),
    when("corners", field_params::place("lowerRight", "Lower right", {0.96, 0.98}, "Where the frame's corner comes to lie.")),
    when("corners", field_params::place("lowerLeft", "Lower left", {0.06, 0.86}, "Where the frame's corner comes to lie.")),
    when("tunnel", field_params::place("eye", "Eye", {0.5, 0.5}, "Where the tunnel leads to.")),
    when("tunnel", {.id = "radius",
                    .label = "Radius",
                    .help = "How wide it opens.",
                    .base = 520.0,
                    .min = 1,
                    .max = 16384,
                    .sliderMin = 50,
                    .sliderMax = 2000,
                    .unit = Unit::Pixels,
                    .grip = Grip{.from = "eye"}}),
    when("tunnel", {.id = "copies",
                    .label = "Copies",
                    .help = "How often the picture goes round, each time there and back.",
                    .type = ParamType::Integer,
                    .base = 2.0,
                    .min = 1,
                    .max = 32,
                    .sliderMin = 1,
                    .sliderMax = 8,
                    .unit = Unit::Count,
                    .rule = LoopRule::Fixed}),
    when("tunnel", {.id = "deep",
                    .label = "Deep",
                    .help = "How much of it lies between the rim and the end.",
                    .base = 0.3,
                    .min = 0,
                    .max = 4,
                    .sliderMin = 0,
                    .sliderMax = 2,
                    .unit = Unit::Ratio}),
    when("tunnel", field_params::goneBy("travel", "Travel", 1.0, 4,
                                        "Pictures, there and back, that go by within a lap; negative ones go backwards.")),
    {.id = "fade",
     .label = "Fade",
     .help = "How early what is far away is let go: towards a horizon it becomes transparent, in a tunnel dark.",
     .base = 0.25,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
};

const StepVariant kVariants[] = {
    {"Ceiling", "The lower edge laid back, above the eye.", {{"back", -62.0}, {"pivot", Point{0.5, 0.3}}}},
    {"Wall", "The right edge laid back.", {{"back", 0.0}, {"aside", 52.0}, {"pivot", Point{0.3, 0.5}}, {"distance", 0.7}}},
    {"Tunnel", "Lines a tunnel that is gone through for ever.", {{"by", std::string("tunnel")}}},
};

}  // namespace

const StepSpec& tiltStep() {
  static const StepSpec spec{
      .id = "tilt",
      .title = "Tilt",
      .group = "fold",
      .help = "Lays the picture back in space: a floor, a ceiling, a wall, a sheet held by its corners, or a tunnel to look through.",
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
