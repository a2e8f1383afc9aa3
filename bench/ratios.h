// Ratios between two pieces of work, measured by turns in one run.
#pragma once

#include <functional>
#include <string>
#include <vector>

namespace oa::bench {

/// Seconds of the quickest of `rounds` runs.
double quickest(const std::function<void()>& work, int rounds);

/// The value in the middle, of at least one: of the ratios of pairs of runs that followed each other it moves by 2 % where others are at
/// work on the machine, when the ratio of the two quickest moves by 12 %.
double middle(std::vector<double> values);

/// Runs both by turns `rounds` times, each one first as often as the other, and returns the middle of the ratios a / b of each turn.
double ratio(const std::function<void()>& a, const std::function<void()>& b, int rounds);

/// Prints one line and remembers whether the aim was met.
void report(const std::string& what, double value, double aim, bool atLeast);
/// True while every reported aim was met.
bool allMet();

/// Makes `value` count as used, so that the work behind it is not removed.
void keep(const void* value);

}  // namespace oa::bench
