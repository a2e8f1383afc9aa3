#include "check/joint.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "render/frames.h"

namespace oa {
namespace {

// Finer than 8 bits, or the dither's fixed pattern would hide slow motion.
double meanDifference(const Frame16& a, const Frame16& b) {
  double sum = 0;
  for (std::size_t i = 0; i < a.rgba.size(); ++i) sum += std::abs(static_cast<int>(a.rgba[i]) - static_cast<int>(b.rgba[i]));
  return sum / static_cast<double>(a.rgba.size()) / 257;
}

double medianOf(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

JointReport measure(const Scene& scene, const std::atomic<bool>* cancel, int threads) {
  // Frames k for which d[k] is measured: all of a short loop; else the joint's surroundings and 60 other places.
  constexpr int kAll = 96;
  std::set<int> places;
  for (int i = 0; i < std::min(scene.frames, kAll); ++i)
    places.insert(scene.frames <= kAll ? i : static_cast<int>(std::int64_t{i} * scene.frames / kAll));
  for (int i = -3; i < 3; ++i) places.insert(static_cast<int>(floorMod(i, scene.frames)));
  const double shrink = std::min(1.0, 240.0 / std::max(scene.width, scene.height));
  RenderOptions options;
  options.manyFrames = true;
  options.threads = threads;
  Renderer renderer(scene, std::max(1, static_cast<int>(scene.width * shrink)), std::max(1, static_cast<int>(scene.height * shrink)),
                    options);
  Frame16 here;
  Frame16 next;
  int have = -1;
  std::vector<double> differences;
  std::vector<double> changes;
  double previous = -1;
  int previousPlace = -2;
  for (const int k : places) {
    if (cancel && *cancel) return {};
    if (have != k) renderInto(renderer, k, here);
    renderInto(renderer, k + 1, next);
    differences.push_back(meanDifference(here, next));
    if (previousPlace == k - 1) changes.push_back(std::abs(differences.back() - previous));
    previous = differences.back();
    previousPlace = k;
    std::swap(here, next);
    have = k + 1;
  }
  JointReport report = judgeJoint(differences);
  if (differences.size() >= 4) {
    const double first = differences.front();
    const double last = differences[differences.size() - 1];
    const double before = differences[differences.size() - 2];
    const double jump = std::max(std::abs(first - last), std::abs(last - before));
    const double usual = std::max(changes.empty() ? 0 : *std::max_element(changes.begin(), changes.end() - 1), 0.1 * report.median);
    report.speedJump = usual > 0 ? jump / usual : 0;
    report.steady = report.speedJump <= kJointLimit || jump < 0.02;
  }
  return report;
}

}  // namespace

JointReport judgeJoint(const std::vector<double>& differences) {
  JointReport report;
  if (differences.empty()) return report;
  report.joint = differences.back();
  report.median = medianOf(differences);
  const std::vector<double> inside(differences.begin(), differences.end() - 1);
  report.largest = inside.empty() ? 0 : *std::max_element(inside.begin(), inside.end());
  // A scene may jump on purpose elsewhere; a joint no worse than that does not stand out. Differences below a
  // hundredth of a level cannot be seen.
  report.clean = report.joint <= kJointLimit * report.median || report.joint <= report.largest * 1.001 || report.joint < 0.01;
  return report;
}

std::string JointCheck::sentence() const {
  if (scene.median <= 0 && scene.joint <= 0) return "Nothing moves, so nothing can jump.";
  if (!scene.clean) {
    std::string culprit;
    for (const LayerJoint& layer : layers)
      if (!layer.report.clean) culprit += (culprit.empty() ? "" : ", ") + layer.layer;
    return "The picture jumps at the joint: " + numberText(scene.ratio(), 1) + " times the usual step" +
           (culprit.empty() ? "." : ", because of " + culprit + ".");
  }
  if (!scene.steady) return "The loop closes, but its speed changes suddenly at the joint.";
  return "The loop closes: the step across the joint is like every other.";
}

JointCheck checkJoint(const Scene& scene, bool perLayer, const std::atomic<bool>* cancel, int threads) {
  JointCheck check;
  check.scene = measure(scene, cancel, threads);
  if (!perLayer) return check;
  for (const Layer& layer : scene.layers) {
    if (!layer.visible) continue;
    Scene alone = scene;
    alone.background.reset();
    alone.layers = {layer};
    alone.layers[0].blend = BlendMode::Normal;
    check.layers.push_back({layer.name, measure(alone, cancel, threads)});
  }
  return check;
}

}  // namespace oa
