// The lines that an outline source draws: its own, the frame's, those of a drawing, or the edges of what another layer shows.
#pragma once

#include <vector>

#include "fields/input.h"
#include "params/step_context.h"

namespace oa {

/// A line on the plane, as short pieces; a closed one ends where it began.
struct Way {
  std::vector<Point> points;
  bool closed = true;
  std::vector<double> own;  ///< where the points lie that an outline of one's own was drawn by, as shares of its length
};

/// Those that the parameters of outline_params.h name, no farther from them than `tolerance` pixels of the plane. `layer` is asked where
/// they are its edges; without it there are none of them.
std::vector<Way> outlineWays(const StepContext& context, const Input* layer, double tolerance);

/// Most edges that are followed of a layer: the longest.
inline constexpr std::size_t kMostEdges = 200;

}  // namespace oa
