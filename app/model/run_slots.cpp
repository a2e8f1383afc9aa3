#include "model/run_slots.h"

#include <algorithm>

#include "base/numbers.h"
#include "scene/plan.h"

namespace oa::app {

RunSlots::RunSlots(const Scene& scene) : run_(runOf(scene)) {
  const Plan plan(scene);
  loop_ = plan.runs() ? run_.loop : std::min<std::int64_t>(run_.loop, distinctFrames(scene.frames, plan.laps()));
}

int RunSlots::slotOf(std::int64_t place) const {
  place = std::clamp<std::int64_t>(place, 0, run_.frames() - 1);
  if (place < run_.arrive) return static_cast<int>(place);
  const std::int64_t within = place - run_.arrive;
  return static_cast<int>(run_.arrive + (within < run_.loop ? within % loop_ : loop_ + within - run_.loop));
}

std::int64_t RunSlots::placeOf(int slot) const {
  const std::int64_t leaves = run_.arrive + loop_;
  return slot < leaves ? slot : slot - leaves + run_.arrive + run_.loop;
}

int RunSlots::loopSlot(std::int64_t frame) const { return static_cast<int>(run_.arrive + floorMod(frame, loop_)); }

}  // namespace oa::app
