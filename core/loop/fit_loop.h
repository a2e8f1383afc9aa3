// Loop lengths at which several wanted rhythms all come home, and rates that come out as whole laps.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "base/rational.h"
#include "base/result.h"

namespace oa {

/// A length at which every rhythm makes whole laps.
struct LoopFit {
  std::int64_t frames = 1;
  std::vector<int> laps;  ///< of each rhythm, 1 and more
  double off = 0;         ///< how far the one that fits worst is off, as a share of its period
};

/// Lengths of at most `longest` seconds at which each of the periods (seconds, above 0) is off by at most `tolerance` of itself: the
/// shortest first, and then each that fits better than all shorter ones. Empty where there is none. Both ends are what can be had: the
/// first is the shortest loop, the last one the truest.
std::vector<LoopFit> fitLoop(const std::vector<double>& periods, const Rational& rate, double tolerance, double longest);

/// Of those, without the ones that save next to nothing: each that is left is more than a twentieth shorter than any that fits better.
std::vector<LoopFit> worthChoosing(const std::vector<LoopFit>& fits);

/// How fast something is wanted to go, as people say it.
struct Rate {
  enum class Of {
    Period,  ///< seconds for a lap
    Speed,   ///< of its own unit in a second
    Beats,   ///< beats for a lap
    Frames,  ///< frames for a lap
  } of = Of::Period;
  double amount = 1;  ///< above 0
};
/// "2 s", "every 2.5 s", "1 turn in 40 s", "120 px/s", "90 °/s", "12/min", "0.5 Hz", "4 beats", "2 bars", "48 frames"; a comma may be the
/// decimal point. `bar`: beats of a bar. What cannot be read is an error that says what can.
Result<Rate> rateFromText(std::string_view text, int bar = 4);

/// What a rate comes to.
struct LapsFit {
  int laps = 1;        ///< nearest whole laps, 1 to `most`
  double seconds = 1;  ///< that a lap takes then
  double off = 0;      ///< how much longer or shorter that is than what was asked for, as a share of it
  /// The frames of the nearest loop, of whole frames, in which so many laps are what was asked for.
  std::int64_t frames = 1;
};
/// `way`: what a lap goes through, in the value's own unit; above 0 for speeds. `beats`: of the loop, above 0 for beats. An error where
/// the rate asks for what is not there.
Result<LapsFit> lapsFor(const Rate& wanted, std::int64_t frames, const Rational& rate, double way, int beats, int most);

}  // namespace oa
