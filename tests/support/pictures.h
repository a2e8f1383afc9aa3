// Pictures by numbers: rendering to floats, and measures of how two pictures differ.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <string>
#include <vector>

#include "render/frames.h"
#include "render/renderer.h"

namespace oa::test {

/// A finished float frame: premultiplied display-encoded RGBA.
struct FloatFrame {
  int width = 0;
  int height = 0;
  std::vector<float> rgba;
  [[nodiscard]] float at(int x, int y, int channel) const {
    return rgba[(static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)) * 4 +
                static_cast<std::size_t>(channel)];
  }
};

FloatFrame renderFloat(const Scene& scene, std::int64_t k, int width, int height, int threads = 0);
inline FloatFrame renderFloat(const Scene& scene, std::int64_t k) { return renderFloat(scene, k, scene.width, scene.height); }

/// By a renderer that has made other frames before.
FloatFrame renderFloat(Renderer& renderer, std::int64_t k);
/// A part of the scene's plane.
FloatFrame renderFloat(const Scene& scene, std::int64_t k, const PlaneView& view, int threads = 0);
/// `w` x `h` pixels from (x, y).
FloatFrame cut(const FloatFrame& frame, int x, int y, int w, int h);

/// Largest and mean absolute difference of all channels; pictures must be of one size.
struct Difference {
  double largest = 0;
  double mean = 0;
};
Difference compare(const FloatFrame& a, const FloatFrame& b);
Difference compare(const FloatFrame& a, const std::vector<std::array<double, 4>>& reference);

/// Means of 2 x 2 pixels; sizes must be even.
FloatFrame halved(const FloatFrame& frame);

bool allFinite(const FloatFrame& frame);
double meanOf(const FloatFrame& frame, int channel);
double deviationOf(const FloatFrame& frame, int channel);

/// Writes expected, actual and amplified difference as PNG into `folder` (made if need be), for a failed comparison.
void writeEvidence(const std::string& folder, const FloatFrame& expected, const FloatFrame& actual);

/// Runs `body` once for every SIMD target that this machine has, naming it.
void forEachTarget(const std::function<void(const char* target)>& body);

}  // namespace oa::test
