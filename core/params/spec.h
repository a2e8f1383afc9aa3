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
#include "base/outline.h"
#include "image/colour.h"
#include "params/copy_changes.h"
#include "store/media_ref.h"

namespace oa {

enum class ParamType { Number, Integer, Angle, Point, Colour, Choice, Toggle, Seed, ToneCurve, Layer, File, Outline, Copies, Text, Font };

enum class MotionKind { Still, Turn, Swing, Keyframes, Wander, Hops, Sound, Switch, Follow, Formula };

enum class Unit { None, Pixels, Degrees, Share, Count, Cells, Tiles, Ratio, Frames, Seconds, Decibels };

/// What keeps a moving value closed.
enum class LoopRule {
  Free,      ///< any value; may swing
  Round,     ///< the value is read modulo 360 degrees; may turn or swing
  Progress,  ///< whole amounts a lap (churn, travel); may turn
  Held,      ///< frames that each of a row of stills is held for; 0: one still for the whole loop
  Fixed,     ///< does not move
};

/// Words, or the family of a font, in UTF-8.
struct Text {
  std::string text;
  bool operator==(const Text&) const = default;
};
inline constexpr std::size_t kMostTextBytes = 100000;

/// Numbers, integers, angles and seeds are doubles, and so is the id of a layer (0: none); choices are strings.
using Value = std::variant<double, Point, Colour, std::string, bool, Curve, MediaRef, Outline, CopyChanges, Text>;

/// A parameter appears only while another one holds one of these choices, or, where there are none, while that
/// one is a number at least so far from 0, or a toggle that is on. The choices of a file are what it does: "moving" or "still".
struct ShownWhen {
  std::string_view param;
  std::vector<std::string_view> choices;
  double atLeast = 0;
  std::string_view other = {};  ///< a second parameter that will do as well, of the same choices
  /// A second parameter that is asked for with it, and its choices.
  std::string_view with = {};
  std::vector<std::string_view> withChoices = {};
};

/// How a number, an angle or a way is taken hold of in the picture.
struct Grip {
  enum class Kind {
    Reach,  ///< a length from a place: the number
    Way,    ///< a direction from a place: the angle
    Step,   ///< a point so far from a place: the point, in pixels
  } kind = Kind::Reach;
  std::string_view from = {};    ///< the parameter that is that place, in shares of the frame; empty: the frame's middle
  double turn = 0;               ///< of a reach: where it lies, in degrees clockwise from the right
  double times = 1;              ///< of a reach: the number is so many times the length
  std::string_view turned = {};  ///< an angle by which all of it is turned
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
  int since = 2;                              ///< with whenAbsent: the version of the step that brought the parameter
  std::string_view section = {};              ///< the heading that it and those behind it stand under; empty: that of the one before
  std::optional<Grip> grip = {};              ///< numbers, angles and points in pixels: how they are dragged in the picture
  std::optional<MotionKind> beginsWith = {};  ///< sources: the motion it is given where the source would stand still

  [[nodiscard]] bool isScalar() const {
    return type == ParamType::Number || type == ParamType::Integer || type == ParamType::Angle || type == ParamType::Seed;
  }
  [[nodiscard]] bool isWhole() const {
    return type == ParamType::Integer || type == ParamType::Seed || type == ParamType::Layer || rule == LoopRule::Progress ||
           rule == LoopRule::Held;
  }
  [[nodiscard]] bool canMove() const {
    return rule != LoopRule::Fixed && rule != LoopRule::Held && type != ParamType::Choice && type != ParamType::Toggle &&
           type != ParamType::Seed && type != ParamType::ToneCurve && type != ParamType::Layer && type != ParamType::File &&
           type != ParamType::Copies && type != ParamType::Text && type != ParamType::Font;
  }
  [[nodiscard]] double low() const { return sliderMin < sliderMax ? sliderMin : min; }
  [[nodiscard]] double high() const { return sliderMin < sliderMax ? sliderMax : max; }
};

/// A list of equal items that a step may have, each with parameters of its own that move: points of colour, stops of a gradient.
struct ItemsSpec {
  std::string_view id;      ///< the list's key in files
  std::string_view single;  ///< one of them: "Point"
  std::string_view help;
  std::span<const ParamSpec> params;
  std::size_t least = 1;
  std::size_t first = 2;  ///< how many a new step has
  /// Sets the base values of the i-th item of a new step, in the order of `params`, where they are not the table's own; any i.
  void (*beginning)(std::size_t i, std::span<Value> values) = nullptr;
  /// The parameter that says where an item is; of all items at once it is moved, where others are set.
  std::string_view place = {};
  /// The items stand along a line from 0 to 1, each at its `place`: they are shown there, as colours that run into each other.
  bool alongLine = false;
  /// The items come before the step's own parameters on its card, under this heading; empty: behind them.
  std::string_view leads = {};
  /// Files of step versions up to this kept the items as parameters with a number behind their id, as many as `count` said.
  int numberedUntil = 0;
};

/// Most items that a list may have.
inline constexpr std::size_t kMaxItems = 1000;

std::string_view unitText(Unit unit);       ///< as shown behind a number: "px", "°", ...
std::string_view typeName(ParamType type);  ///< as in describe: "number", "point", ...

}  // namespace oa
