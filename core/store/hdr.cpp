#include "store/hdr.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "image/colour.h"

namespace oa {
namespace {

// By the square root of light, in which dark tones lie far enough apart.
class EncodeTable {
 public:
  EncodeTable() : values_(kEntries + 1) {
    for (int i = 0; i <= kEntries; ++i) {
      const double root = static_cast<double>(i) / kEntries;
      values_[static_cast<std::size_t>(i)] = srgbEncode(root * root) * 65535;
    }
  }
  [[nodiscard]] std::uint16_t operator()(double light) const {
    const double at = std::sqrt(std::clamp(light, 0.0, 1.0)) * kEntries;
    const int i = std::min(static_cast<int>(at), kEntries - 1);
    const double low = values_[static_cast<std::size_t>(i)];
    return static_cast<std::uint16_t>(std::lround(low + (values_[static_cast<std::size_t>(i) + 1] - low) * (at - i)));
  }

 private:
  static constexpr int kEntries = 4096;
  std::vector<double> values_;
};

}  // namespace

bool isHdr(const AVFrame& frame) { return frame.color_trc == AVCOL_TRC_SMPTE2084 || frame.color_trc == AVCOL_TRC_ARIB_STD_B67; }

double displayed(double light) {
  constexpr double kKnee = 0.6;
  constexpr double kPeak = (1000 / kReferenceWhite - kKnee) / (1 - kKnee);
  if (light <= kKnee) return std::max(0.0, light);
  const double over = (light - kKnee) / (1 - kKnee);
  return std::min(1.0, kKnee + (1 - kKnee) * over * (1 + over / (kPeak * kPeak)) / (1 + over));
}

void displayRow(const float* red, const float* green, const float* blue, int n, std::uint16_t* rgb, int channels) {
  static const EncodeTable encode;
  const float* const in[3] = {red, green, blue};
  for (int x = 0; x < n; ++x) {
    double most = 0;
    for (const float* channel : in) most = std::max(most, static_cast<double>(channel[x]));
    const double times = most > 0 ? displayed(most) / most : 0;
    for (int c = 0; c < 3; ++c) rgb[static_cast<std::ptrdiff_t>(x) * channels + c] = encode(static_cast<double>(in[c][x]) * times);
  }
}

}  // namespace oa
