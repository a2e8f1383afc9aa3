// Pace: how a lap hurries and rests. Easing as in CSS Easing Functions Level 1 and 2.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace oa {

inline constexpr std::size_t kMaxPaceStops = 128;
inline constexpr int kMaxPaceSteps = 1000;

/// A point of a pace made of straight lines.
struct PaceStop {
  double at = 0;    ///< share of the time, [0, 1]
  double done = 0;  ///< share of the way, within [-4, 4]
  bool operator==(const PaceStop&) const = default;
};

/// When steps go up: at the end of each part of the time, at its beginning, in neither the first nor the last moment, or in both.
enum class StepJump { End, Start, None, Both };

/// A cubic Bézier timing function through (0,0), (x1,y1), (x2,y2), (1,1); or straight lines from stop to stop; or steps.
/// Source: W3C CSS Easing Functions Level 2, sections 2.2 (cubic-bezier), 2.3 (steps) and 2.4 (linear). x1 and x2 lie in [0, 1];
/// y1 and y2 may overshoot (here: within [-4, 4]).
class Pace {
 public:
  enum class Kind { Bezier, Lines, Steps };
  Pace() = default;

  /// One of the names in names(): linear, ease, ease-in, ease-out, ease-in-out.
  static Result<Pace> fromName(std::string_view name);
  static Result<Pace> fromBezier(double x1, double y1, double x2, double y2);
  /// Straight lines, 2 to kMaxPaceStops stops in order from (0, 0) to (1, 1): a lap must come to where it began.
  static Result<Pace> fromLines(std::vector<PaceStop> stops);
  /// 1 to kMaxPaceSteps steps, for StepJump::None 2 at least.
  static Result<Pace> fromSteps(int count, StepJump jump);
  /// What CSS writes: a name, cubic-bezier(…), linear(…), steps(…), step-start, step-end; a semicolon behind it, or the property's
  /// name and a colon before it, are passed over. Errors say what is missing.
  static Result<Pace> fromCss(std::string_view text);
  static const std::vector<std::string>& names();

  /// Springs there and past it so many times, each swing smaller than the one before: `bounces` 1 to 8, `hold` how much of a swing is
  /// left in the next, 0.05 to 0.9.
  static Pace spring(int bounces, double hold);
  /// Falls there and is thrown back, `bounces` times (1 to 8), each as high as `hold` of the one before (0.05 to 0.9).
  static Pace bounce(int bounces, double hold);

  /// The share of the way done at share `u` of the time; 1 at 1 and, but for steps that begin with a jump, 0 at 0.
  [[nodiscard]] double at(double u) const;
  [[nodiscard]] Kind kind() const { return steps_ > 0 ? Kind::Steps : stops_.empty() ? Kind::Bezier : Kind::Lines; }
  [[nodiscard]] const std::array<double, 4>& bezier() const { return p_; }
  [[nodiscard]] const std::vector<PaceStop>& stops() const { return stops_; }
  [[nodiscard]] bool isLinear() const { return kind() == Kind::Bezier && p_[0] == p_[1] && p_[2] == p_[3]; }
  /// The CSS name, or empty where it has none.
  [[nodiscard]] std::string name() const;
  /// As CSS writes it; fromCss() reads it back to the same pace.
  [[nodiscard]] std::string css() const;
  bool operator==(const Pace&) const = default;

 private:
  std::array<double, 4> p_{0, 0, 1, 1};
  std::vector<PaceStop> stops_;  // not empty: straight lines
  int steps_ = 0;                // above 0: steps
  StepJump jump_ = StepJump::End;
};

}  // namespace oa
