// A parameter of a scene: its base value and what it does over the loop.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "loop/formula.h"
#include "loop/pace.h"
#include "loop/phase.h"
#include "loop/random_walk.h"
#include "loop/sound_levels.h"
#include "loop/swing.h"
#include "params/spec.h"

namespace oa {

inline constexpr int kMaxLaps = 1000;
inline constexpr int kMaxId = 1000000000;  ///< of layers, steps and items
inline constexpr std::size_t kMaxKeyframes = 64;

/// A value at a place on the lap. The stretch from here to the next keyframe (from the last one to the first) has
/// a pace of its own, or holds the value until then.
struct Keyframe {
  double at = 0;  ///< [0, 1)
  Value value;    ///< same alternative as the base value
  Pace pace;
  bool hold = false;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Keyframe&) const = default;
};

/// Another parameter of the scene, which is followed: by ids, so that it is found wherever it is moved to.
struct LeaderRef {
  int layer = 0;           ///< 0: nothing is followed yet
  int step = 0;            ///< of its recipe or its mask's source; 0: one of the layer's own
  int item = 0;            ///< 0: the step's own parameter
  std::string param = {};  ///< its id; of a layer's own, with the table's name: "opacity", "place.position", "mask.grow"
  bool operator==(const LeaderRef&) const = default;
};

struct Leader;
/// The parameter that is followed as scene/followers.h found it. No part of what a motion is: it is found again whenever it may have
/// changed.
struct BoundLeader {
  std::shared_ptr<const Leader> leader;  ///< null: there is none
  bool operator==(const BoundLeader&) const { return true; }
};

inline constexpr double kMaxFollowScale = 100;

struct Motion {
  MotionKind kind = MotionKind::Still;
  int laps = 1;      ///< whole, not 0, within +-kMaxLaps; negative runs backwards
  double start = 0;  ///< head start, [0, 1)
  Pace pace;
  SwingShape shape = SwingShape::Sine;
  HoldShares shares;  ///< swing that holds, switch
  Value far = 0.0;  ///< swing: the value at the far end; switch: while it is on; wander, hops: how far they go; sound: where it is loudest;
                    ///< formula: where that is 1; same alternative as the base value
  std::vector<Keyframe> keys;  ///< keyframes: sorted, each place once; a closing one is never stored
  int knots = 5;  ///< wander: knots in a lap, 2 to kMaxKnots; hops: stills in a lap, 1 to kMaxKnots; switch: changes of its flicker
  int seed = 1;   ///< wander, hops, switch
  std::vector<Value> list;          ///< hops: the user's own stills in order; empty: seeded ones
  SoundBand band = SoundBand::All;  ///< sound, and switches by it: which part of it is followed
  double flicker = 0;               ///< switch: 0 to 1, how far it goes out at times while it is on
  double over = 0;         ///< switch: above 0 it is on while the sound's level in `band` is more than this, instead of by `shares`
  Formula formula = {};    ///< formula
  LeaderRef follows = {};  ///< follow
  double scale = 1;  ///< follow: so many times as far as what it follows, within +-kMaxFollowScale; `start` is the share of the loop ahead
  BoundLeader bound = {};
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in

  [[nodiscard]] bool moves() const { return kind != MotionKind::Still; }
  bool operator==(const Motion&) const = default;
};

/// The value that a parameter comes from when what it belongs to arrives, or goes to when that leaves.
struct FarValue {
  bool leaving = false;
  Value value;  ///< same alternative as the base value
  bool operator==(const FarValue&) const = default;
};

struct Param {
  Value base;
  Motion motion;
  std::vector<Motion> more = {};    ///< motions that are added to the first one: each by how far it leads from the base value
  std::vector<FarValue> away = {};  ///< at most one of each kind
  std::string extra = {};           ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Param&) const = default;
};

inline constexpr std::size_t kMaxMotions = 16;

/// What a motion follows.
struct Leader {
  const ParamSpec* spec = nullptr;
  Param param;
};

/// One of a list of equal things that a step has, with the parameters of its ItemsSpec.
struct Item {
  int id = 0;  ///< names it for as long as the scene lives; 0: it has none yet
  std::vector<Param> params;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Item&) const = default;
};

/// The i-th item that a new step has.
Item newItem(const ItemsSpec& spec, std::size_t i);

/// The parameter as a new step has it.
Param defaultParam(const ParamSpec& spec);

