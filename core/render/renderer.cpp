#include "render/renderer.h"

#include <algorithm>
#include <utility>

#include "base/parallel.h"
#include "base/spent.h"
#include "graph/puller.h"
#include "scene/run.h"
#include "sound/levels.h"

namespace oa {
Renderer::Renderer(const Scene& scene, int width, int height, const RenderOptions& options)
    : Renderer(scene, PlaneView::cover(scene.width, scene.height, width, height), options) {
  if (options.layer == 0) return;
  const int only = plan_.indexOf(options.layer);
  if (only < 0) return;
  const Point frame = Puller(plan_, nullptr, nullptr).outerFrame(only);
  view_ = PlaneView::cover(static_cast<int>(frame.x), static_cast<int>(frame.y), width, height);
}

Renderer::Renderer(const Scene& scene, const PlaneView& view, RenderOptions options)
    : plan_(scene),
      view_(view),
      options_(std::move(options)),
      run_(runOf(scene)),
      levels_(followedLevels(scene)),
      planes_(options_.planes) {
  if (options_.manyFrames && !planes_) planes_ = PlaneCache::forMachine();
}

void Renderer::render(std::int64_t k, PixelSink& sink) {
  if (planes_ && options_.manyFrames) planes_->beginFrame();
  withThreads(options_.threads, [&] {
    const Spent::Scope scope(0);
    const Puller puller(plan_, options_.manyFrames ? planes_.get() : nullptr, options_.cancel);
    const Scene& scene = plan_.scene();
    const std::int64_t footage = std::max<std::int64_t>(0, k + options_.lap * scene.frames);
    Moment at = options_.run ? runMoment(run_, scene, k) : Moment{k, scene.frames, footage, run_.step};
    at.levels = levels_.get();
    const auto picture = options_.layer == 0 ? puller.scene(view_, at) : puller.alone(plan_.indexOf(options_.layer), view_, at);
    parallelBands(view_.height, [&](int y0, int y1) {
      if (options_.cancel && *options_.cancel) return;
      picture->band(y0, y1, [&](int y, int rows, int x0, int n, const float* const* rgba) { sink.take(y, rows, x0, n, rgba); });
    });
  });
}

}  // namespace oa
