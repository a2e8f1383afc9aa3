#include "ratios.h"

#include <benchmark/benchmark.h>

#include <algorithm>
#include <array>
#include <chrono>
#include <cstdio>
#include <fstream>

namespace oa::bench {
namespace {

bool met = true;

double seconds(const std::function<void()>& work) {
  const auto start = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

// Hundredths of a second that the host has taken from this machine's processors since it started; 0 where the system does not say.
long stolen() {
  std::ifstream stat("/proc/stat");
  std::string cpu;
  std::array<long, 8> ticks{};
  stat >> cpu;
  for (long& value : ticks) stat >> value;
  return ticks.back();
}

}  // namespace

double quickest(const std::function<void()>& work, int rounds) {
  double best = 1e9;
  for (int i = 0; i < rounds; ++i) best = std::min(best, seconds(work));
  return best;
}

void Pairs::take(const std::function<double()>& above, const std::function<double()>& below) {
  const long before = stolen();
  const bool aboveFirst = pairs_.size() % 2 == 0;
  const double first = aboveFirst ? above() : below();
  const double second = aboveFirst ? below() : above();
  pairs_.push_back({aboveFirst ? first / second : second / first, stolen() - before});
}

double Pairs::middle() const {
  std::vector<Pair> left = pairs_;
  std::stable_sort(left.begin(), left.end(), [](const Pair& a, const Pair& b) { return a.stolen < b.stolen; });
  left.resize(std::clamp<std::size_t>((left.size() + 2) / 3, 1, kBest));
  std::sort(left.begin(), left.end(), [](const Pair& a, const Pair& b) { return a.ratio < b.ratio; });
  return (left[(left.size() - 1) / 2].ratio + left[left.size() / 2].ratio) / 2;
}

bool Pairs::calm() const {
  return std::count_if(pairs_.begin(), pairs_.end(), [](const Pair& pair) { return pair.stolen == 0; }) >=
         static_cast<std::ptrdiff_t>(kBest);
}

double ratio(const std::function<void()>& a, const std::function<void()>& b, int rounds) {
  Pairs pairs;
  for (int i = 0; i < rounds; ++i) pairs.take([&] { return seconds(a); }, [&] { return seconds(b); });
  return pairs.middle();
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
