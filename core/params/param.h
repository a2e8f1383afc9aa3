// A parameter of a scene: its base value and what it does over the loop.
#pragma once

#include <nlohmann/json.hpp>
#include <string>
#include <string_view>
#include <vector>

#include "loop/pace.h"
#include "loop/phase.h"
#include "loop/swing.h"
#include "params/spec.h"

namespace oa {

using Json = nlohmann::ordered_json;

enum class MotionKind { Still, Turn, Swing };

inline constexpr int kMaxLaps = 1000;

struct Motion {
  MotionKind kind = MotionKind::Still;
  int laps = 1;      ///< whole, not 0, within +-kMaxLaps; negative runs backwards
  double start = 0;  ///< head start, [0, 1)
  Pace pace;
  SwingShape shape = SwingShape::Sine;
  HoldShares shares;
  Value far = 0.0;              ///< swing: the value at the far end; same alternative as the base value
  Json extra = Json::object();  ///< keys of newer versions, kept

  [[nodiscard]] bool moves() const { return kind != MotionKind::Still; }
  bool operator==(const Motion&) const = default;
};

struct Param {
  Value base;
  Motion motion;
  bool operator==(const Param&) const = default;
};

/// The parameter as a new step has it.
Param defaultParam(const ParamSpec& spec);

/// Which motions a parameter may have; the first is always Still.
std::vector<MotionKind> allowedMotions(const ParamSpec& spec);
std::string_view motionName(MotionKind kind);

/// True if the parameter's value differs over the loop: it has a motion, and one that goes anywhere.
bool reallyMoves(const ParamSpec& spec, const Param& param);

/// A parameter's value at one moment. `progress` is the share of the lap done (0 when still) and is
/// what LoopRule::Progress parameters use together with their base value.
struct ValueAt {
  Value value;
  double progress = 0;
};
ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at);

/// A parameter's plain number at one moment, for curves: angles in degrees not reduced modulo 360,
/// progress as amount done, points and colours as share of the way to the far end.
double curveHeight(const ParamSpec& spec, const Param& param, double lapShare);

}  // namespace oa
