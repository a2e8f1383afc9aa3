// Whole scenes: how many pictures a second each starter makes, without an encoder, on two threads; what a picture takes in copies of a
// float frame; how many fresh pages it asks the system for; and two threads against one. With "avx2", "sse4" or "linear": by turns with
// narrower vectors, or composited in linear light. With "threads": two threads against one, and beside it what the machine itself gives
// at that hour, two renderers of one thread each that have nothing to do with each other against one of them.
#include <sys/resource.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <string>
#include <thread>
#include <vector>

#include <hwy/targets.h>

#include "ratios.h"
#include "render/frame_team.h"
#include "render/frames.h"
#include "scene/scene_file.h"

namespace oa::bench {
namespace {

// One scene at one size, made in rounds that can be taken by turns with another's.
class Run {
 public:
  Run(const Scene& scene, int width, int height, int threads)
      : team_(scene, width, height, optionsFor(threads)), frames_(static_cast<std::size_t>(team_.batch())) {
    // What is kept is there, and pages are warm: what is found again is kept for a whole loop.
    long before = faults();
    for (int made = 0, looked = 0; made < 4 * team_.batch() || made < scene.frames;) {
      made += make(made, 1);
      if (made - looked < 16) continue;
      looked = made;
      const long now = faults();
      if (now == before) break;
      before = now;
    }
  }
  // Pictures for `seconds`, some way apart, so that the whole loop counts: how many a second.
  double round(double seconds) {
    const long before = faults();
    const auto start = std::chrono::steady_clock::now();
    const auto gone = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(); };
    int made = 0;
    while (gone() < seconds || made < team_.batch()) made += make(next_ + made * 7, 7);
    const double rate = made / gone();
    best_ = std::max(best_, rate);
    next_ += 7 * made + 1;
    pages_ += static_cast<double>(faults() - before);
    pictures_ += made;
    return rate;
  }
  // Pictures a second in the quickest round: others are at work on the same machine at times.
  [[nodiscard]] double rate() const { return best_; }
  // Fresh pages a picture, over all rounds.
  [[nodiscard]] double pages() const { return pages_ / pictures_; }

 private:
  static long faults() {
    rusage used{};
    getrusage(RUSAGE_SELF, &used);
    return used.ru_minflt;
  }
  static RenderOptions optionsFor(int threads) {
    RenderOptions options;
    options.threads = threads;
    options.manyFrames = true;
    return options;
  }
  int make(int first, int apart) {
    team_.each(team_.batch(), [&](Renderer& renderer, int i) {
      renderInto(renderer, first + i * apart, Alpha::Premultiplied, frames_[static_cast<std::size_t>(i)]);
    });
    return team_.batch();
  }

  FrameTeam team_;
  std::vector<Frame8> frames_;
  int next_ = 3;
  double best_ = 0;
  double pages_ = 0;
  int pictures_ = 0;
};

// Many short ones: on a machine where others are at work as well some are left alone, and two that follow each other have the same of it.
constexpr int kRounds = 40;
constexpr int kMostRounds = 96;  // where the host leaves none alone
constexpr double kSeconds = 0.06;
bool more(int round, bool calm) { return round < kRounds || (round < kMostRounds && !calm); }

// 0: all that there are.
void use(std::int64_t targets) {
  hwy::SetSupportedTargetsForTest(targets);
  hwy::GetChosenTarget().Update(hwy::SupportedTargets());
}

// Seconds that a copy of a float frame of 1920x1080 takes.
double copySeconds() {
  const std::size_t floats = std::size_t{1920} * 1080 * 4;
  std::vector<float> from(floats, 0.5f);
  std::vector<float> to(floats);
  double best = 1e9;
  for (int i = 0; i < 10; ++i) {
    const auto start = std::chrono::steady_clock::now();
    std::memcpy(to.data(), from.data(), floats * sizeof(float));
    best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    from[static_cast<std::size_t>(i)] = to[floats - 1];
  }
  return best;
}

void printRates(const std::string& name, const Scene& scene, double copy) {
  Run two(scene, 1920, 1080, 2);
  Run one(scene, 1920, 1080, 1);
  Run large(scene, 3840, 2160, 2);
  Pairs gain;
  for (int round = 0; more(round, gain.calm()); ++round) {
    gain.take([&] { return two.round(kSeconds); }, [&] { return one.round(kSeconds); });
    if (round % 4 == 0) large.round(4 * kSeconds);
  }
  std::printf("%-24s %8.1f %8.1f %8.0f %8.2f %8.1f\n", name.c_str(), two.rate(), 1 / two.rate() / copy, two.pages(), gain.middle(),
              large.rate());
}

// By turns with narrower vectors, or composited in linear light.
void printShare(const std::string& name, Scene scene, const std::string& against) {
  const std::int64_t targets = against == "avx2" ? HWY_AVX2 | HWY_SSE4 : against == "sse4" ? HWY_SSE4 : 0;
  if (against == "linear") scene.linearLight = false;
  Run plain(scene, 1920, 1080, 2);
  if (against == "linear") scene.linearLight = true;
  use(targets);
  Run other(scene, 1920, 1080, 2);
  use(0);
  const auto turned = [&] {
    use(targets);
    const double rate = other.round(kSeconds);
    use(0);
    return rate;
  };
  Pairs share;
  for (int round = 0; more(round, share.calm()); ++round) share.take(turned, [&] { return plain.round(kSeconds); });
  std::printf("%-24s %8.1f %8.1f %8.2f\n", name.c_str(), plain.rate(), other.rate(), share.middle());
}

// Two threads, and two renderers that share nothing, against one of one thread.
void printThreads(const std::string& name, const Scene& scene) {
  Run two(scene, 1920, 1080, 2);
  Run one(scene, 1920, 1080, 1);
  Run other(scene, 1920, 1080, 1);
  const auto apart = [&] {
    double beside = 0;
    std::thread second([&] { beside = other.round(kSeconds); });
    const double rate = one.round(kSeconds);
    second.join();
    return rate + beside;
  };
  Pairs gain;
  Pairs most;
  for (int round = 0; more(round, gain.calm() && most.calm()); ++round) {
    gain.take([&] { return two.round(kSeconds); }, [&] { return one.round(kSeconds); });
    most.take(apart, [&] { return one.round(kSeconds); });
  }
  std::printf("%-24s %8.2f %8.2f\n", name.c_str(), gain.middle(), most.middle());
}

}  // namespace

void sceneRates(const std::string& only, const std::string& against) {
  std::vector<std::filesystem::path> paths;
  for (const auto& entry : std::filesystem::directory_iterator(OA_SOURCE_DIR "/demo-data/scenes"))
    if (entry.path().extension() == ".overagain" && entry.path().stem().string().find(only) != std::string::npos)
      paths.push_back(entry.path());
  std::sort(paths.begin(), paths.end());
  const double copy = copySeconds();
  if (against.empty())
    std::printf("%-24s %8s %8s %8s %8s %8s\n", "", "1080p/s", "copies", "pages", "threads", "4K/s");
  else if (against == "threads")
    std::printf("%-24s %8s %8s\n", "", "threads", "apart");
  else
    std::printf("%-24s %8s %8s %8s\n", "", "1080p/s", against.c_str(), "share");
  for (const auto& path : paths) {
    const auto scene = loadScene(path.string());
    if (!scene) continue;
    if (against.empty())
      printRates(path.stem(), *scene, copy);
    else if (against == "threads")
      printThreads(path.stem(), *scene);
    else
      printShare(path.stem(), *scene, against);
    std::fflush(stdout);
  }
}

}  // namespace oa::bench
