// The pictures of the run that differ, numbered without a gap: those that arrive, the loop's own, those that leave.
#pragma once

#include "scene/run.h"

namespace oa::app {

class RunSlots {
 public:
  RunSlots() = default;
  explicit RunSlots(const Scene& scene);

  [[nodiscard]] const RunLength& run() const { return run_; }
  [[nodiscard]] int count() const { return static_cast<int>(run_.arrive + loop_ + run_.leave); }
  /// The picture that is seen at a frame of the run, 0 to run().frames() - 1.
  [[nodiscard]] int slotOf(std::int64_t place) const;
  /// A frame of the run that shows it.
  [[nodiscard]] std::int64_t placeOf(int slot) const;
  /// The picture of a frame of the loop, 0 and more.
  [[nodiscard]] int loopSlot(std::int64_t frame) const;

 private:
  RunLength run_;
  std::int64_t loop_ = 1;  // different pictures of it
};

}  // namespace oa::app
