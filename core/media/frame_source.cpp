#include "scene/plan.h"
#include "media/frame_source.h"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <cstdint>
#include <deque>
#include <mutex>
#include <thread>

#include "base/memory.h"
#include "base/numbers.h"
#include "scene/run.h"

namespace oa {
namespace {

// Finished frames on their way to the encoder, and empty ones on their way back.
template <class Frame>
class Belt {
 public:
  explicit Belt(int capacity) : empty_(static_cast<std::size_t>(capacity)) {}

  bool takeEmpty(Frame& frame) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return !empty_.empty() || stopped_; });
    if (stopped_) return false;
    frame = std::move(empty_.back());
    empty_.pop_back();
    return true;
  }
  void putFull(Frame&& frame) {
    const std::scoped_lock lock(mutex_);
    full_.push_back(std::move(frame));
    changed_.notify_all();
  }
  bool takeFull(Frame& frame) {
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [&] { return !full_.empty() || finished_ || stopped_; });
    if (stopped_ || full_.empty()) return false;
    frame = std::move(full_.front());
    full_.pop_front();
    return true;
  }
  void putEmpty(Frame&& frame) {
    const std::scoped_lock lock(mutex_);
    empty_.push_back(std::move(frame));
    changed_.notify_all();
  }
  void finish() {
    const std::scoped_lock lock(mutex_);
    finished_ = true;
    changed_.notify_all();
  }
  void stop() {
    const std::scoped_lock lock(mutex_);
    stopped_ = true;
    changed_.notify_all();
  }

 private:
  std::mutex mutex_;
  std::condition_variable changed_;
  std::vector<Frame> empty_;
  std::deque<Frame> full_;
  bool finished_ = false;
  bool stopped_ = false;
};

}  // namespace

Result<ExportPlan> planExport(const Scene& scene, const ExportSettings& settings) {
  ExportPlan plan;
  plan.repeats = settings.loops;
  if (settings.range) {
    const auto [first, last] = *settings.range;
    std::int64_t span = 0;
    if (last < first) return fail("the last frame must not come before the first");
    constexpr std::int64_t kFarthest = 1000000000000000;
    if (first < -kFarthest || last > kFarthest) return fail("frame numbers must lie within " + std::to_string(kFarthest) + " of 0");
    span = last - first;
    if (span >= kMostExportedFrames) return fail("that range holds more than " + std::to_string(kMostExportedFrames) + " frames");
    // Footage does not begin anew with every lap.
    plan.first = floorMod(first, runOf(scene).frames);
    plan.count = span + 1;
  } else if (const RunLength run = runOf(scene); run.seconds > 0) {
    // It goes on for as long as that which does not loop; what loops in it is made once where nothing else is seen.
    plan.count = run.frames;
    if (!Plan(scene).runs()) plan.count = std::min<std::int64_t>(run.frames, distinctFrames(scene));
    plan.repeats *= run.frames / plan.count;
    if (plan.count * (plan.repeats / settings.loops) != run.frames) {
      plan.count = run.frames;
      plan.repeats = settings.loops;
    }
  } else {
    plan.count = distinctFrames(scene);
    plan.repeats *= scene.frames / plan.count;
  }
  if (plan.count > kMostExportedFrames / plan.repeats)
    return fail("that would be more than " + std::to_string(kMostExportedFrames) + " frames; ask for fewer loops");
  return plan;
}

template <class Frame>
Result<bool> pump(std::int64_t first, std::int64_t count, const std::function<void(std::int64_t, Frame&)>& render,
                  const std::function<Status(const Frame&, int)>& encode, const ProgressFunction& progress) {
  Belt<Frame> belt(4);
  Status encoded;
  Status rendered;
  std::thread encoder([&] {
    Frame frame;
    for (int i = 0; belt.takeFull(frame); ++i) {
      encoded = withMemory([&] { return encode(frame, i); });
      if (!encoded) return belt.stop();
      belt.putEmpty(std::move(frame));
    }
  });
  bool cancelled = false;
  const auto start = std::chrono::steady_clock::now();
  for (std::int64_t i = 0; i < count; ++i) {
    Frame frame;
    if (!belt.takeEmpty(frame)) break;
    rendered = withMemory([&]() -> Status {
      render(first + i, frame);
      return {};
    });
    if (!rendered) {
      belt.stop();
      break;
    }
    belt.putFull(std::move(frame));
    const double gone = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    const double left = i < 3 ? -1 : gone / static_cast<double>(i + 1) * static_cast<double>(count - i - 1);
    if (progress && !progress({i + 1, count, left})) {
      cancelled = true;
      belt.stop();
      break;
    }
  }
  belt.finish();
  encoder.join();
  if (!encoded) return tl::unexpected(encoded.error());
  if (!rendered) return tl::unexpected(rendered.error());
  return !cancelled;
}

#define OA_PUMP(Frame)                                                                                            \
  template Result<bool> pump<Frame>(std::int64_t, std::int64_t, const std::function<void(std::int64_t, Frame&)>&, \
                                    const std::function<Status(const Frame&, int)>&, const ProgressFunction&)
OA_PUMP(Frame8);
OA_PUMP(Frame16);
OA_PUMP(FrameYuv);
#undef OA_PUMP

}  // namespace oa
