#include "support/pictures.h"

#include <hwy/targets.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <filesystem>

#include "base/files.h"
#include "media/png.h"

namespace oa::test {
namespace {

class FloatSink final : public PixelSink {
 public:
  explicit FloatSink(FloatFrame& frame) : frame_(frame) {}
  void take(int y, int rows, int x0, int n, const float* const* rgba) override {
    for (int r = 0; r < rows; ++r) {
      const std::size_t at = (static_cast<std::size_t>(y + r) * static_cast<std::size_t>(frame_.width) + static_cast<std::size_t>(x0)) * 4;
      std::copy(rgba[r], rgba[r] + static_cast<std::ptrdiff_t>(n) * 4, frame_.rgba.begin() + static_cast<std::ptrdiff_t>(at));
    }
  }

 private:
  FloatFrame& frame_;
};

Frame8 toBytes(const FloatFrame& frame, const std::function<float(std::size_t)>& value) {
  Frame8 out{frame.width, frame.height, std::vector<std::uint8_t>(frame.rgba.size())};
  for (std::size_t i = 0; i < frame.rgba.size(); ++i)
    out.rgba[i] = i % 4 == 3 ? 255 : static_cast<std::uint8_t>(std::lround(std::clamp(value(i), 0.0f, 1.0f) * 255));
  return out;
}

}  // namespace

FloatFrame renderFloat(const Scene& scene, std::int64_t k, const PlaneView& view, int threads) {
  RenderOptions options;
  options.threads = threads;
  Renderer renderer(scene, view, options);
  return renderFloat(renderer, k);
}

FloatFrame renderFloat(Renderer& renderer, std::int64_t k) {
  const auto pixels = static_cast<std::size_t>(renderer.width()) * static_cast<std::size_t>(renderer.height());
  FloatFrame frame{renderer.width(), renderer.height(), std::vector<float>(pixels * 4, NAN)};
  FloatSink sink(frame);
  renderer.render(k, sink);
  return frame;
}

FloatFrame renderFloat(const Scene& scene, std::int64_t k, int width, int height, int threads) {
  return renderFloat(scene, k, PlaneView::cover(scene.width, scene.height, width, height), threads);
}

FloatFrame cut(const FloatFrame& frame, int x, int y, int w, int h) {
  FloatFrame part{w, h, {}};
  for (int row = y; row < y + h; ++row) {
    const auto from = frame.rgba.begin() + (static_cast<std::ptrdiff_t>(row) * frame.width + x) * 4;
    part.rgba.insert(part.rgba.end(), from, from + static_cast<std::ptrdiff_t>(w) * 4);
  }
  return part;
}

Difference compare(const FloatFrame& a, const FloatFrame& b) {
  if (a.width != b.width || a.height != b.height) std::abort();
  Difference d;
  for (std::size_t i = 0; i < a.rgba.size(); ++i) {
    const double e = std::abs(static_cast<double>(a.rgba[i]) - b.rgba[i]);
    // A pixel that is no number differs by as much as can be.
    const double error = std::isfinite(e) ? e : 1e9;
    d.largest = std::max(d.largest, error);
    d.mean += error / static_cast<double>(a.rgba.size());
  }
  return d;
}

Difference compare(const FloatFrame& a, const std::vector<std::array<double, 4>>& reference) {
  FloatFrame b{a.width, a.height, {}};
  for (const auto& pixel : reference)
    for (const double v : pixel) b.rgba.push_back(static_cast<float>(v));
  if (b.rgba.size() != a.rgba.size()) std::abort();
  return compare(a, b);
}

FloatFrame halved(const FloatFrame& frame) {
  FloatFrame out{frame.width / 2, frame.height / 2, {}};
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x)
      for (int c = 0; c < 4; ++c)
        out.rgba.push_back((frame.at(2 * x, 2 * y, c) + frame.at(2 * x + 1, 2 * y, c) + frame.at(2 * x, 2 * y + 1, c) +
                            frame.at(2 * x + 1, 2 * y + 1, c)) /
                           4);
  return out;
}

bool allFinite(const FloatFrame& frame) {
  return std::all_of(frame.rgba.begin(), frame.rgba.end(), [](float v) { return std::isfinite(v); });
}

double meanOf(const FloatFrame& frame, int channel) {
  double sum = 0;
  for (std::size_t i = static_cast<std::size_t>(channel); i < frame.rgba.size(); i += 4) sum += frame.rgba[i];
  return sum / (static_cast<double>(frame.rgba.size()) / 4);
}

double deviationOf(const FloatFrame& frame, int channel) {
  const double mean = meanOf(frame, channel);
  double sum = 0;
  for (std::size_t i = static_cast<std::size_t>(channel); i < frame.rgba.size(); i += 4)
    sum += (frame.rgba[i] - mean) * (frame.rgba[i] - mean);
  return std::sqrt(sum / (static_cast<double>(frame.rgba.size()) / 4));
}

void writeEvidence(const std::string& folder, const FloatFrame& expected, const FloatFrame& actual) {
  std::filesystem::create_directories(folder);
  const auto write = [&](const char* name, const Frame8& frame) {
    const auto png = encodePng(frame, false);
    if (png) (void)writeFileAtomically(folder + "/" + name, *png);
  };
  write("expected.png", toBytes(expected, [&](std::size_t i) { return expected.rgba[i]; }));
  write("actual.png", toBytes(actual, [&](std::size_t i) { return actual.rgba[i]; }));
  write("difference.png", toBytes(actual, [&](std::size_t i) { return 0.5f + 16 * (actual.rgba[i] - expected.rgba[i]); }));
}

void forEachTarget(const std::function<void(const char*)>& body) {
  for (const std::int64_t target : hwy::SupportedAndGeneratedTargets()) {
    hwy::SetSupportedTargetsForTest(target);
    hwy::GetChosenTarget().Update(hwy::SupportedTargets());
    body(hwy::TargetName(target));
  }
  hwy::SetSupportedTargetsForTest(0);
  hwy::GetChosenTarget().Update(hwy::SupportedTargets());
}

}  // namespace oa::test
