// Turns a scene into frames. frame(scene, k, size) is a pure function; a Renderer keeps what several
// frames of one scene have in common.
#pragma once

#include <atomic>
#include <cstdint>
#include <memory>
#include <vector>

#include "image/buffer.h"
#include "scene/scene.h"

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
  int threads = 0;                            ///< 0: as many as the machine has
  bool manyFrames = false;                    ///< keep what does not move from frame to frame
  const std::atomic<bool>* cancel = nullptr;  ///< once true, render() returns early with unfinished pixels
};

class Renderer {
 public:
  Renderer(Scene scene, int width, int height, RenderOptions options = {});
  ~Renderer();

  /// Renders frame `k`, read modulo the loop. One call at a time; bands run in parallel inside.
  void render(std::int64_t k, PixelSink& sink);

  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }
  [[nodiscard]] const Scene& scene() const { return scene_; }

 private:
  struct Kept;
  Scene scene_;
  int width_;
  int height_;
  RenderOptions options_;
  std::vector<std::unique_ptr<Kept>> kept_;  // per layer
  std::size_t keptBytes_ = 0;
};

}  // namespace oa
