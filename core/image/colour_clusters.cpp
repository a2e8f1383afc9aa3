#include "image/colour_clusters.h"

#include <algorithm>
#include <cmath>

#include "base/random.h"

namespace oa {
namespace {

constexpr int kRounds = 24;
constexpr std::uint64_t kSeed = 20;

double squared(const OkLab& p, const OkLab& q) { return (p.L - q.L) * (p.L - q.L) + (p.a - q.a) * (p.a - q.a) + (p.b - q.b) * (p.b - q.b); }

struct Sample {
  OkLab lab;
  double weight;
};

std::size_t nearest(const std::vector<OkLab>& middles, const OkLab& lab) {
  std::size_t best = 0;
  for (std::size_t i = 1; i < middles.size(); ++i)
    if (squared(middles[i], lab) < squared(middles[best], lab)) best = i;
  return best;
}

// Each next middle is drawn with a chance that grows with the square of its distance from those there are.
std::vector<OkLab> firstMiddles(const std::vector<Sample>& samples, int count) {
  std::vector<OkLab> middles{samples.front().lab};
  std::vector<double> away(samples.size(), 1e30);
  while (static_cast<int>(middles.size()) < count) {
    double total = 0;
    for (std::size_t i = 0; i < samples.size(); ++i) {
      away[i] = std::min(away[i], squared(samples[i].lab, middles.back()) * samples[i].weight);
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

std::vector<Colour> mainColours(const std::vector<Colour>& pixels, int count) {
  std::vector<Sample> samples;
  for (const Colour& c : pixels)
    if (c.a > 0) samples.push_back({toOkLab(c), static_cast<double>(c.a)});
  if (samples.empty() || count < 1) return {};
  std::vector<OkLab> middles = firstMiddles(samples, count);
  for (int round = 0; round < kRounds; ++round) {
    std::vector<OkLab> sums(middles.size());
    std::vector<double> weights(middles.size(), 0.0);
    for (const Sample& s : samples) {
      const std::size_t i = nearest(middles, s.lab);
      sums[i].L += s.lab.L * s.weight;
      sums[i].a += s.lab.a * s.weight;
      sums[i].b += s.lab.b * s.weight;
      weights[i] += s.weight;
    }
    for (std::size_t i = 0; i < middles.size(); ++i)
      if (weights[i] > 0) middles[i] = {sums[i].L / weights[i], sums[i].a / weights[i], sums[i].b / weights[i]};
  }
  std::sort(middles.begin(), middles.end(), [](const OkLab& p, const OkLab& q) { return p.L < q.L; });
  std::vector<Colour> colours;
  colours.reserve(middles.size());
  for (const OkLab& lab : middles) colours.push_back(fromOkLab(lab));
  return colours;
}

}  // namespace oa
