#include "scene/plan.h"
#include "media/frame_source.h"

#include <algorithm>
#include <atomic>
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

constexpr int kWaiting = 4;  // for the encoder

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

std::int64_t ExportPlan::rendered() const {
  std::int64_t sum = 0;
  for (const ExportStretch& s : stretches) sum += s.count;
  return sum;
}

std::int64_t ExportPlan::frames() const {
  std::int64_t sum = 0;
  for (const ExportStretch& s : stretches) sum += s.count * s.repeats;
  return sum;
}

std::int64_t ExportPlan::number(std::int64_t i) const {
  for (const ExportStretch& s : stretches) {
    if (i < s.count) return s.first + i;
    i -= s.count;
  }
  return stretches.back().first + stretches.back().count - 1;
}

std::int64_t ExportPlan::shown(std::int64_t j) const {
  std::int64_t before = 0;
  for (const ExportStretch& s : stretches) {
    if (j < s.count * s.repeats) return before + j % s.count;
    j -= s.count * s.repeats;
    before += s.count;
  }
  return before - 1;
}

namespace {

// Frames [first, first + count) that are the same again after `different` of them.
void addStretches(std::vector<ExportStretch>& list, std::int64_t first, std::int64_t count, std::int64_t different) {
  const auto add = [&](std::int64_t from, std::int64_t length, std::int64_t repeats) {
    if (length <= 0 || repeats <= 0) return;
    // What follows on is one with it: encoders begin as seldom as they can.
    if (!list.empty() && repeats == 1 && list.back().repeats == 1 && list.back().first + list.back().count == from)
      list.back().count += length;
    else
      list.push_back({from, length, repeats});
  };
  const std::int64_t times = count / different;
  add(first, different, times);
  add(first + times * different, count - times * different, 1);
}

Status planPart(const Scene& scene, const ExportSettings& settings, ExportPlan& plan) {
  const RunLength run = runOf(scene);
  const RunSpan span = spanOf(scene, run, settings.part);
  if (span.count < 1)
    return fail(settings.part == RunPart::Arrive ? "nothing in the scene arrives, so there is no such part"
                                                 : "nothing in the scene leaves, so there is no such part");
  plan.run = settings.part != RunPart::Loop || run.seconds > 0;
  plan.stretches.clear();
  const std::int64_t different = Plan(scene).runs() ? run.frames() : distinctFrames(scene);
  switch (settings.part) {
    case RunPart::Loop:
      addStretches(plan.stretches, plan.run ? span.first : 0, span.count, different);
      break;
    case RunPart::Run:
      addStretches(plan.stretches, 0, run.arrive, run.frames());
      addStretches(plan.stretches, run.arrive, run.loop, different);
      addStretches(plan.stretches, run.arrive + run.loop, run.leave, run.frames());
      break;
    default:
      addStretches(plan.stretches, span.first, span.count, span.count);
  }
  return {};
}

}  // namespace

Result<ExportPlan> planExport(const Scene& scene, const ExportSettings& settings) {
  ExportPlan plan;
  std::int64_t loops = settings.part == RunPart::Run ? 1 : settings.loops;
  if (settings.range) {
    const auto [first, last] = *settings.range;
    std::int64_t span = 0;
    if (last < first) return fail("the last frame must not come before the first");
    constexpr std::int64_t kFarthest = 1000000000000000;
    if (first < -kFarthest || last > kFarthest) return fail("frame numbers must lie within " + std::to_string(kFarthest) + " of 0");
    span = last - first;
    if (span >= kMostExportedFrames) return fail("that range holds more than " + std::to_string(kMostExportedFrames) + " frames");
    // Footage does not begin anew with every lap.
    const RunLength run = runOf(scene);
    plan.run = settings.part == RunPart::Run;
    if (plan.run && (first < 0 || last >= run.frames())) return fail("the run has the frames 0 to " + std::to_string(run.frames() - 1));
    const std::int64_t all = plan.run || run.seconds > 0 ? run.frames() : scene.frames;
    plan.stretches = {{floorMod(first, all), span + 1, 1}};
  } else if (auto ok = planPart(scene, settings, plan); !ok) {
    return tl::unexpected(ok.error());
  }
  const std::int64_t once = plan.frames();
  if (once > kMostExportedFrames / loops)
    return fail("that would be more than " + std::to_string(kMostExportedFrames) + " frames; ask for fewer loops");
  if (loops > 1) {
    // The whole of it once more each time; what is one stretch is only shown more often.
    if (plan.stretches.size() == 1) {
      plan.stretches.front().repeats *= loops;
    } else {
      const std::vector<ExportStretch> one = plan.stretches;
      if (one.size() > static_cast<std::size_t>(kMostExportedFrames / loops)) return fail("that would be too many frames");
      for (std::int64_t i = 1; i < loops; ++i) plan.stretches.insert(plan.stretches.end(), one.begin(), one.end());
    }
  }
  return plan;
}

template <class Frame>
Result<bool> pump(std::int64_t count, FrameTeam& team, const RenderFrame<Frame>& render, const EncodeFrame<Frame>& encode,
                  const ProgressFunction& progress) {
  const int batch = team.batch();
  Belt<Frame> belt(kWaiting + batch);
  Status encoded;
  Status rendered;
  using Clock = std::chrono::steady_clock;
  const auto since = [](Clock::time_point begin) { return std::chrono::duration<double>(Clock::now() - begin).count(); };
  std::atomic<double> encoding{0};
  std::thread encoder([&] {
    Frame frame;
    for (int i = 0; belt.takeFull(frame); ++i) {
      const auto begin = Clock::now();
      encoded = withMemory([&] { return encode(frame, i); });
      encoding = encoding + since(begin);
      if (!encoded) return belt.stop();
      belt.putEmpty(std::move(frame));
    }
  });
  bool stopped = false;
  bool cancelled = false;
  double rendering = 0;
  const auto start = Clock::now();
  std::vector<Frame> frames(static_cast<std::size_t>(batch));
  for (std::int64_t i = 0; i < count && !stopped;) {
    const int now = static_cast<int>(std::min<std::int64_t>(batch, count - i));
    for (int k = 0; k < now && !stopped; ++k) stopped = !belt.takeEmpty(frames[static_cast<std::size_t>(k)]);
    if (stopped) break;
    const auto begin = Clock::now();
    rendered = withMemory([&]() -> Status {
      team.each(now, [&](Renderer& renderer, int k) { render(renderer, i + k, frames[static_cast<std::size_t>(k)]); });
      return {};
    });
    if (!rendered) {
      belt.stop();
      break;
    }
    rendering += since(begin);
    for (int k = 0; k < now && !stopped; ++k) {
      belt.putFull(std::move(frames[static_cast<std::size_t>(k)]));
      ++i;
      const double gone = since(start);
      const double left = i < kWaiting ? -1 : gone / static_cast<double>(i) * static_cast<double>(count - i);
      stopped = cancelled = progress && !progress({i, count, left, rendering, encoding});
    }
    if (cancelled) belt.stop();
  }
  belt.finish();
  encoder.join();
  if (!encoded) return tl::unexpected(encoded.error());
  if (!rendered) return tl::unexpected(rendered.error());
  return !cancelled;
}

#define OA_PUMP(Frame) \
  template Result<bool> pump<Frame>(std::int64_t, FrameTeam&, const RenderFrame<Frame>&, const EncodeFrame<Frame>&, const ProgressFunction&)
OA_PUMP(Frame8);
OA_PUMP(Frame16);
OA_PUMP(FrameYuv);
#undef OA_PUMP

}  // namespace oa
