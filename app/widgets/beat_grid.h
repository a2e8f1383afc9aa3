// The beats of the loop as places that things are drawn to.
#pragma once

#include "scene/scene.h"

namespace oa::app {

/// More are not told apart, and not drawn.
inline constexpr int kMostBeatsShown = 192;

/// The beat nearest to a share of the loop, where it lies at most `within` of the loop away; else that share.
double onBeat(const Scene& scene, double share, double within);

}  // namespace oa::app
