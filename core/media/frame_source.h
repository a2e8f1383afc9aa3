// Frames for an encoder, rendered on this thread while another one encodes.
#pragma once

#include <functional>
#include <vector>

#include "media/export.h"
#include "render/frame_team.h"
#include "render/frames.h"

namespace oa {

/// Frames that follow each other, rendered once and shown so many times.
struct ExportStretch {
  std::int64_t first = 0;
  std::int64_t count = 1;
  std::int64_t repeats = 1;
  bool operator==(const ExportStretch&) const = default;
};

/// The plan of an export: which frames are rendered, and how often they stand in the file.
struct ExportPlan {
  std::vector<ExportStretch> stretches{1};
  bool run = false;  ///< they are frames of the run (RenderOptions::run), not of the loop

  /// Frames that are rendered.
  [[nodiscard]] std::int64_t rendered() const;
  /// Frames in the file.
  [[nodiscard]] std::int64_t frames() const;
  /// The number of the i-th frame that is rendered, as the renderer counts.
  [[nodiscard]] std::int64_t number(std::int64_t i) const;
  /// Which of those that are rendered is the j-th of the file.
  [[nodiscard]] std::int64_t shown(std::int64_t j) const;
  [[nodiscard]] std::int64_t first() const { return stretches.front().first; }
};

/// What the part that is asked for needs: only different frames of the loop are rendered, and repeated to its full length. Refused above
/// kMostExportedFrames, and where there is nothing of that part.
Result<ExportPlan> planExport(const Scene& scene, const ExportSettings& settings);

/// Makes frame `i` of those that are rendered. Called from several threads.
template <class Frame>
using RenderFrame = std::function<void(Renderer& renderer, std::int64_t i, Frame& frame)>;
template <class Frame>
using EncodeFrame = std::function<Status(const Frame& frame, int index)>;

/// Renders `count` frames by `render`, as many at once as the team does, hands each to `encode` on another thread, in order, and reports
/// progress. Ok(true) when done, Ok(false) when cancelled. Frames are recycled; at most a few wait. Memory that cannot be had is an error.
template <class Frame>
Result<bool> pump(std::int64_t count, FrameTeam& team, const RenderFrame<Frame>& render, const EncodeFrame<Frame>& encode,
                  const ProgressFunction& progress);

}  // namespace oa
