#include "fields/field_params.h"

#include "image/tone_curve.h"

namespace oa::field_params {

ParamSpec cell(double size, std::string_view help) {
  return {.id = "cell",
          .label = "Cell size",
          .help = help,
          .base = size,
          .min = 2,
          .max = 8192,
          .sliderMin = 8,
          .sliderMax = 1600,
          .unit = Unit::Pixels,
          .logScale = true};
}

ParamSpec stretch() {
  return {.id = "stretch",
          .label = "Stretch",
          .help = "How much wider than high the shapes are.",
          .base = 1.0,
          .min = 0.05,
          .max = 20,
          .sliderMin = 0.1,
          .sliderMax = 10,
          .unit = Unit::Ratio,
          .logScale = true};
}

ParamSpec angle(std::string_view help) {
  return {.id = "angle",
          .label = "Angle",
          .help = help,
          .type = ParamType::Angle,
          .base = 0.0,
          .min = -3600,
          .max = 3600,
          .sliderMin = -180,
          .sliderMax = 180,
          .unit = Unit::Degrees,
          .rule = LoopRule::Round};
}

ParamSpec meet(std::string_view base) {
  return {.id = "meet",
          .label = "Meet",
          .help = "Which of its ends meet: left and right, upper and lower, or all.",
          .type = ParamType::Choice,
          .base = std::string(base),
          .rule = LoopRule::Fixed,
          .choices = {"across", "down", "both"}};
}

ParamSpec softCut(double base) {
  return {.id = "soft",
          .label = "Soft cut",
          .help = "How wide a cut goes over from one side to the other, as a share of the room that it has.",
          .base = base,
          .min = 0,
          .max = 1,
          .unit = Unit::Share,
          .rule = LoopRule::Fixed};
}

ParamSpec evenLight() {
  return {.id = "even",
          .label = "Even light",
          .help = "Evens out where large parts of it are lighter than others, so that repeats do not show.",
          .base = 0.0,
          .min = 0,
          .max = 1,
          .unit = Unit::Share,
          .rule = LoopRule::Fixed};
}

ParamSpec travel() {
  return {.id = "travel",
          .label = "Travel",
          .help = "Whole tiles that the field moves within a lap, to the right and down; negative goes back.",
          .type = ParamType::Point,
          .base = Point{0, 0},
          .min = -64,
          .max = 64,
          .sliderMin = -4,
          .sliderMax = 4,
          .unit = Unit::Tiles,
          .rule = LoopRule::Progress,
          .defaultLaps = 1};
}

ParamSpec place(std::string_view id, std::string_view label, Point at, std::string_view help) {
  return {
      .id = id, .label = label, .help = help, .type = ParamType::Point, .base = at, .min = -4, .max = 5, .sliderMin = 0, .sliderMax = 1};
}

ParamSpec churn(double cells, std::string_view help) {
  return {.id = "churn",
          .label = "Churn",
          .help = help,
          .base = cells,
          .min = 0,
          .max = 256,
          .sliderMin = 0,
          .sliderMax = 24,
          .unit = Unit::Cells,
          .rule = LoopRule::Progress,
          .defaultLaps = 1};
}

ParamSpec turned(std::string_view id, std::string_view label, double degrees, std::string_view help, std::optional<Grip> grip) {
  ParamSpec spec = angle(help);
  spec.id = id;
  spec.label = label;
  spec.base = degrees;
  spec.grip = grip;
  return spec;
}

ParamSpec goneBy(std::string_view id, std::string_view label, double count, double most, std::string_view help) {
  return {.id = id,
          .label = label,
          .help = help,
          .base = count,
          .min = -64,
          .max = 64,
          .sliderMin = -most,
          .sliderMax = most,
          .unit = Unit::Count,
          .rule = LoopRule::Progress,
          .defaultLaps = 1};
}

ParamSpec held(std::string_view help) {
  return {.id = "held",
          .label = "Held for",
          .help = help,
          .type = ParamType::Integer,
          .base = 2.0,
          .min = 0,
          .max = 10000,
          .sliderMin = 0,
          .sliderMax = 30,
          .unit = Unit::Frames,
          .rule = LoopRule::Held};
}

ParamSpec seed(std::string_view help) {
  return {
      .id = "seed", .label = "Seed", .help = help, .type = ParamType::Seed, .base = 1.0, .min = 0, .max = 999999, .rule = LoopRule::Fixed};
}

ParamSpec contrast() {
  return {.id = "contrast",
          .label = "Contrast",
          .help = "How far dark and light lie apart; 1 leaves the field as it is made.",
          .base = 1.0,
          .min = 0,
          .max = 16,
          .sliderMin = 0,
          .sliderMax = 6,
          .unit = Unit::None};
}

ParamSpec brightness() {
  return {.id = "brightness",
          .label = "Brightness",
          .help = "Lifts or lowers all tones.",
          .base = 0.0,
          .min = -1,
          .max = 1,
          .unit = Unit::Share};
}

ParamSpec tone() {
  return {.id = "tone",
          .label = "Tone curve",
          .help = "What each tone becomes, after contrast and brightness: dark ones on the left, higher is lighter.",
          .type = ParamType::ToneCurve,
          .base = straightCurve(),
          .rule = LoopRule::Fixed};
}

ParamSpec invert() {
  return {.id = "invert",
          .label = "Invert",
          .help = "Dark becomes light and light becomes dark.",
          .type = ParamType::Toggle,
          .base = false,
          .rule = LoopRule::Fixed};
}

ParamSpec headStart(std::string_view help) {
  return {
      .id = "start", .label = "Head start", .help = help, .base = 0.0, .min = 0, .max = 1, .unit = Unit::Share, .rule = LoopRule::Fixed};
}

ParamSpec edges(std::string_view before) {
  return {.id = "edges",
          .label = "Edges",
          .help =
              "What lies beyond the frame: the picture as it goes on there; or, cut at the frame, its edge again, its other side, "
              "its mirror image, or nothing.",
          .type = ParamType::Choice,
          .base = std::string("beyond"),
          .rule = LoopRule::Fixed,
          .choices = {"beyond", "clamp", "wrap", "mirror", "transparent"},
          .whenAbsent = Value(std::string(before))};
}

ParamSpec when(ParamSpec spec, std::string_view param, std::vector<std::string_view> choices) {
  spec.shownWhen = ShownWhen{param, std::move(choices)};
  return spec;
}

ParamSpec begins(ParamSpec spec, MotionKind motion) {
  spec.beginsWith = motion;
  return spec;
}

}  // namespace oa::field_params
