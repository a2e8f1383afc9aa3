// Pictures in one colour.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace oa {

/// A straight colour, as it is shown.
using Tint = std::array<float, 3>;

/// Whether premultiplied colours are all shares of one.
class CommonTint {
 public:
  void add(const std::array<float, 4>& colour) {
    const float alpha = colour[3];
    // What hardly covers anything says too little of its colour, and so does what is no colour.
    constexpr float kFaint = 1e-4f;
    if (!(alpha > kFaint) || alpha > 1) {
      one_ = one_ && alpha == 0 && colour[0] == 0 && colour[1] == 0 && colour[2] == 0;
      return;
    }
    if (!tint_) tint_ = Tint{colour[0] / alpha, colour[1] / alpha, colour[2] / alpha};
    // As much as dividing leaves.
    constexpr float kRounding = 1e-6f;
    for (std::size_t c = 0; c < 3; ++c) one_ = one_ && std::abs(colour[c] - alpha * (*tint_)[c]) <= kRounding * alpha;
  }
  [[nodiscard]] std::optional<Tint> tint() const { return one_ ? tint_ : std::nullopt; }

 private:
  std::optional<Tint> tint_;
  bool one_ = true;
};

/// That of one premultiplied colour.
inline std::optional<Tint> tintOf(const std::array<float, 4>& colour) {
  CommonTint one;
  one.add(colour);
  return one.tint();
}

}  // namespace oa
