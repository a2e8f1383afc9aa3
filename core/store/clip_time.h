// Which pictures of a clip are shown when.
#pragma once

#include <array>
#include <cstddef>

#include "store/moving.h"

namespace oa {

/// How a clip is played within a lap.
struct ClipPlay {
  double from = 0;       ///< seconds of the clip
  double to = 0;         ///< 0, or more than there is: its end
  bool back = false;     ///< there and back again
  double stands = 0;     ///< share of a play, at its end, in which its last picture stands
  double overlap = 0;    ///< seconds of its end that fade into its beginning; it is shorter by as much
  bool between = false;  ///< pictures between two of its own are mixed of both
};

/// Pictures and how much of each; unused ones weigh 0.
struct ClipMix {
  struct Part {
    std::size_t picture = 0;
    double weight = 0;
  };
  std::array<Part, 4> parts{};
  [[nodiscard]] bool single() const { return parts[1].weight == 0 && parts[2].weight == 0 && parts[3].weight == 0; }
  bool operator==(const ClipMix& other) const;
};

/// What is shown with a share `u` of a play behind it, [0, 1).
ClipMix clipAt(const MovingInfo& info, const ClipPlay& play, double u);
/// What is shown `seconds` after it began to play through, at its own speed; at its end the last picture stands.
ClipMix clipThrough(const MovingInfo& info, const ClipPlay& play, double seconds);

/// Seconds of the clip that go by in a play at its own speed, without those in which it stands.
double playSeconds(double clipSeconds, const ClipPlay& play);

}  // namespace oa
