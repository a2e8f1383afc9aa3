#include "edit/closed_curve.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace oa::edit {
namespace {

constexpr double kLeftOut = 0.1;  // of the lap, for the way from the end of a gesture to its beginning
constexpr double kSlopeOver = 0.02;

double valueAt(const std::vector<Sample>& samples, double at) {
  const auto after = std::lower_bound(samples.begin(), samples.end(), at, [](const Sample& s, double t) { return s.at < t; });
  if (after == samples.begin()) return samples.front().value;
  if (after == samples.end()) return samples.back().value;
  const auto before = after - 1;
  const double span = after->at - before->at;
  return span > 0 ? before->value + (after->value - before->value) * (at - before->at) / span : after->value;
}

double hermite(double a, double slopeA, double b, double slopeB, double length, double u) {
  const double v = 1 - u;
  return a * v * v * (1 + 2 * u) + b * u * u * (1 + 2 * v) + length * u * v * (slopeA * v - slopeB * u);
}

// The lap that is to be told, and what is known of it.
struct Lap {
  const std::vector<double>& values;
  std::vector<double> slopes;  // in values a lap; 0 where it turns round
  int n;
  explicit Lap(const std::vector<double>& all);
  [[nodiscard]] double value(int i) const { return values[static_cast<std::size_t>(i % n)]; }
  [[nodiscard]] double slope(int i) const { return slopes[static_cast<std::size_t>(i % n)]; }
};

Lap::Lap(const std::vector<double>& all) : values(all), n(static_cast<int>(all.size())) {
  const int reach = std::max(1, static_cast<int>(kSlopeOver * n));
  const auto at = [&](int i) { return values[static_cast<std::size_t>((i % n + n) % n)]; };
  for (int i = 0; i < n; ++i) {
    // The least-squares slope over a few places each side, so that a trembling hand does not shake it.
    double sum = 0;
    double weight = 0;
    for (int k = -reach; k <= reach; ++k) {
      sum += k * at(i + k);
      weight += static_cast<double>(k) * k;
    }
    slopes.push_back(sum / weight * n);
  }
}

// A stretch from place i to place j (i < j <= i + n).
struct Stretch {
  Pace pace;
  double off = 0;
  int worst = 0;
};

Stretch stretchOf(const Lap& lap, int i, int j) {
  const double a = lap.value(i);
  const double way = lap.value(j) - a;
  const double length = static_cast<double>(j - i) / lap.n;
  Stretch stretch;
  stretch.worst = (i + j) / 2;
  if (std::abs(way) > 1e-12) {
    const double y1 = lap.slope(i) * length / 3 / way;
    const double y2 = 1 - lap.slope(j) * length / 3 / way;
    // More than a pace can overshoot would break its speed: such a stretch is divided.
    if (std::abs(y1) > 4 || std::abs(y2) > 4)
      stretch.off = 1e300;
    else
      stretch.pace = Pace::fromBezier(1.0 / 3, y1, 2.0 / 3, y2).value_or(Pace());
  } else if (j - i > 1 && (lap.slope(i) != 0 || lap.slope(j) != 0)) {
    stretch.off = 1e300;
  }
  if (stretch.off > 0) return stretch;
  for (int k = i + 1; k < j; ++k) {
    const double off = std::abs(a + way * stretch.pace.at(static_cast<double>(k - i) / (j - i)) - lap.value(k));
    if (off > stretch.off) {
      stretch.off = off;
      stretch.worst = k;
    }
  }
  return stretch;
}

// How far off the curve through `knots` is, and where most.
Stretch worstOf(const Lap& lap, const std::vector<int>& knots) {
  Stretch worst;
  worst.off = -1;
  for (std::size_t k = 0; k < knots.size(); ++k) {
    const int next = k + 1 < knots.size() ? knots[k + 1] : knots[0] + lap.n;
    if (const Stretch each = stretchOf(lap, knots[k], next); each.off > worst.off && next - knots[k] > 1) worst = each;
  }
  return worst;
}

}  // namespace

std::vector<double> closedLap(const std::vector<Sample>& samples, std::size_t points) {
  if (samples.empty() || points == 0) return {};
  const double end = samples.back().at;
  const double begin = std::max(samples.front().at, end - (1 - kLeftOut));
  const double length = end - begin;
  // Speed where it leaves and where it comes back, told over a moment, and never so high that the way between swings out far.
  const double moment = std::min(0.03, length / 2);
  const auto speed = [&](double from, double to) { return to > from ? (valueAt(samples, to) - valueAt(samples, from)) / (to - from) : 0; };
  const double leaves = moment > 0 ? speed(end - moment, end) : 0;
  const double comes = moment > 0 ? speed(begin, begin + moment) : 0;
  const double from = valueAt(samples, end);
  const double to = valueAt(samples, begin);
  const double rest = 1 - length;
  const auto n = static_cast<double>(points);
  std::vector<double> lap;
  for (std::size_t i = 0; i < points; ++i) {
    // Behind the beginning of the gesture, in laps.
    const double behind = fract(static_cast<double>(i) / n - begin);
    lap.push_back(behind <= length ? valueAt(samples, begin + behind) : hermite(from, leaves, to, comes, rest, (behind - length) / rest));
  }
  return lap;
}

FewKeys fewKeys(const std::vector<double>& values, double tolerance) {
  FewKeys few;
  if (values.size() < 4) return few;
  const auto [least, most] = std::minmax_element(values.begin(), values.end());
  Lap lap(values);
  std::vector<int> knots{static_cast<int>(least - values.begin())};
  lap.slopes[static_cast<std::size_t>(knots[0])] = 0;
  if (*most - *least > tolerance) {
    knots.push_back(static_cast<int>(most - values.begin()));
    lap.slopes[static_cast<std::size_t>(knots[1])] = 0;
    std::sort(knots.begin(), knots.end());
    for (Stretch worst = worstOf(lap, knots); worst.off > tolerance && knots.size() < kMaxKeyframes; worst = worstOf(lap, knots)) {
      const int knot = worst.worst % lap.n;
      knots.insert(std::upper_bound(knots.begin(), knots.end(), knot), knot);
    }
    // Those that later ones made superfluous.
    for (std::size_t k = knots.size(); k-- > 0 && knots.size() > 2;) {
      std::vector<int> without = knots;
      without.erase(without.begin() + static_cast<std::ptrdiff_t>(k));
      if (worstOf(lap, without).off <= tolerance) knots = std::move(without);
    }
  }
  for (std::size_t k = 0; k < knots.size(); ++k) {
    const int next = k + 1 < knots.size() ? knots[k + 1] : knots[0] + lap.n;
    const Stretch stretch = knots.size() > 1 ? stretchOf(lap, knots[k], next) : Stretch();
    Keyframe key;
    key.at = static_cast<double>(knots[k]) / lap.n;
    key.value = lap.value(knots[k]);
    key.pace = stretch.pace;
    few.keys.push_back(std::move(key));
    few.off = std::max(few.off, stretch.off);
  }
  if (knots.size() == 1) few.off = *most - *least;
  return few;
}

}  // namespace oa::edit
