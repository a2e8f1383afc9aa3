#include "image/even_light.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include "base/numbers.h"

namespace oa {
namespace {

double smooth(double t) { return t * t * (3 - 2 * t); }

// Rec. 709 weights on display values.
double lightOf(const float* p) {
  return 0.2126 * static_cast<double>(p[0]) + 0.7152 * static_cast<double>(p[1]) + 0.0722 * static_cast<double>(p[2]);
}

// The cells on both sides of a place, counted in cells, and how far it lies from the first.
struct Between {
  int first;
  int second;
  double share;
  Between(double at, int count)
      : first(std::clamp(static_cast<int>(std::floor(at)), 0, count - 1)),
        second(std::clamp(static_cast<int>(std::floor(at)) + 1, 0, count - 1)),
        share(smooth(at - std::floor(at))) {}
};

}  // namespace

EvenLight::EvenLight(const std::vector<const Plane*>& pictures, double even) : gains_(kAcross * kDown) {
  std::vector<double> light(gains_.size());
  std::vector<double> alpha(gains_.size());
  double whole = 0;
  double covered = 0;
  for (const Plane* picture : pictures)
    for (int y = 0; y < picture->height(); ++y)
      for (int x = 0; x < picture->width(); ++x) {
        const float* const p = picture->row(y) + static_cast<std::ptrdiff_t>(x) * 4;
        const std::size_t cell = static_cast<std::size_t>(y * std::int64_t{kDown} / picture->height()) * kAcross +
                                 static_cast<std::size_t>(x * std::int64_t{kAcross} / picture->width());
        light[cell] += lightOf(p);
        alpha[cell] += static_cast<double>(p[3]);
        whole += lightOf(p);
        covered += static_cast<double>(p[3]);
      }
  const double mean = covered > 0 ? whole / covered : 0;
  for (std::size_t i = 0; i < gains_.size(); ++i) {
    const double own = alpha[i] > 1e-6 ? light[i] / alpha[i] : mean;
    gains_[i] = std::pow(std::clamp(mean / std::max(0.02, own), 0.4, 2.5), even);
  }
}

void EvenLight::gains(double down, int width, float* out) const {
  const Between rows(down * kDown - 0.5, kDown);
  std::array<double, kAcross> cells{};
  for (int i = 0; i < kAcross; ++i)
    cells[static_cast<std::size_t>(i)] = mix(gains_[static_cast<std::size_t>(rows.first * kAcross + i)],
                                             gains_[static_cast<std::size_t>(rows.second * kAcross + i)], rows.share);
  for (int x = 0; x < width; ++x) {
    const Between columns((x + 0.5) * kAcross / width - 0.5, kAcross);
    out[x] = static_cast<float>(
        mix(cells[static_cast<std::size_t>(columns.first)], cells[static_cast<std::size_t>(columns.second)], columns.share));
  }
}

void multiplyColours(const float* in, const float* gains, int n, float* out) {
  for (int x = 0; x < n; ++x) {
    const float* const p = in + static_cast<std::ptrdiff_t>(x) * 4;
    float* const to = out + static_cast<std::ptrdiff_t>(x) * 4;
    for (int c = 0; c < 3; ++c) to[c] = std::min(p[3], p[c] * gains[x]);
    to[3] = p[3];
  }
}

}  // namespace oa
