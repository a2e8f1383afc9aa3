// Choosing what a value follows.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "edit/timing.h"

namespace oa::edit {

/// A value that another one can follow.
struct Candidate {
  MotionAddress at;
  LeaderRef ref;
  std::string layer;  ///< the name of its layer
  std::string name;   ///< "Place · Position"
  bool moves = false;
};
/// All that a value can follow: of its kind, and not what follows itself, however far away; those that move first, else layers from
/// the topmost down.
std::vector<Candidate> candidatesFor(const Scene& scene, const MotionAddress& follower);

/// The one that a value follows at first: one that moves, of the same name if there is such a one; null if nothing of its kind moves.
std::optional<LeaderRef> firstLeader(const Scene& scene, const MotionAddress& follower);

/// How a value is named by those that follow it; with layer 0 where there is no such value.
LeaderRef refOf(const Scene& scene, const MotionAddress& at);

/// "Lantern, Place · Position"; empty where it is gone.
std::string nameOf(const Scene& scene, const LeaderRef& ref);

}  // namespace oa::edit
