// Turns a scene into frames. frame(scene, k, size) is a pure function; a Renderer keeps what several
// frames of one scene have in common.
#pragma once

#include <atomic>
#include <cstdint>
#include <memory>

#include "graph/plane_cache.h"
#include "loop/sound_levels.h"
#include "scene/plan.h"
#include "scene/run.h"

namespace oa {

/// Takes finished pixels: premultiplied display-encoded RGBA. Called from several threads, each place of the
/// frame once: `rows` (1 or 2) rows from the even row y, `n` pixels from x0 (a multiple of 64).
class PixelSink {
 public:
  virtual ~PixelSink() = default;
  PixelSink() = default;
  PixelSink(const PixelSink&) = delete;
  PixelSink& operator=(const PixelSink&) = delete;
  virtual void take(int y, int rows, int x0, int n, const float* const* rgba) = 0;
};

struct RenderOptions {
  int threads = 0;                               ///< 0: as many as the machine has
  bool manyFrames = false;                       ///< keep what does not move from frame to frame
  const std::atomic<bool>* cancel = nullptr;     ///< once true, render() returns early with unfinished pixels
  std::int64_t lap = 0;                          ///< footage goes on from this lap of the loop on
  bool run = false;                              ///< frames are those of the run (scene/run.h), from its first one on
  std::shared_ptr<PlaneCache> planes = nullptr;  ///< where that is kept, by all who render this scene in this view; null: in one of its own
  Id layer = 0;                                  ///< this layer alone, over nothing, unblended, in the frame it lies in; 0: the scene
};

class Renderer {
 public:
  Renderer(const Scene& scene, int width, int height, const RenderOptions& options = {});
  /// A part of the scene's plane instead of the frame.
  Renderer(const Scene& scene, const PlaneView& view, RenderOptions options = {});

  /// Renders frame `k`, read modulo the loop, or as the run has it; footage goes on with `k`. One call at a time; bands run in parallel
  /// inside.
  void render(std::int64_t k, PixelSink& sink);

  [[nodiscard]] int width() const { return view_.width; }
  [[nodiscard]] int height() const { return view_.height; }
  [[nodiscard]] const Scene& scene() const { return plan_.scene(); }
  [[nodiscard]] const Plan& plan() const { return plan_; }

 private:
  Plan plan_;
  PlaneView view_;
  RenderOptions options_;
  RunLength run_;
  std::shared_ptr<const SoundLevels> levels_;
  std::shared_ptr<PlaneCache> planes_;  // null: nothing is kept
};

}  // namespace oa
