// Whole scenes: how many pictures a second each starter makes, without an encoder, on two threads.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <filesystem>
#include <string>
#include <vector>

#include "ratios.h"
#include "render/frames.h"
#include "scene/scene_file.h"

namespace oa::bench {
namespace {

double picturesASecond(const Scene& scene, int width, int height, double seconds) {
  RenderOptions options;
  options.threads = 2;
  options.manyFrames = true;
  Renderer renderer(scene, width, height, options);
  Frame8 frame;
  // What is kept is there, and pages are warm.
  for (int k = 0; k < 3; ++k) renderInto(renderer, k, Alpha::Premultiplied, frame);
  const auto start = std::chrono::steady_clock::now();
  const auto gone = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count(); };
  int made = 0;
  // Some way apart, so that the whole loop counts.
  for (; gone() < seconds; ++made) renderInto(renderer, 3 + made * 7, Alpha::Premultiplied, frame);
  return made / gone();
}

}  // namespace

void sceneRates(const std::string& only) {
  std::vector<std::filesystem::path> paths;
  for (const auto& entry : std::filesystem::directory_iterator(OA_SOURCE_DIR "/demo-data/scenes"))
    if (entry.path().extension() == ".overagain" && entry.path().stem().string().find(only) != std::string::npos) paths.push_back(entry.path());
  std::sort(paths.begin(), paths.end());
  for (const auto& path : paths) {
    const auto scene = loadScene(path.string());
    if (!scene) continue;
    const double hd = picturesASecond(*scene, 1920, 1080, 1.0);
    const double uhd = picturesASecond(*scene, 3840, 2160, 1.0);
    std::printf("%-24s 1080p %6.1f  4K %6.1f\n", path.stem().c_str(), hd, uhd);
    std::fflush(stdout);
  }
}

}  // namespace oa::bench
