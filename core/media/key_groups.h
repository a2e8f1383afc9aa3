// Where a movie's key pictures stand, and which pictures around them must be exact for a joint that moves as it should.
#pragma once

#include <cstdint>
#include <string>

namespace oa {

/// Frames from key to key of a run of `run` frames (1 or more): runs are cut into equal groups of 300 at the most.
std::int64_t groupLength(std::int64_t run);

/// Whether frame `frame` of a run, 0 to run - 1, stands so near to a key picture, the next run's first one too, that it is
/// to be as exact as its format gets.
bool nearKey(std::int64_t frame, std::int64_t run);

/// Those stretches as encoders of one family are told: `before`, then "0,2,q=0/292,299,q=0" with `how` behind each.
std::string exactZones(std::int64_t run, const std::string& between, const std::string& how, const std::string& before);

}  // namespace oa
