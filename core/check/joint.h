// The joint in time: is the step from the last frame to the first like every other step?
#pragma once

#include <atomic>
#include <memory>
#include <string>
#include <vector>

#include "render/frames.h"

namespace oa {

struct JointReport {
  double joint = 0;      ///< mean absolute difference of frame N-1 and frame 0, in 8-bit levels
  double median = 0;     ///< median of the differences of all neighbours
  double largest = 0;    ///< largest of the differences inside the loop
  double speedJump = 0;  ///< change of the difference at the joint, against the loop's median change
  bool clean = true;     ///< the picture does not jump
  bool steady = true;    ///< nor does its speed

  /// joint / median; 0 where nothing moves.
  [[nodiscard]] double ratio() const { return median > 0 ? joint / median : 0; }
};

struct LayerJoint {
  std::string layer;
  JointReport report;
};

struct JointCheck {
  JointReport scene;
  std::vector<LayerJoint> layers;  ///< each on its own, to name the culprit
  [[nodiscard]] std::string sentence() const;
};

/// Largest joint, in medians, that counts as clean (docs/loop.md).
inline constexpr double kJointLimit = 1.5;

/// Mean absolute difference of two pictures, in 8-bit levels; colours count as much as they show.
double meanDifference(const Frame16& a, const Frame16& b);

/// Verdict over the differences d[k] between frames k and k+1, the last one across the joint.
JointReport judgeJoint(const std::vector<double>& differences);

/// Measures a scene a little at a time, so that whoever waits for something else need not wait for all of it.
class JointMeter {
 public:
  /// `layer`: of this one alone; 0: of the scene.
  explicit JointMeter(const Scene& scene, int threads = 0, Id layer = 0);
  ~JointMeter();
  /// Renders one more small frame; false once all is measured.
  bool step();
  /// Meaningful after the last step.
  [[nodiscard]] JointReport report() const;

 private:
  struct State;
  std::unique_ptr<State> state_;
};

/// Renders small frames of the scene, and of each visible layer alone if `perLayer`. Long loops are looked at
/// near the joint and at places spread over the loop. `cancel` may be null.
JointCheck checkJoint(const Scene& scene, bool perLayer, const std::atomic<bool>* cancel = nullptr, int threads = 0);

}  // namespace oa