/// Which motions a parameter may have; the first is always Still.
std::vector<MotionKind> allowedMotions(const ParamSpec& spec);
/// Whether several motions of it can be added up: whole amounts a lap cannot.
bool canAddMotions(const ParamSpec& spec);
/// The first motion and those added to it.
std::size_t motionCount(const Param& param);
Motion& motionOf(Param& param, std::size_t i);
const Motion& motionOf(const Param& param, std::size_t i);
/// The parameter with one of its motions alone.
Param withMotionAlone(const Param& param, std::size_t i);
/// Whether any of them is a motion at all.
bool moves(const Param& param);
/// Greatest common divisor of the laps of its motions that go anywhere; 0 if none does.
std::int64_t lapsOf(const ParamSpec& spec, const Param& param);
/// Whether it is the scene's sound that moves it.
bool followsSound(const Motion& motion);
/// Whether it makes laps of its own, as many as are set: not what goes by the sound or by another value, whose lap is the loop.
bool keepsTime(const Motion& motion);
/// Those that a motion makes.
std::int64_t lapsOf(const Motion& motion);
/// Whether a value can follow another: both numbers, both points or both colours, and both free to go anywhere or to turn.
bool canFollow(const ParamSpec& spec, const ParamSpec& leader);
std::string_view motionName(MotionKind kind);

/// Whether a parameter may have values of its own for arriving and leaving.
bool canPass(const ParamSpec& spec);
/// The one it has, or null.
const FarValue* farValueOf(const Param& param, bool leaving);
/// Gives it one, or takes it away.
void setFarValue(Param& param, bool leaving, const std::optional<Value>& value);

/// How many stills a lap of hops has.
int hopCount(const Motion& motion);
/// The values of one's own that a motion goes through: those of its keyframes, or of listed hops. Others have none.
int ownCount(const Motion& motion);
/// The i-th of them, 0 <= i < ownCount().
Value& ownValue(Motion& motion, int i);
const Value& ownValue(const Motion& motion, int i);
/// Where on the lap it is: at the keyframe, in the middle of the hop's hold; [0, 1).
double ownPlace(const Motion& motion, int i);
/// Writes the random hops of `param` down as a list in `motion`, two at least.
void listHops(const ParamSpec& spec, const Param& param, Motion& motion);
/// Puts a keyframe in its place, over one that is there already.
void placeKeyframe(Motion& motion, Keyframe key);

/// True if the parameter's value differs over the loop: it has a motion, and one that goes anywhere.
bool reallyMoves(const ParamSpec& spec, const Param& param);

/// How large a number becomes at most over the loop, or a little more; of a point, how far from (0, 0).
double mostOf(const ParamSpec& spec, const Param& param);

/// A parameter's value at one moment. `progress` is the share of the lap done (0 when still) and is
/// what LoopRule::Progress parameters use together with their base value; for LoopRule::Held ones the number of
/// the still.
struct ValueAt {
  Value value;
  double progress = 0;
};
ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at);

/// One of many that share a parameter: how far its motions are ahead of the parameter's own, in laps, and how many times as many
/// laps they make (whole, so that they close). What follows the sound is only ahead; what follows another value, by shares of the loop.
struct LapShift {
  double start = 0;
  int times = 1;
  Piece piece = {};  ///< where it stands among those that arrive and leave one after the other
};
ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at, const LapShift& shift);
/// The same of a number (LoopRule::Free or Round), for those who ask for very many.
double numberAt(const ParamSpec& spec, const Param& param, const Moment& at, const LapShift& shift);
/// The value that the first motion leads to at a share of its lap, [0, 1), head start counted; turns stay at their base.
Value valueOnLap(const ParamSpec& spec, const Param& param, double u, const SoundLevels* levels = nullptr);

/// A parameter's plain number at a share of the lap of its first motion, for curves: angles in degrees not reduced modulo 360,
/// progress as amount done, points and colours as share of the way to the far end; where they have no such way
/// (keyframes, wander, hops), a point's place across and a colour's lightness.
double curveHeight(const ParamSpec& spec, const Param& param, double lapShare, const SoundLevels* levels = nullptr);
/// The same of all its motions together, at a share of the loop.
double sumHeight(const ParamSpec& spec, const Param& param, double loopShare, const SoundLevels* levels = nullptr);

}  // namespace oa
