#include "image/blur_axis.h"

#include <algorithm>
#include <cmath>

#include "image/blur.h"
#include "image/sampling.h"

namespace oa {
namespace {

constexpr double kLeastThinned = 3;

}  // namespace

BlurAxis::BlurAxis(int pixels, double sigma, int pixelsGiven) : size(pixels), given(pixelsGiven), read(pixels / pixelsGiven) {
  sigma = std::clamp(sigma, 0.0, kMaxSigma);
  while (sigma / (given * box) >= 8) box *= 2;
  while (sigma / (given * box * thin) >= 2.5 && given * box * thin < 2048) thin *= 2;
  if (sigma < kLeastThinned) thin = 1;  // few taps, so done exactly
  factor = given * box * thin;
  double left = sigma;
  if (factor > 1) {
    const double f2 = static_cast<double>(factor) * factor;
    const double boxed = static_cast<double>(given) * box;
    double variance = sigma * sigma / f2 - (boxed * boxed - 1) / (12 * f2) - 1.0 / 3;
    if (given > 1) variance -= given * given / (3 * f2);
    for (int step = given * box; step < factor; step *= 2) variance -= 0.75 * step * step / f2;
    left = std::sqrt(variance);
    keep = 2;
    // Cubics between places 0.45 standard deviations apart miss a blurred edge by less than 0.0003 of its height.
    apart = sigma / factor >= 1.85 ? factor : factor / 2;
  }
  thinTaps = {1};
  for (int spread = 1; spread < thin; spread *= 2) {
    std::vector<float> next(thinTaps.size() + static_cast<std::size_t>(3 * spread), 0.0f);
    const float kernel[4] = {0.125f, 0.375f, 0.375f, 0.125f};
    for (std::size_t i = 0; i < thinTaps.size(); ++i)
      for (std::size_t k = 0; k < 4; ++k) next[i + k * static_cast<std::size_t>(spread)] += thinTaps[i] * kernel[k];
    thinTaps = std::move(next);
  }
  cells = (size + factor - 1) / factor;
  reach = left < 0.05 ? 0 : static_cast<int>(std::ceil(left * 3.5));
  pad = reach + keep;
  double sum = 0;
  std::vector<double> exact;
  for (int k = -reach; k <= reach; ++k) {
    exact.push_back(reach == 0 ? 1 : std::exp(-0.5 * k * k / (left * left)));
    sum += exact.back();
  }
  for (const double t : exact) taps.push_back(static_cast<float>(t / sum));
  if (factor == 1) return;
  for (int i = 0; i < factor; ++i) {
    // Place of the pixel's centre between the centres of two cells.
    double t = (i + 0.5) / factor - 0.5;
    if (t < 0) t += 1;
    double w[4];
    weightsOf(Cubic::Spline, t, w);
    for (int k = 0; k < 4; ++k) weights[k].push_back(static_cast<float>(w[k]));
  }
}

int givenMost(double sigma) { return sigma < kLeastThinned ? 1 : 2; }

int blurReach(double sigma, int given) {
  const BlurAxis axis(given, sigma, given);
  return axis.factor * (axis.pad + 1);
}

}  // namespace oa
