#include "loop/random_walk.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "base/random.h"

namespace oa {

double wanderAt(std::uint64_t seed, int knots, double u) {
  const auto n = static_cast<std::size_t>(std::clamp(knots, 2, kMaxKnots));
  std::array<double, kMaxKnots> y;
  // Without a branch, for nothing foretells which way it would go.
  double base = 1;
  double most = 0;
  for (std::size_t j = 0; j < n; ++j) {
    y[j] = randomUnit(seed, j);
    base = std::min(base, y[j]);
    most = std::max(most, y[j]);
  }
  const double scale = 1 / std::max(1e-9, most - base);
  for (std::size_t j = 0; j < n; ++j) y[j] = (y[j] - base) * scale;
  const double place = fract(u) * static_cast<double>(n);
  const auto i = std::min(static_cast<std::size_t>(place), n - 1);
  const std::size_t next = i + 1 < n ? i + 1 : 0;
  // Curvatures m of the periodic spline with knots one apart: m[j-1] + 4 m[j] + m[j+1] = 6 (y[j+1] - 2 y[j] + y[j-1]). What a right
  // side of 1 at one knot gives at another that lies k away is (z^k + z^(n-k)) / (1 - z^n) / (4 + 2 z), z = sqrt(3) - 2: the
  // answer on an endless line, folded up. Only the two at the ends of the interval are needed.
  constexpr double kZ = std::numbers::sqrt3 - 2;
  static constexpr auto power = [] {
    std::array<double, kMaxKnots + 1> made{1};
    for (std::size_t k = 1; k < made.size(); ++k) made[k] = made[k - 1] * kZ;
    return made;
  }();
  double m[2] = {0, 0};
  for (std::size_t j = 0; j < n; ++j) {
    const double right = 6 * (y[j + 1 < n ? j + 1 : 0] - 2 * y[j] + y[j > 0 ? j - 1 : n - 1]);
    const std::size_t here = j >= i ? j - i : i - j;
    const std::size_t there = j >= next ? j - next : next - j;
    m[0] += right * (power[here] + power[n - here]);
    m[1] += right * (power[there] + power[n - there]);
  }
  const double whole = 1 / ((1 - power[n]) * (4 + 2 * kZ));
  const double b = place - static_cast<double>(i);
  const double a = 1 - b;
  return a * y[i] + b * y[next] + ((a * a * a - a) * m[0] + (b * b * b - b) * m[1]) * whole / 6;
}

int hopAt(int count, double u) {
  // A share that should be a whole multiple may lie a rounding error below it.
  return std::clamp(static_cast<int>(std::floor(fract(u) * count + 1e-9)), 0, std::max(0, count - 1));
}

double hopHeight(std::uint64_t seed, int count, int index) {
  if (count < 2) return 0;
  count = std::min(count, kMaxKnots);
  // Heights in their order, shuffled (D. E. Knuth, "The Art of Computer Programming", volume 2, algorithm P): from the last to the second
  // each changes places with one up to itself. Where the one that is asked for came from is found from the last change back.
  int from = index;
  for (int i = 1; i < count; ++i) {
    const int other = static_cast<int>(randomUnit(seed, static_cast<std::size_t>(i)) * (i + 1));
    from = from == i ? other : from == other ? i : from;
  }
  return static_cast<double>(from) / (count - 1);
}

int evenHops(std::int64_t frames, std::int64_t laps, int count) {
  laps = std::abs(laps);
  for (int away = 0; away < count; ++away)
    for (const int candidate : {count - away, count + away})
      if (candidate >= 1 && candidate <= kMaxKnots && frames % (laps * candidate) == 0) return candidate;
  return 1;
}

}  // namespace oa
