#include "media/frame_source.h"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

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

ExportPlan planExport(const Scene& scene, const ExportSettings& settings) {
  ExportPlan plan;
  if (settings.range) {
    plan.first = settings.range->first;
    plan.count = static_cast<int>(settings.range->second - settings.range->first + 1);
    plan.repeats = settings.loops;
    return plan;
  }
  plan.count = static_cast<int>(distinctFrames(scene));
  plan.repeats = scene.frames / plan.count * settings.loops;
  return plan;
}

template <class Frame>
Result<bool> pump(std::int64_t first, int count, const std::function<void(std::int64_t, Frame&)>& render,
                  const std::function<Status(const Frame&, int)>& encode, const ProgressFunction& progress) {
  Belt<Frame> belt(4);
  Status encoded;
  std::thread encoder([&] {
    Frame frame;
    for (int i = 0; belt.takeFull(frame); ++i) {
      encoded = encode(frame, i);
      if (!encoded) return belt.stop();
      belt.putEmpty(std::move(frame));
    }
  });
  bool cancelled = false;
  const auto start = std::chrono::steady_clock::now();
  for (int i = 0; i < count; ++i) {
    Frame frame;
    if (!belt.takeEmpty(frame)) break;
    render(first + i, frame);
    belt.putFull(std::move(frame));
    const double gone = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    const double left = i < 3 ? -1 : gone / (i + 1) * (count - i - 1);
    if (progress && !progress({i + 1, count, left})) {
      cancelled = true;
      belt.stop();
      break;
    }
  }
  belt.finish();
  encoder.join();
  if (!encoded) return tl::unexpected(encoded.error());
  return !cancelled;
}

template Result<bool> pump<Frame8>(std::int64_t, int, const std::function<void(std::int64_t, Frame8&)>&,
                                   const std::function<Status(const Frame8&, int)>&, const ProgressFunction&);
template Result<bool> pump<Frame16>(std::int64_t, int, const std::function<void(std::int64_t, Frame16&)>&,
                                    const std::function<Status(const Frame16&, int)>&, const ProgressFunction&);
template Result<bool> pump<FrameYuv>(std::int64_t, int, const std::function<void(std::int64_t, FrameYuv&)>&,
                                     const std::function<Status(const FrameYuv&, int)>&, const ProgressFunction&);

}  // namespace oa
