// Whole scenes: how many pictures a second each starter makes, without an encoder, on two threads; what a picture takes in copies of a
// float frame; how many fresh pages it asks the system for; and two threads against one.
#include <sys/resource.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <string>
#include <vector>

#include <hwy/targets.h>

#include "ratios.h"
#include "render/frame_team.h"
#include "render/frames.h"
#include "scene/scene_file.h"

namespace oa::bench {
namespace {

struct Rate {
  double pictures;    // a second
  double freshPages;  // a picture
};

Rate rateOf(const Scene& scene, int width, int height, int threads, double seconds) {
  RenderOptions options;
  options.threads = threads;
  options.manyFrames = true;
  FrameTeam team(scene, width, height, options);
  std::vector<Frame8> frames(static_cast<std::size_t>(team.atOnce()));
  // Some way apart, so that the whole loop counts.
  const auto make = [&](int first, int apart) {
    team.each(team.atOnce(), [&](Renderer& renderer, int i) {
      renderInto(renderer, first + i * apart, Alpha::Premultiplied, frames[static_cast<std::size_t>(i)]);
    });
    return team.atOnce();
  };
  // What is kept is there, and pages are warm.
  int warm = 0;
  while (warm < 4 * team.atOnce()) warm += make(warm, 1);
  const auto faults = [] {
    rusage used{};
    getrusage(RUSAGE_SELF, &used);
    return used.ru_minflt;
  };
  const long before = faults();
  const auto start = std::chrono::steady_clock::now();
  const auto gone = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(); };
  int made = 0;
  while (gone() < seconds) made += make(3 + made * 7, 7);
  const double time = gone();
  return {made / time, static_cast<double>(faults() - before) / made};
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

}  // namespace

void sceneRates(const std::string& only, const std::string& target) {
  if (target == "avx2") hwy::SetSupportedTargetsForTest(HWY_AVX2 | HWY_SSE4);
  if (target == "sse4") hwy::SetSupportedTargetsForTest(HWY_SSE4);
  hwy::GetChosenTarget().Update(hwy::SupportedTargets());
  std::vector<std::filesystem::path> paths;
  for (const auto& entry : std::filesystem::directory_iterator(OA_SOURCE_DIR "/demo-data/scenes"))
    if (entry.path().extension() == ".overagain" && entry.path().stem().string().find(only) != std::string::npos)
      paths.push_back(entry.path());
  std::sort(paths.begin(), paths.end());
  const double copy = copySeconds();
  std::printf("%-24s %8s %8s %8s %8s %8s\n", "", "1080p/s", "copies", "pages", "threads", "4K/s");
  for (const auto& path : paths) {
    const auto scene = loadScene(path.string());
    if (!scene) continue;
    const Rate one = rateOf(*scene, 1920, 1080, 1, 0.5);
    const Rate two = rateOf(*scene, 1920, 1080, 2, 1.0);
    const Rate large = rateOf(*scene, 3840, 2160, 2, 1.0);
    std::printf("%-24s %8.1f %8.1f %8.0f %8.2f %8.1f\n", path.stem().c_str(), two.pictures, 1 / two.pictures / copy, two.freshPages,
                two.pictures / one.pictures, large.pictures);
    std::fflush(stdout);
  }
}

}  // namespace oa::bench
