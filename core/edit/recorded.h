// What a hand did to a value while the loop went round, as motions that close.
#pragma once

#include <vector>

#include "edit/timing.h"

namespace oa::edit {

/// The value at a moment.
struct Moved {
  double at = 0;  ///< loops since any beginning, growing
  Value value;
};

struct Recording {
  Param param;           ///< at its value as before, with its motions replaced
  std::size_t keys = 0;  ///< keyframes in all
  double off = 0;        ///< how far the curve is from the hand at most, as a share of what the hand covered
};

/// A value that is another one than it was.
struct ChangedValue {
  MotionAddress at;
  const ParamSpec* spec = nullptr;
  Param before;
};
/// Those of a layer, not of what lies in it, that both states of it have.
std::vector<ChangedValue> changedValues(const Layer& before, const Layer& after);

/// Whether a value can be recorded: numbers and places that may have keyframes.
bool canRecord(const ParamSpec& spec);

/// Keyframes that come within `tolerance` (a share of what the hand covered, above 0) of a gesture, going round so many laps in the loop
/// (1 to kMaxLaps; what was done in any of them is done in all). A place becomes two motions that are added up, one across and one down,
/// so that its path is as smooth as the hand's; one of them where it went in one direction alone. Refused where nothing was moved.
Result<Recording> recorded(const ParamSpec& spec, const Param& before, const std::vector<Moved>& gesture, int laps, double tolerance);

}  // namespace oa::edit
