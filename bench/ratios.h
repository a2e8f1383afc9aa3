// Ratios between two pieces of work, measured by turns in one run.
#pragma once

#include <functional>
#include <string>

namespace oa::bench {

/// Seconds of the quickest of `rounds` runs.
double quickest(const std::function<void()>& work, int rounds);

/// Runs both by turns `rounds` times and returns quickest(a) / quickest(b).
double ratio(const std::function<void()>& a, const std::function<void()>& b, int rounds);

/// Prints one line and remembers whether the aim was met.
void report(const std::string& what, double value, double aim, bool atLeast);
/// True while every reported aim was met.
bool allMet();

/// Makes `value` count as used, so that the work behind it is not removed.
void keep(const void* value);

}  // namespace oa::bench
