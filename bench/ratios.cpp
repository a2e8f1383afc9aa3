#include "ratios.h"

#include <benchmark/benchmark.h>

#include <algorithm>
#include <chrono>
#include <cstdio>

namespace oa::bench {
namespace {

bool met = true;

double seconds(const std::function<void()>& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

}  // namespace

double quickest(const std::function<void()>& work, int rounds) {
  double best = 1e9;
  for (int i = 0; i < rounds; ++i) best = std::min(best, seconds(work));
  return best;
}

double middle(std::vector<double> values) {
  std::sort(values.begin(), values.end());
  return (values[(values.size() - 1) / 2] + values[values.size() / 2]) / 2;
}

double ratio(const std::function<void()>& a, const std::function<void()>& b, int rounds) {
  std::vector<double> ratios;
  for (int i = 0; i < rounds; ++i) {
    const bool aFirst = i % 2 == 0;
    const double first = seconds(aFirst ? a : b);
    const double second = seconds(aFirst ? b : a);
    ratios.push_back(aFirst ? first / second : second / first);
  }
  return middle(ratios);
}

void report(const std::string& what, double value, double aim, bool atLeast) {
  const bool ok = atLeast ? value >= aim : value <= aim;
  met = met && ok;
  std::printf("%-78s %8.2f  (aim: at %s %.2f)%s\n", what.c_str(), value, atLeast ? "least" : "most", aim, ok ? "" : "  MISSED");
  std::fflush(stdout);
}

bool allMet() { return met; }

void keep(const void* value) { benchmark::DoNotOptimize(value); }

}  // namespace oa::bench
