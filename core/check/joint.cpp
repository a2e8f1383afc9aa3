#include "check/joint.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "render/frames.h"
#include "scene/tree.h"

namespace oa {
// Finer than 8 bits, or the dither's fixed pattern would hide slow motion.
double meanDifference(const Frame16& a, const Frame16& b) {
  double sum = 0;
  for (std::size_t i = 0; i < a.rgba.size(); i += 4) {
    const double alphaA = a.rgba[i + 3] / 65535.0;
    const double alphaB = b.rgba[i + 3] / 65535.0;
    for (std::size_t c = 0; c < 3; ++c) sum += std::abs(a.rgba[i + c] * alphaA - b.rgba[i + c] * alphaB);
    sum += std::abs(static_cast<int>(a.rgba[i + 3]) - static_cast<int>(b.rgba[i + 3]));
  }
  return sum / static_cast<double>(a.rgba.size()) / 257;
}

namespace {

double medianOf(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

}  // namespace

struct JointMeter::State {
  Renderer renderer;
  // Frames k for which the step to k + 1 is measured, in order; all of a short loop, else the joint's surroundings and places
  // spread over the loop.
  std::vector<int> places;
  std::size_t next = 0;
  Frame16 here;
  Frame16 after;
  int have = -1;
  std::vector<double> differences;
  std::vector<double> changes;

  State(const Scene& scene, int width, int height, const RenderOptions& options) : renderer(scene, width, height, options) {
    constexpr int kAll = 96;
    std::set<int> chosen;
    for (int i = 0; i < std::min(scene.frames, kAll); ++i)
      chosen.insert(scene.frames <= kAll ? i : static_cast<int>(std::int64_t{i} * scene.frames / kAll));
    for (int i = -3; i < 3; ++i) chosen.insert(static_cast<int>(floorMod(i, scene.frames)));
    places.assign(chosen.begin(), chosen.end());
  }
};

JointMeter::JointMeter(const Scene& scene, int threads, Id layer) {
  const double shrink = std::min(1.0, 240.0 / std::max(scene.width, scene.height));
  RenderOptions options;
  options.manyFrames = true;
  options.threads = threads;
  options.layer = layer;
  state_ = std::make_unique<State>(scene, std::max(1, static_cast<int>(scene.width * shrink)),
                                   std::max(1, static_cast<int>(scene.height * shrink)), options);
}

JointMeter::~JointMeter() = default;

bool JointMeter::step() {
  State& s = *state_;
  if (s.next >= s.places.size()) return false;
  const int k = s.places[s.next];
  if (s.have != k) {
    renderInto(s.renderer, k, s.here);
    s.have = k;
    return true;
  }
  renderInto(s.renderer, k + 1, s.after);
  s.differences.push_back(meanDifference(s.here, s.after));
  const std::size_t n = s.differences.size();
  if (s.next > 0 && s.places[s.next - 1] == k - 1) s.changes.push_back(std::abs(s.differences[n - 1] - s.differences[n - 2]));
  std::swap(s.here, s.after);
  s.have = k + 1;
  ++s.next;
  return s.next < s.places.size();
}

JointReport JointMeter::report() const {
  const auto& differences = state_->differences;
  const auto& changes = state_->changes;
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

namespace {

JointReport measure(const Scene& scene, const std::atomic<bool>* cancel, int threads, Id layer = 0) {
  JointMeter meter(scene, threads, layer);
  while (meter.step())
    if (cancel && *cancel) return {};
  return meter.report();
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
  // What jumps in a beat may do so there too: one of several that are about as large.
  constexpr std::ptrdiff_t kOften = 3;
  const bool often = std::count_if(inside.begin(), inside.end(), [&](double d) { return d >= 0.75 * report.joint; }) >= kOften;
  report.clean = report.joint <= kJointLimit * report.median || report.joint <= report.largest * 1.001 || often || report.joint < 0.01;
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
  // Layers are named by their ids.
  Scene named = scene;
  assignIds(named);
  for (const Layer& layer : named.layers)
    if (layer.visible) check.layers.push_back({layer.name, measure(named, cancel, threads, layer.id)});
  return check;
}

}  // namespace oa
