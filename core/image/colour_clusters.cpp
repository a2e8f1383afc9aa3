#include "image/colour_clusters.h"

#include <algorithm>
#include <cmath>

#include "base/random.h"

namespace oa {
namespace {

constexpr int kRounds = 24;
constexpr std::uint64_t kSeed = 20;

// Each next middle is drawn with a chance that grows with the square of its distance from those there are.
std::vector<OkLab> firstMiddles(const std::vector<WeightedLab>& samples, int count) {
  std::vector<OkLab> middles{samples.front().lab};
  std::vector<double> away(samples.size(), 1e30);
  while (static_cast<int>(middles.size()) < count) {
    double total = 0;
    for (std::size_t i = 0; i < samples.size(); ++i) {
      away[i] = std::min(away[i], squaredDistance(samples[i].lab, middles.back()) * samples[i].weight);
      total += away[i];
    }
    // All that is left is there already.
    if (total < 1e-9) break;
    double drawn = randomUnit(kSeed, middles.size()) * total;
    std::size_t i = 0;
    while (i + 1 < samples.size() && drawn >= away[i]) drawn -= away[i++];
    middles.push_back(samples[i].lab);
  }
  return middles;
}

}  // namespace

double squaredDistance(const OkLab& a, const OkLab& b) {
  return (a.L - b.L) * (a.L - b.L) + (a.a - b.a) * (a.a - b.a) + (a.b - b.b) * (a.b - b.b);
}

std::size_t nearestMiddle(const std::vector<OkLab>& middles, const OkLab& lab) {
  std::size_t best = 0;
  double least = squaredDistance(middles[0], lab);
  for (std::size_t i = 1; i < middles.size(); ++i)
    if (const double away = squaredDistance(middles[i], lab); away < least) {
      least = away;
      best = i;
    }
  return best;
}

void settleMiddles(std::vector<OkLab>& middles, const std::vector<WeightedLab>& samples, int rounds) {
  for (int round = 0; round < rounds; ++round) {
    std::vector<WeightedLab> sums(middles.size(), {{}, 0});
    for (const WeightedLab& s : samples) {
      WeightedLab& sum = sums[nearestMiddle(middles, s.lab)];
      sum.lab.L += s.lab.L * s.weight;
      sum.lab.a += s.lab.a * s.weight;
      sum.lab.b += s.lab.b * s.weight;
      sum.weight += s.weight;
    }
    for (std::size_t i = 0; i < middles.size(); ++i)
      if (const double w = sums[i].weight; w > 0) middles[i] = {sums[i].lab.L / w, sums[i].lab.a / w, sums[i].lab.b / w};
  }
}

std::vector<Colour> mainColours(const std::vector<Colour>& pixels, int count) {
  std::vector<WeightedLab> samples;
  for (const Colour& c : pixels)
    if (c.a > 0) samples.push_back({toOkLab(c), static_cast<double>(c.a)});
  if (samples.empty() || count < 1) return {};
  std::vector<OkLab> middles = firstMiddles(samples, count);
  settleMiddles(middles, samples, kRounds);
  std::sort(middles.begin(), middles.end(), [](const OkLab& p, const OkLab& q) { return p.L < q.L; });
  std::vector<Colour> colours;
  colours.reserve(middles.size());
  for (const OkLab& lab : middles) colours.push_back(fromOkLab(lab));
  return colours;
}

}  // namespace oa
