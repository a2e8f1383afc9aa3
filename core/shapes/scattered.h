// Places without a pattern.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "base/geometry.h"

namespace oa {

/// Places within a rectangle from (0, 0) to `size`, no two nearer to each other than `distance`, as many as find room, at most `most`.
/// (R. Bridson, "Fast Poisson disk sampling in arbitrary dimensions", SIGGRAPH sketches 2007.) Those asked for last are kept.
std::shared_ptr<const std::vector<Point>> poissonPlaces(Point size, double distance, std::uint64_t seed, std::size_t most);

/// The i-th of places that fill the unit square evenly, however many there are, and without a pattern. (Additive recurrence by the
/// plastic number: M. Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018.)
Point evenPlace(std::uint64_t i, std::uint64_t seed);

}  // namespace oa
