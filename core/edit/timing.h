// All that moves in a scene, told and changed together: laps, head starts, and which rhythm makes the loop as long as it is.
#pragma once

#include <string>
#include <vector>

#include "edit/layers.h"
#include "edit/turns.h"
#include "scene/plan.h"

namespace oa::edit {

/// Which motion of a scene: of a layer, of one of its tables or a step of its recipe, there of a parameter or one of an item.
struct MotionAddress {
  static constexpr int kOpacity = -1;
  static constexpr int kPlace = -2;
  static constexpr int kMask = -3;
  static constexpr int kMaskSource = -4;
  Id layer = 0;
  int step = 0;  ///< of the recipe, or one of the tables above
  int param = 0;
  Id item = 0;  ///< 0: the step's own parameter
  int motion = 0;
  bool operator==(const MotionAddress&) const = default;
};

/// One that goes somewhere, as things stand.
struct Timed {
  MotionAddress at;
  const ParamSpec* spec = nullptr;
  MotionKind kind = MotionKind::Still;
  int laps = 0;      ///< as it is set; 0: it goes by the sound or another value, and with the loop
  int times = 1;     ///< laps of the groups that it lies in: so many times as often it goes round in the loop
  double start = 0;  ///< head start, a share of a lap
  double way = 0;    ///< pixels of the scene, or degrees, that it goes in a lap; 0: that cannot be said
  [[nodiscard]] std::int64_t rounds() const { return std::int64_t{laps} * times; }
};

/// Every one of a scene, layers from the topmost down as the pile shows them, each layer's in the order of its cards.
std::vector<Timed> motionsIn(const Scene& scene);
/// The same of a layer and what lies in it, bottom to top.
std::vector<Timed> motionsIn(const Scene& scene, const Layer& layer);
/// Null if there is none.
Motion* motionAt(Scene& scene, const MotionAddress& at);
const Motion* motionAt(const Scene& scene, const MotionAddress& at);
/// "Noise · Churn", "Place · Position", "Point 2 · Colour"; empty where there is no such value.
std::string valueNameOf(const Scene& scene, const MotionAddress& at);
/// The same of one of several motions, with which of them it is: "Place · Position 1 of 2".
std::string nameOf(const Scene& scene, const MotionAddress& at);

/// Gives motions so many laps (1 to kMaxLaps); those that run backwards go on doing so. What keeps no time of its own is passed over.
void setLaps(Scene& scene, const std::vector<MotionAddress>& motions, int laps);
/// Gives motions a head start, a share of a lap.
void setStarts(Scene& scene, const std::vector<MotionAddress>& motions, double start);
/// Spreads their head starts: each comes later than the first as turnsOf() says, by shares of its own lap. The first keeps its own.
void spreadMotions(Scene& scene, const std::vector<MotionAddress>& motions, const Spread& spread);

/// A keyframe, and where it comes in the loop: once in each lap.
struct KeyAt {
  MotionAddress at;
  int key = 0;
  bool operator==(const KeyAt&) const = default;
};
struct KeyBead {
  KeyAt key;
  int lap = 0;
  double place = 0;  ///< share of the loop, [0, 1)
};
/// Those of a layer, not of what lies in it.
std::vector<KeyBead> beadsOf(const Layer& layer);
/// Moves keyframes by a share of the loop, or copies of them: across the joint as well, and over those that stand where they come to.
/// Where they are afterwards. No motion gets more than kMaxKeyframes.
std::vector<KeyAt> moveKeys(Scene& scene, const std::vector<KeyAt>& keys, double by, bool copies);

/// Takes keyframes away; a motion keeps one at least, the first of those.
void removeKeys(Scene& scene, const std::vector<KeyAt>& keys);

/// How often a layer's own motions all come home in the loop: the laps that they share; 0: none moves.
int ownLaps(const Scene& scene, const Layer& layer);
/// Makes that so many (1 to kMaxLaps), all of them in proportion, as far as laps go.
void setOwnLaps(Scene& scene, Id layer, int laps);
/// How far ahead of its beginning a layer is, as a share of the loop in [0, 1 / laps of it): by its head start, or that of its first
/// motion.
double aheadOf(const Plan& plan, Id layer);

/// Brings all of a layer forward by a share of the loop: its motions and those in it, the parts in which it is there. A linked copy is
/// ahead of what it shows.
void bringForward(Layer& layer, double share);
/// Spreads layers in time: each, with all that is in it, comes later than the first by its turn of a lap of what they do. Layers that are
/// copies of each other or linked to one are told apart by their head starts alone. In the order in which they lie, bottom to top; Across
/// and Down by their places. Refused where there is but one, or nothing in them moves.
Result<Ids> spreadLayers(Scene& scene, const Ids& layers, const Spread& spread);
/// How far each of them that moves is behind the first of those, as a share of a lap, in the same order; for showing.
std::vector<double> delaysOf(const Plan& plan, const Ids& layers);

/// A rhythm that does not go into what the others share.
struct OddRhythm {
  std::int64_t rounds = 0;   ///< of it, in the loop
  std::size_t count = 0;     ///< motions that have it
  std::int64_t without = 0;  ///< what the others share: so often the loop would repeat
  std::int64_t nearest = 0;  ///< the rounds next to it that do go into that
};
/// What the rhythms of a scene share.
struct Sharing {
  std::int64_t repeats = 0;  ///< how often the loop shows the same; 0: nothing moves, 1: it is as long as it must be
  bool once = false;         ///< something else comes once: parts of the loop in which something is there, sound, footage, held frames
  std::vector<OddRhythm> odd = {};  ///< those that stand alone against it, the most telling first
};
Sharing sharingOf(const Plan& plan);
/// Gives the rhythm of so many rounds another one, where whole laps make that.
void setRounds(Scene& scene, std::int64_t from, std::int64_t to);
/// The loop cut to what it repeats: shorter so many times, with so many laps less each. Refused where frames do not go into it.
Result<Ids> shortenToRepeat(Scene& scene);

}  // namespace oa::edit
