// How a parameter is declared. From this table come the recipe card, the file format, validation,
// the command line, the JSON Schema and the reference page; a default stands here and nowhere else.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "base/geometry.h"
#include "image/colour.h"

namespace oa {

enum class ParamType { Number, Integer, Angle, Point, Colour, Choice, Toggle, Seed, StopList, ToneCurve, Layer };

enum class MotionKind { Still, Turn, Swing, Keyframes, Wander, Hops };

enum class Unit { None, Pixels, Degrees, Share, Count, Cells, Tiles, Ratio, Frames };

/// What keeps a moving value closed.
enum class LoopRule {
  Free,      ///< any value; may swing
  Round,     ///< the value is read modulo 360 degrees; may turn or swing
  Progress,  ///< whole amounts a lap (churn, travel); may turn
  Held,      ///< frames that each of a row of stills is held for; 0: one still for the whole loop
  Fixed,     ///< does not move
};

/// Numbers, integers, angles and seeds are doubles, and so is the id of a layer (0: none); choices are strings.
using Value = std::variant<double, Point, Colour, std::string, bool, Stops, Curve>;

/// A parameter appears only while another one holds one of these choices, or, where there are none, while that
/// one is a number of at least so much.
struct ShownWhen {
  std::string_view param;
  std::vector<std::string_view> choices;
  double atLeast = 0;
};

struct ParamSpec {
  std::string_view id;
  std::string_view label;
  std::string_view help;
  ParamType type = ParamType::Number;
  Value base = 0.0;
  double min = 0;  ///< hard range of numbers and of both parts of a point
  double max = 1;
  double sliderMin = 0;  ///< range the slider covers; equal ends mean the hard range
  double sliderMax = 0;
  Unit unit = Unit::None;
  bool logScale = false;
  LoopRule rule = LoopRule::Free;
  int defaultLaps = 0;  ///< a new step starts with a turn of so many laps; 0: still
  std::vector<std::string_view> choices = {};
  std::optional<ShownWhen> shownWhen = {};
  std::optional<Value> whenAbsent = {};       ///< what files mean that were written before there was this parameter; none: the default
  std::optional<MotionKind> beginsWith = {};  ///< sources: the motion it is given where the source would stand still
  int part = 0;                               ///< rows of equal parts (point 1, point 2, ...) are shown one part at a time; 0: always shown

  [[nodiscard]] bool isScalar() const {
    return type == ParamType::Number || type == ParamType::Integer || type == ParamType::Angle || type == ParamType::Seed;
  }
  [[nodiscard]] bool isWhole() const {
    return type == ParamType::Integer || type == ParamType::Seed || type == ParamType::Layer || rule == LoopRule::Progress ||
           rule == LoopRule::Held;
  }
  [[nodiscard]] bool canMove() const {
    return rule != LoopRule::Fixed && rule != LoopRule::Held && type != ParamType::Choice && type != ParamType::Toggle &&
           type != ParamType::Seed && type != ParamType::StopList && type != ParamType::ToneCurve && type != ParamType::Layer;
  }
  [[nodiscard]] double low() const { return sliderMin < sliderMax ? sliderMin : min; }
  [[nodiscard]] double high() const { return sliderMin < sliderMax ? sliderMax : max; }
};

std::string_view unitText(Unit unit);       ///< as shown behind a number: "px", "°", ...
std::string_view typeName(ParamType type);  ///< as in describe: "number", "point", ...

}  // namespace oa
