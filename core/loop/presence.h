// When something is there: parts of the loop, with soft ends.
#pragma once

#include <cstddef>
#include <string>
#include <vector>

#include "loop/phase.h"

namespace oa {

inline constexpr std::size_t kMaxArcs = 32;

/// A part of the loop from `from` on, `length` of it long; it may go across the joint. Within `in` from its beginning and `out`
/// before its end it comes and goes softly.
struct Arc {
  double from = 0;    ///< [0, 1)
  double length = 1;  ///< (0, 1]
  double in = 0;      ///< shares of the loop; together at most `length`
  double out = 0;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Arc&) const = default;
};

/// No arcs: always there.
using Presence = std::vector<Arc>;

/// How much of it is there at a share of the loop, 0 to 1; where parts lie over each other the most of them.
double presenceAt(const Presence& presence, double phase);

/// True if it is there, wholly, at every moment.
bool alwaysThere(const Presence& presence);

}  // namespace oa
