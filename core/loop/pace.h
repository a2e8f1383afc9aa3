// Pace: how a lap hurries and rests. Easing as in CSS Easing Functions Level 1.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace oa {

/// A cubic Bézier timing function through (0,0), (x1,y1), (x2,y2), (1,1).
/// Source: W3C CSS Easing Functions Level 1, section 2.2. x1 and x2 lie in [0, 1];
/// y1 and y2 may overshoot (here: within [-4, 4]).
class Pace {
 public:
  Pace() = default;

  /// One of the names in names(): linear, ease, ease-in, ease-out, ease-in-out.
  static Result<Pace> fromName(std::string_view name);
  static Result<Pace> fromBezier(double x1, double y1, double x2, double y2);
  static const std::vector<std::string>& names();

  /// The share of the way done at share `u` of the time; exactly 0 at 0 and 1 at 1.
  [[nodiscard]] double at(double u) const;
  [[nodiscard]] const std::array<double, 4>& bezier() const { return p_; }
  [[nodiscard]] bool isLinear() const { return p_[0] == p_[1] && p_[2] == p_[3]; }
  /// The CSS name, or empty where the curve is the user's own.
  [[nodiscard]] std::string name() const;
  bool operator==(const Pace&) const = default;

 private:
  std::array<double, 4> p_{0, 0, 1, 1};
};

}  // namespace oa
