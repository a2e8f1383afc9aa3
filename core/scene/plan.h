// A scene, compiled: who shows whom, how often each repeats, and what cannot be.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "scene/scene.h"

namespace oa {

/// One layer of the plan. Layers stand in one list, a group before its own layers, bottom to top.
struct PlanLayer {
  const Layer* layer = nullptr;
  int parent = -1;              ///< the group it is in; -1: the scene
  int place = 0;                ///< among the layers of its group
  int next = 0;                 ///< one past the last of the layers within it
  int target = -1;              ///< the layer that its source shows
  int maskTarget = -1;          ///< the layer that its mask shows
  std::vector<int> looksAt;     ///< those that the steps of its recipe look at, in their order; empty where none does
  std::int64_t laps = 0;        ///< what all motions in its result share (commonLaps), with those of what it shows; 0: it rests
  std::int64_t placedLaps = 0;  ///< the same with its place, opacity and presence
  std::int64_t wholeLaps = 0;   ///< the same for what its last area step takes in
  double pulls = 1;             ///< layers that are made for one picture of its result, at most
  Point frame;                  ///< its own, in pixels of the scene: what shares of its plane are counted in
  int viewers = 0;              ///< how many sources show its finished picture
  bool spreads = false;         ///< area steps carry what it shows beyond where its sources end
  bool blind = false;           ///< what lies below shows it, so it cannot show what lies below
  bool runs = false;            ///< it shows footage: no two of its pictures are alike, however often the loop goes round
  Passings passes;              ///< how it arrives and leaves
  /// The same of the steps of its recipe, in their order; empty where none of them does so otherwise than the layer.
  std::vector<std::optional<Passings>> stepPasses;
  bool passesWithin = false;  ///< what it shows on its own plane arrives or leaves in itself, or its parameters do
  bool through = false;       ///< a group that its layers are blended through, as if they lay where it lies
};

/// Whether a source shows what lies below its layer.
bool readsBelow(const RecipeStep& source);

class Plan {
 public:
  explicit Plan(Scene scene);
  // Its layers are those of its own scene.
  Plan(const Plan&) = delete;
  Plan& operator=(const Plan&) = delete;

  [[nodiscard]] const Scene& scene() const { return scene_; }
  [[nodiscard]] const std::vector<PlanLayer>& layers() const { return layers_; }
  [[nodiscard]] const PlanLayer& at(int index) const { return layers_[static_cast<std::size_t>(index)]; }
  /// -1 if there is no such layer.
  [[nodiscard]] int indexOf(Id id) const;
  /// The layers of a group (-1: the scene, whose list stands first), bottom to top.
  [[nodiscard]] const std::vector<int>& children(int group) const { return children_[static_cast<std::size_t>(group) + 1]; }
  /// What all that moves in the scene shares.
  [[nodiscard]] std::int64_t laps() const { return laps_; }
  /// Whether anything in it may be on its way at a moment of the run.
  [[nodiscard]] bool underWay(const Moment& at) const { return at.since < static_cast<double>(arrive_) || at.left > 0; }
  /// Whether footage is seen in it.
  [[nodiscard]] bool runs() const { return runs_; }
  /// The layer that the i-th step of a layer's recipe looks at; -1: none.
  [[nodiscard]] int lookOf(int layer, std::size_t step) const {
    const PlanLayer& own = at(layer);
    return step < own.looksAt.size() ? own.looksAt[step] : -1;
  }
  /// How the i-th step of a layer's recipe arrives and leaves; where it does not say so itself, with its layer.
  [[nodiscard]] const Passings* passesOf(int layer, std::size_t step) const {
    const PlanLayer& own = at(layer);
    return step < own.stepPasses.size() && own.stepPasses[step] ? &*own.stepPasses[step] : &own.passes;
  }

  /// Sentences about what is wrong: layers that show themselves, what is shown but not there. The first kind is refused, the second
  /// is shown as nothing.
  [[nodiscard]] const std::vector<std::string>& circles() const { return circles_; }
  [[nodiscard]] const std::vector<std::string>& missing() const { return missing_; }
  /// An error where the scene cannot be made into pictures: circles, or layers that show each other more often than can be made.
  [[nodiscard]] Status status() const;

 private:
  void list(const std::vector<Layer>& layers, int parent);
  int targetOf(const RecipeStep& step, const Layer& layer);
  void findLooks(PlanLayer& layer);
  [[nodiscard]] std::vector<int> edges(int index) const;
  bool resolve(int index, std::vector<char>& state, std::vector<int>& way);
  void cut(const std::vector<int>& circle);
  [[nodiscard]] std::int64_t standingLaps(int index) const;
  void count(int index);

  Scene scene_;
  std::vector<PlanLayer> layers_;
  std::vector<std::vector<int>> children_;
  std::unordered_map<Id, int> index_;
  std::int64_t laps_ = 0;
  bool runs_ = false;
  std::int64_t arrive_ = 0;
  double pulls_ = 0;
  std::vector<std::string> circles_;
  std::vector<std::string> missing_;
};

/// Layers that one picture may have to make, counting each as often as it is shown.
inline constexpr double kMostPulls = 200000;

/// What all motions of a scene share, and how many different frames its loop has.
std::int64_t commonLaps(const Scene& scene);
std::int64_t distinctFrames(const Scene& scene);

/// The moment that a layer shows which holds each picture for `hold` frames.
Moment heldMoment(const Moment& at, int hold);
/// The moment of a layer's own: held as it is, with its ways to arrive and leave.
Moment ownMoment(const PlanLayer& layer, const Moment& at);
/// The moment within a group that makes so many laps.
Moment groupMoment(const Layer& group, const Moment& at);
/// The moment that a layer shows of another one.
Moment shownMoment(const RecipeStep& source, const Moment& at);

}  // namespace oa
