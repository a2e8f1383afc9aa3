#include "loop/hold.h"

#include <algorithm>

namespace oa {

int evenHold(int frames, int hold) {
  for (int away = 0; away <= std::max(frames, hold); ++away) {
    if (hold - away >= 1 && frames % (hold - away) == 0) return hold - away;
    if (hold + away <= frames && frames % (hold + away) == 0) return hold + away;
  }
  return 1;
}

}  // namespace oa
