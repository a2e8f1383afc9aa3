// Frames for an encoder, rendered on this thread while another one encodes.
#pragma once

#include <functional>

#include "media/export.h"
#include "render/frames.h"

namespace oa {

/// The plan of an export: which frames are rendered and how often their run is repeated.
struct ExportPlan {
  std::int64_t first = 0;
  std::int64_t count = 1;    ///< frames encoded
  std::int64_t repeats = 1;  ///< times the encoded run stands in the file
};

/// What the whole loop needs: only its different frames are encoded, and repeated to its full length. Refused above
/// kMostExportedFrames.
Result<ExportPlan> planExport(const Scene& scene, const ExportSettings& settings);

/// Renders `count` frames by `render`, hands each to `encode` on a second thread, in order, and reports progress. Ok(true) when
/// done, Ok(false) when cancelled. Frames are recycled; at most a few wait. Memory that cannot be had is an error.
template <class Frame>
Result<bool> pump(std::int64_t first, std::int64_t count, const std::function<void(std::int64_t, Frame&)>& render,
                  const std::function<Status(const Frame&, int index)>& encode, const ProgressFunction& progress);

}  // namespace oa
