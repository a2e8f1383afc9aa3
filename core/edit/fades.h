// Colours that fade through a palette over the loop.
#pragma once

#include <vector>

#include "scene/scene.h"

namespace oa::edit {

/// Each colour stands for `hold` seconds and takes `fade` seconds to become the next; the last one becomes the first again.
struct Fades {
  std::vector<Colour> colours;  ///< 2 to kMostFades; more are left out
  double hold = 2;              ///< seconds, 0 and more
  double fade = 1;              ///< the same; not both 0
};
inline constexpr std::size_t kMostFades = kMaxKeyframes / 2;

/// How long one round through all of them takes, in seconds.
double roundSeconds(const Fades& fades);
/// The whole rounds nearest to what was asked for that a loop of so many seconds has room for, 1 at least, and what becomes of the
/// lengths then.
struct FadeRounds {
  int rounds = 1;
  double hold = 0;
  double fade = 0;
};
FadeRounds roundsIn(const Fades& fades, double loopSeconds);

/// Gives a colour keyframes that go through them, `rounds` times a loop, beginning with colour `first`; its opacity stays.
void fadeThrough(Param& colour, const Fades& fades, int rounds, std::size_t first = 0);
/// The same for all items of a step, each one colour further on than the one before it.
void fadeItemsThrough(RecipeStep& step, std::size_t param, const Fades& fades, int rounds);

}  // namespace oa::edit
