// A motion that is written down: a formula of the share of the lap.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <string_view>

#include "base/result.h"

namespace oa {

inline constexpr std::size_t kMostFormulaBytes = 240;
/// A formula goes no further than so many times the way to the far end.
inline constexpr double kFormulaReach = 16;

/// What is done to a formula so that it ends where it begins.
enum class FormulaClosing {
  Open,          ///< nothing
  Level,         ///< tilted by what its end is higher than its beginning
  Blend,         ///< its last quarter runs over into what comes before its beginning: smooth, where the formula is there too
  ThereAndBack,  ///< run through to its end and back again, at rest at both
};
Result<FormulaClosing> formulaClosingFromName(std::string_view name);
std::string_view formulaClosingName(FormulaClosing closing);
std::span<const std::string_view> formulaClosingNames();

/// How a formula meets itself at the joint.
struct FormulaJoint {
  double jump = 0;      ///< how much higher its end is than its beginning
  bool corner = false;  ///< it meets itself, but not in its slope
  [[nodiscard]] bool jumps() const;
};

/// A formula of `t`, the share of the lap from 0 to 1, and `angle`, that in radians; its value is a share of the way to the far end.
/// Expressions as muParser reads them: + - * / ^, comparisons, ?:, sin and other functions, and those in functions().
/// It is worked out once, at 4096 places, when it is first asked for, and read between them in straight lines. Copies share that.
class Formula {
 public:
  /// A wave.
  Formula();
  /// Errors say what is wrong and where. A formula that is no number somewhere on the lap is refused.
  static Result<Formula> fromText(std::string_view text, FormulaClosing closing = FormulaClosing::Open);

  [[nodiscard]] const std::string& text() const;
  [[nodiscard]] FormulaClosing closing() const;
  /// The same text closed otherwise; refused where what that needs is no number.
  [[nodiscard]] Result<Formula> closed(FormulaClosing closing) const;
  /// At share `u` of the lap, [0, 1]; within +-kFormulaReach.
  [[nodiscard]] double at(double u) const;
  /// How it meets itself once it is closed.
  [[nodiscard]] FormulaJoint joint() const;
  /// The furthest that it goes.
  [[nodiscard]] double most() const;
  bool operator==(const Formula& other) const { return text() == other.text() && closing() == other.closing(); }

  struct Function {
    std::string_view name;
    std::string_view help;
  };
  /// What a formula may say, for those who write one.
  static std::span<const Function> functions();

 private:
  struct State;
  explicit Formula(std::shared_ptr<const State> state) : state_(std::move(state)) {}
  std::shared_ptr<const State> state_;
};

}  // namespace oa
