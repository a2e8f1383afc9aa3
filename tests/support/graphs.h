// Random scenes: groups, links, masks, places, laps and presences.
#pragma once

#include "scene/scene.h"

namespace oa::test {

struct GraphWishes {
  int width = 64;
  int height = 36;
  int frames = 24;
  int layers = 7;     ///< about so many
  bool areas = true;  ///< steps that look at their neighbours
  bool places = true;
};

/// Another scene for each seed; no circles.
Scene randomGraph(unsigned seed, const GraphWishes& wishes = {});

}  // namespace oa::test
