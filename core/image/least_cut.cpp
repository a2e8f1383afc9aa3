#include "image/least_cut.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstdlib>
#include <limits>

namespace oa {
namespace {

double smooth(double t) { return t * t * (3 - 2 * t); }

}  // namespace

std::vector<int> leastCut(const std::vector<float>& cost, int band, int lines, bool closed) {
  std::vector<float> sum(static_cast<std::size_t>(band));
  std::vector<float> next(static_cast<std::size_t>(band));
  std::vector<std::int8_t> from(cost.size());
  const auto run = [&](int start) {
    for (int x = 0; x < band; ++x)
      sum[static_cast<std::size_t>(x)] =
          start < 0 || x == start ? cost[static_cast<std::size_t>(x)] : std::numeric_limits<float>::infinity();
    for (int line = 1; line < lines; ++line) {
      const std::size_t row = static_cast<std::size_t>(line) * static_cast<std::size_t>(band);
      for (int x = 0; x < band; ++x) {
        const auto at = static_cast<std::size_t>(x);
        std::int8_t way = 0;
        float best = sum[at];
        if (x > 0 && sum[at - 1] < best) {
          best = sum[at - 1];
          way = -1;
        }
        if (x + 1 < band && sum[at + 1] < best) {
          best = sum[at + 1];
          way = 1;
        }
        from[row + at] = way;
        next[at] = best + cost[row + at];
      }
      std::swap(sum, next);
    }
    std::vector<int> path(static_cast<std::size_t>(lines));
    int x = start >= 0 ? start : static_cast<int>(std::min_element(sum.begin(), sum.end()) - sum.begin());
    for (int line = lines - 1; line >= 0; --line) {
      path[static_cast<std::size_t>(line)] = x;
      if (line > 0) x += from[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)];
    }
    return path;
  };
  std::vector<int> path = run(-1);
  // Home by the place where the free way is in its middle.
  if (closed && std::abs(path.front() - path.back()) > 1) path = run(path[static_cast<std::size_t>(lines / 2)]);
  return path;
}

void keepRoom(std::vector<float>& cost, int band, int lines, double soft) {
  // More than any way through the free places can cost: four channels, each squared, in several pictures.
  constexpr float kClosed = 1e6F;
  const int room = std::clamp(static_cast<int>(std::ceil(0.5 * soft * band)), 1, (band - 1) / 2);
  for (int line = 0; line < lines; ++line)
    for (int x = 0; x < room; ++x)
      for (const int place : {x, band - 1 - x})
        cost[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(place)] += kClosed;
}

double cutShare(double x, double cut, double band, double soft) {
  const double by = std::min({std::max(0.5, 0.5 * soft * band), cut, band - 1 - cut});
  return 1 - smooth(std::clamp((x - cut) / (2 * std::max(0.5, by)) + 0.5, 0.0, 1.0));
}

double fadeShare(double x, double band) { return 1 - smooth(std::clamp((x + 0.5) / band, 0.0, 1.0)); }

float pixelDifference(const float* a, const float* b) {
  float sum = 0;
  for (int c = 0; c < 4; ++c) sum += (a[c] - b[c]) * (a[c] - b[c]);
  return sum;
}

}  // namespace oa
