// Frames of one scene, several at once where that is quicker than bands of one: small ones have too few bands to keep all threads busy,
// and between large ones nobody waits for the last band.
#pragma once

#include <functional>
#include <memory>
#include <mutex>
#include <vector>

#include "render/renderer.h"

namespace oa {

/// How frames are shared out.
struct TeamPlan {
  int frames = 1;   ///< made at once
  int threads = 0;  ///< for each of them; 0: all
};
/// By how many pixels keep a thread busy, and by what all of them need, of `memory` bytes (0: a quarter of what pictures share). Clips are
/// read one picture after the other, so that frames with them are made so as well.
TeamPlan teamFor(const Scene& scene, int width, int height, int threads, std::size_t memory = 0);

class FrameTeam {
 public:
  FrameTeam(std::shared_ptr<const Scene> scene, int width, int height, const RenderOptions& options = {});
  FrameTeam(const Scene& scene, int width, int height, const RenderOptions& options = {})
      : FrameTeam(std::make_shared<const Scene>(scene), width, height, options) {}

  /// How many frames are made at once.
  [[nodiscard]] int atOnce() const { return team_.frames; }
  /// How many each() is best asked for at a time where there are many: who is done early goes on with the next.
  [[nodiscard]] int batch() const { return team_.frames > 1 ? 4 * team_.frames : 1; }
  /// Calls body(renderer, i) once for each i in [0, count), several at a time; what it makes does not depend on the renderer. The first
  /// exception ends it. One call at a time.
  void each(int count, const std::function<void(Renderer&, int i)>& body);

 private:
  class Taken;
  std::shared_ptr<const Scene> scene_;
  int width_;
  int height_;
  RenderOptions options_;
  TeamPlan team_;
  std::mutex mutex_;
  std::vector<std::unique_ptr<Renderer>> idle_;
};

}  // namespace oa
