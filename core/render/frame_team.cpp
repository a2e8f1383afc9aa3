#include "render/frame_team.h"

#include <algorithm>
#include <cmath>

#include "base/memory_budget.h"
#include "base/parallel.h"
#include "render/budget.h"
#include "scene/media_refs.h"

namespace oa {
namespace {

// Measured on the starters, two frames at once against bands of each on two threads: of 160x90 pixels 1.1 to 1.9 times as many, of 640x360
// 0.94 to 1.55, of 1920x1080 1.00 to 1.11. Larger ones would fill the memory and the caches.
constexpr double kPixelsOfAThread = 1500000;

bool showsClips(const Scene& scene) {
  bool any = false;
  forEachMedia(scene, [&](const MediaRef& ref) { any = any || ref.moving(); });
  return any;
}

}  // namespace

TeamPlan teamFor(const Scene& scene, int width, int height, int threads, std::size_t memory) {
  const int there = threadsOf(threads);
  if (memory == 0) memory = MemoryBudget::shared().bytes() / 4;
  const double busy = std::round(static_cast<double>(width) * height / kPixelsOfAThread);
  const int own = static_cast<int>(std::clamp(busy, 1.0, static_cast<double>(there)));
  const int most = there / own;
  const double fitting = static_cast<double>(memory) / std::max(1.0, memoryNeed(scene, width, height).bytes);
  const int frames = static_cast<int>(std::min(static_cast<double>(most), fitting));
  if (frames < 2 || showsClips(scene)) return {1, threads};
  return {frames, there / frames};
}

// A renderer that nobody else uses meanwhile.
class FrameTeam::Taken {
 public:
  explicit Taken(FrameTeam& team) : team_(team) {
    {
      const std::scoped_lock lock(team.mutex_);
      if (!team.idle_.empty()) {
        renderer_ = std::move(team.idle_.back());
        team.idle_.pop_back();
      }
    }
    if (!renderer_) renderer_ = std::make_unique<Renderer>(*team.scene_, team.width_, team.height_, team.options_);
  }
  ~Taken() {
    const std::scoped_lock lock(team_.mutex_);
    team_.idle_.push_back(std::move(renderer_));
  }
  Taken(const Taken&) = delete;
  Taken& operator=(const Taken&) = delete;
  [[nodiscard]] Renderer& renderer() { return *renderer_; }

 private:
  FrameTeam& team_;
  std::unique_ptr<Renderer> renderer_;
};

FrameTeam::FrameTeam(std::shared_ptr<const Scene> scene, int width, int height, const RenderOptions& options)
    : scene_(std::move(scene)), width_(width), height_(height), options_(options), team_(teamFor(*scene_, width, height, options.threads)) {
  options_.threads = team_.threads;
  // What one of them has made the others find.
  if (options_.manyFrames && !options_.planes) options_.planes = PlaneCache::forMachine();
  // Giving one back asks for no memory.
  idle_.reserve(static_cast<std::size_t>(team_.frames));
}

void FrameTeam::each(int count, const std::function<void(Renderer&, int)>& body) {
  const auto some = [&](int from, int to) {
    Taken taken(*this);
    for (int i = from; i < to; ++i) body(taken.renderer(), i);
  };
  if (team_.frames < 2)
    some(0, count);
  else
    withThreads(team_.frames, [&] { parallelBands(count, some, 1); });
}

}  // namespace oa
