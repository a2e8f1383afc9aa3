// How light another layer is.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>

#include "fields/input.h"
#include "image/sampling.h"

namespace oa {

/// How light another layer is, seen coarsely: what copies are ordered or thinned by.
class LayerLightness {
 public:
  LayerLightness() = default;
  LayerLightness(const Input* layer, const PlaneView& view) {
    const std::array<double, 4> box = layer ? layer->filled() : std::array<double, 4>{};
    if (!(box[2] > box[0]) || !(box[3] > box[1])) return;
    PlaneView seen;
    seen.frameWidth = view.frameWidth;
    seen.frameHeight = view.frameHeight;
    seen.scale = kAcross / std::max(view.frameWidth, view.frameHeight);
    seen.width = std::max(1, static_cast<int>(std::lround(view.frameWidth * seen.scale)));
    seen.height = std::max(1, static_cast<int>(std::lround(view.frameHeight * seen.scale)));
    scale_ = seen.scale;
    plane_ = wholePlane(*layer->pull(seen), seen.width, seen.height);
  }
  /// 0 to 1; of what is not there 0, and one half where there is no layer at all.
  [[nodiscard]] double at(Point p) const {
    if (plane_.width() == 0) return 0.5;
    const auto whole = [](double v, int most) { return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most - 1))); };
    const float* const pixel = plane_.row(whole(p.y * scale_, plane_.height())) +
                               static_cast<std::ptrdiff_t>(whole(p.x * scale_, plane_.width())) * plane_.channels();
    if (plane_.channels() == 1) return std::clamp(static_cast<double>(pixel[0]), 0.0, 1.0);
    // Rec. ITU-R BT.709, on premultiplied values as they are shown.
    return std::clamp(
        0.2126 * static_cast<double>(pixel[0]) + 0.7152 * static_cast<double>(pixel[1]) + 0.0722 * static_cast<double>(pixel[2]), 0.0, 1.0);
  }

 private:
  static constexpr double kAcross = 192;
  Plane plane_;
  double scale_ = 1;
};

}  // namespace oa
