// Random motions that come home: knots on a circle, and stills in a shuffled order.
#pragma once

#include <cstdint>
#include <vector>

namespace oa {

inline constexpr int kMaxKnots = 64;

/// A smooth random walk at share `u` of its lap: the periodic cubic spline (value, slope and curvature continuous, also
/// where the lap begins again) through `knots` seeded random heights, the lowest 0 and the highest 1. Between
/// knots it may go a little beyond. `knots` is 2 to kMaxKnots.
double wanderAt(std::uint64_t seed, int knots, double u);

/// Which of `count` stills is shown at share `u` of the lap: 0 to count - 1.
int hopAt(int count, double u);
/// The height of still `index`: `count` even steps from 0 to 1 in a seeded order.
double hopHeight(std::uint64_t seed, int count, int index);

/// The count nearest to `count` at which every still is held equally long, for a loop of `frames` and `laps`; at least 1.
int evenHops(std::int64_t frames, std::int64_t laps, int count);

}  // namespace oa
