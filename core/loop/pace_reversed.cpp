#include "loop/pace_reversed.h"

#include <algorithm>
#include <cmath>

namespace oa {
namespace {

// A pace that has a name has the name's own numbers on its way back as well.
double counterpart(double share) { return std::round((1 - share) * 1e9) / 1e9; }
double held(double done) { return std::clamp(counterpart(done), -4.0, 4.0); }

// Steps tell what they are as CSS alone: back, what jumped at an end jumps at the beginning.
Pace reversedSteps(const Pace& pace) {
  std::string css = pace.css();
  const auto swap = [&](std::string_view from, std::string_view to) {
    const auto at = css.find(from);
    if (at != std::string::npos) css.replace(at, from.size(), to);
    return at != std::string::npos;
  };
  if (!swap("start", "end")) swap("end", "start");
  return Pace::fromCss(css).value_or(pace);
}

}  // namespace

Pace reversed(const Pace& pace) {
  if (pace.kind() == Pace::Kind::Steps) return reversedSteps(pace);
  if (pace.kind() == Pace::Kind::Bezier) {
    const auto& p = pace.bezier();
    return Pace::fromBezier(counterpart(p[2]), held(p[3]), counterpart(p[0]), held(p[1])).value_or(pace);
  }
  std::vector<PaceStop> stops;
  for (auto stop = pace.stops().rbegin(); stop != pace.stops().rend(); ++stop) stops.push_back({counterpart(stop->at), held(stop->done)});
  return Pace::fromLines(std::move(stops)).value_or(pace);
}

}  // namespace oa
