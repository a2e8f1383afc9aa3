// Pictures that are held for several frames each.
#pragma once

namespace oa {

/// The number of frames nearest to `hold` that divides a loop of `frames` equally; `hold` itself where it does. Of two equally near
/// ones the shorter.
int evenHold(int frames, int hold);

}  // namespace oa
