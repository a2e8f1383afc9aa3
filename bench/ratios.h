// Ratios between two pieces of work, measured by turns in one run.
#pragma once

#include <functional>
#include <string>
#include <vector>

namespace oa::bench {

/// Seconds of the quickest of `rounds` runs.
double quickest(const std::function<void()>& work, int rounds);

/// Ratios of pairs of runs that followed each other on a machine where others are at work as well.
class Pairs {
 public:
  /// Runs both and keeps the ratio of what they return.
  void take(const std::function<double()>& above, const std::function<double()>& below);
  /// The ratio in the middle of those pairs from which the host took the least time (steal in proc(5)): a third of them, and sixteen at
  /// most. Of the same work twice this moves by 2 %, where the ratio of the two quickest runs moves by 12 %.
  [[nodiscard]] double middle() const;
  /// True if from sixteen pairs next to nothing was taken: more will not help.
  [[nodiscard]] bool calm() const;

 private:
  static constexpr std::size_t kBest = 16;
  struct Pair {
    double ratio;
    long stolen;
  };
  std::vector<Pair> pairs_;
};

/// Runs both by turns `rounds` times, each one first as often as the other, and returns the middle of the ratios a / b.
double ratio(const std::function<void()>& a, const std::function<void()>& b, int rounds);

/// Prints one line and remembers whether the aim was met.
void report(const std::string& what, double value, double aim, bool atLeast);
/// True while every reported aim was met.
bool allMet();

/// Makes `value` count as used, so that the work behind it is not removed.
void keep(const void* value);

}  // namespace oa::bench
