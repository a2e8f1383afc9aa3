#include "loop/random_walk.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/numbers.h"
#include "base/random.h"

namespace oa {

double wanderAt(std::uint64_t seed, int knots, double u) {
  const auto n = static_cast<std::size_t>(std::clamp(knots, 2, kMaxKnots));
  std::vector<double> y(n);
  for (std::size_t j = 0; j < n; ++j) y[j] = randomUnit(seed, j);
  const auto [low, high] = std::minmax_element(y.begin(), y.end());
  const double base = *low;
  const double range = std::max(1e-9, *high - *low);
  for (double& v : y) v = (v - base) / range;
  // Curvatures m of the periodic spline with knots one apart: m[j-1] + 4 m[j] + m[j+1] = 6 (y[j+1] - 2 y[j] + y[j-1]).
  // The system is strongly diagonal: 40 sweeps leave nothing in double precision.
  std::vector<double> m(n, 0.0);
  for (int sweep = 0; sweep < 40; ++sweep)
    for (std::size_t j = 0; j < n; ++j) {
      const std::size_t before = (j + n - 1) % n;
      const std::size_t after = (j + 1) % n;
      m[j] = (6 * (y[after] - 2 * y[j] + y[before]) - m[before] - m[after]) / 4;
    }
  const double place = fract(u) * static_cast<double>(n);
  const auto i = std::min(static_cast<std::size_t>(place), n - 1);
  const std::size_t next = (i + 1) % n;
  const double b = place - static_cast<double>(i);
  const double a = 1 - b;
  return a * y[i] + b * y[next] + ((a * a * a - a) * m[i] + (b * b * b - b) * m[next]) / 6;
}

int hopAt(int count, double u) {
  // A share that should be a whole multiple may lie a rounding error below it.
  return std::clamp(static_cast<int>(std::floor(fract(u) * count + 1e-9)), 0, std::max(0, count - 1));
}

double hopHeight(std::uint64_t seed, int count, int index) {
  if (count < 2) return 0;
  std::vector<int> order(static_cast<std::size_t>(count));
  std::iota(order.begin(), order.end(), 0);
  for (std::size_t i = order.size() - 1; i > 0; --i)
    std::swap(order[i], order[static_cast<std::size_t>(randomUnit(seed, i) * static_cast<double>(i + 1))]);
  return static_cast<double>(order[static_cast<std::size_t>(index)]) / (count - 1);
}

int evenHops(std::int64_t frames, std::int64_t laps, int count) {
  laps = std::abs(laps);
  for (int away = 0; away < count; ++away)
    for (const int candidate : {count - away, count + away})
      if (candidate >= 1 && candidate <= kMaxKnots && frames % (laps * candidate) == 0) return candidate;
  return 1;
}

}  // namespace oa
