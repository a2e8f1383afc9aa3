// One layer's picture by itself.
#pragma once

#include <atomic>
#include <cstddef>

#include "base/result.h"
#include "render/frames.h"

namespace oa {

/// What the first `steps` steps of a layer's recipe make in frame `k`, within the frame that it lies in: as it is before place, mask and
/// opacity. `longest` limits its longer side in pixels; 0: as large as it is. Straight alpha. No such layer: an error.
Result<Frame16> layerPicture(const Scene& scene, Id layer, std::size_t steps, std::int64_t k, int longest = 0,
                             const std::atomic<bool>* cancel = nullptr);

}  // namespace oa
