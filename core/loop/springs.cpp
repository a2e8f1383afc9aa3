// Springs and bounces, as straight lines that come as near to them as can be seen.
#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

#include "loop/pace.h"

namespace oa {
namespace {

constexpr double kTolerance = 0.003;
constexpr int kFine = 512;

// The fewest lines that stay within the tolerance, by halving where they do not (U. Ramer 1972).
void split(const std::vector<PaceStop>& fine, std::size_t first, std::size_t last, std::vector<PaceStop>& out) {
  double most = 0;
  std::size_t farthest = first;
  for (std::size_t i = first + 1; i < last; ++i) {
    const double share = (fine[i].at - fine[first].at) / (fine[last].at - fine[first].at);
    const double off = std::abs(fine[first].done + (fine[last].done - fine[first].done) * share - fine[i].done);
    if (off > most) {
      most = off;
      farthest = i;
    }
  }
  if (most > kTolerance) {
    split(fine, first, farthest, out);
    split(fine, farthest, last, out);
  } else {
    out.push_back(fine[last]);
  }
}

Pace linesOf(const std::function<double(double)>& curve) {
  std::vector<PaceStop> fine;
  for (int i = 0; i <= kFine; ++i) {
    const double u = static_cast<double>(i) / kFine;
    fine.push_back({u, curve(u)});
  }
  fine.front() = {0, 0};
  fine.back() = {1, 1};
  std::vector<PaceStop> stops{fine.front()};
  split(fine, 0, fine.size() - 1, stops);
  return Pace::fromLines(std::move(stops)).value_or(Pace());
}

}  // namespace

Pace Pace::spring(int bounces, double hold) {
  bounces = std::clamp(bounces, 1, 8);
  hold = std::clamp(hold, 0.05, 0.9);
  // A damped swing: `bounces` half-waves beyond the first quarter, each `hold` times as high as the one before; what is left of it at
  // the end is taken away evenly, so that it rests there.
  const double halves = bounces + 0.5;
  const auto swing = [&](double u) { return std::pow(hold, u * halves) * std::cos(std::numbers::pi * u * halves); };
  return linesOf([&](double u) { return 1 - (1 - u) * swing(u); });
}

Pace Pace::bounce(int bounces, double hold) {
  bounces = std::clamp(bounces, 1, 8);
  hold = std::clamp(hold, 0.05, 0.9);
  // A fall, and throws that last as long as their height asks for: time goes with the root of the height.
  std::vector<double> lengths{1};
  for (int i = 1; i <= bounces; ++i) lengths.push_back(2 * std::sqrt(std::pow(hold, i)));
  double all = 0;
  for (const double length : lengths) all += length;
  return linesOf([&](double u) {
    double t = u * all;
    if (t <= lengths[0]) return t * t;
    t -= lengths[0];
    for (std::size_t i = 1; i < lengths.size(); ++i) {
      if (t <= lengths[i]) {
        const double off = 2 * t / lengths[i] - 1;
        return 1 - std::pow(hold, static_cast<double>(i)) * (1 - off * off);
      }
      t -= lengths[i];
    }
    return 1.0;
  });
}

}  // namespace oa
