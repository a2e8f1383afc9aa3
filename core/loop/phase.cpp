#include "loop/phase.h"

#include <numeric>

namespace oa {

std::int64_t distinctFrames(std::int64_t frames, std::int64_t commonLaps) {
  if (commonLaps == 0) return 1;
  return frames / std::gcd(frames, commonLaps);
}

}  // namespace oa
