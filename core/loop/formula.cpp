#include "loop/formula.h"

#include <muParser.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <mutex>
#include <numbers>
#include <vector>

#include "base/blanks.h"
#include "base/numbers.h"
#include "base/random.h"
#include "loop/random_walk.h"

namespace oa {
namespace {

constexpr int kPlaces = 4096;
constexpr int kTriedPlaces = 32;
constexpr double kBlended = 0.25;  // share of the lap that runs over into what comes before it

constexpr std::array<std::string_view, 4> kClosings = {"open", "level", "blend", "there and back"};

constexpr Formula::Function kFunctions[] = {
    {"t", "the share of the lap, from 0 to 1"},
    {"angle", "the same once round, from 0 to 2π: sin(angle) is a wave"},
    {"sin, cos, tan", "of an angle in radians"},
    {"asin, acos, atan", "the angle of a sine, cosine or tangent"},
    {"sqrt, exp, ln, abs, sign", "root, power of e, its inverse, size, sign"},
    {"floor, ceil, round, fract", "whole numbers, and what is left of them"},
    {"min, max", "the smallest and the largest of several"},
    {"clamp(v, low, high)", "v held between the two"},
    {"mix(a, b, share)", "from a to b"},
    {"step(edge, v)", "0 before the edge, 1 behind it"},
    {"smoothstep(from, to, v)", "0 before, 1 behind, and softly between"},
    {"wander(knots, seed)", "a smooth walk between -1 and 1 that comes home"},
    {"+ - * / ^ < > ? :", "sums, powers, comparisons, and a choice: t < 0.5 ? 0 : 1"},
    {"pi, tau", "half a round and a whole one"},
};

double wander(void* at, double knots, double seed) {
  const double t = *static_cast<const double*>(at);
  if (!(knots >= 2 && knots <= kMaxKnots && seed >= 0 && seed <= 999999)) return std::nan("");
  return 2 * wanderAt(mix64(static_cast<std::uint64_t>(seed)), static_cast<int>(knots), fract(t)) - 1;
}

// A parser with a place of its own, so that several threads can each have one.
class Reader {
 public:
  explicit Reader(const std::string& text) {
    parser_.ClearConst();
    parser_.DefineConst("pi", std::numbers::pi);
    parser_.DefineConst("tau", 2 * std::numbers::pi);
    parser_.DefineVar("t", &t_);
    parser_.DefineVar("angle", &angle_);
    parser_.DefineFun(
        "floor", +[](double v) { return std::floor(v); });
    parser_.DefineFun(
        "ceil", +[](double v) { return std::ceil(v); });
    parser_.DefineFun(
        "round", +[](double v) { return std::round(v); });
    parser_.DefineFun(
        "fract", +[](double v) { return fract(v); });
    parser_.DefineFun(
        "clamp", +[](double v, double low, double high) { return std::max(low, std::min(v, high)); });
    parser_.DefineFun(
        "mix", +[](double a, double b, double share) { return mix(a, b, share); });
    parser_.DefineFun(
        "step", +[](double edge, double v) { return v < edge ? 0.0 : 1.0; });
    parser_.DefineFun(
        "smoothstep", +[](double from, double to, double v) {
          const double x = std::clamp((v - from) / (to - from), 0.0, 1.0);
          return x * x * (3 - 2 * x);
        });
    // What a place decides is not worked out ahead of it.
    parser_.DefineFunUserData("wander", &wander, &t_, false);
    parser_.SetExpr(text);
  }

  double at(double t) {
    t_ = t;
    angle_ = 2 * std::numbers::pi * t;
    return parser_.Eval();
  }

 private:
  mu::Parser parser_;
  double t_ = 0;
  double angle_ = 0;
};

double closedAt(Reader& reader, FormulaClosing closing, double t) {
  switch (closing) {
    case FormulaClosing::Blend: {
      if (t <= 1 - kBlended) return reader.at(t);
      const double x = (t - (1 - kBlended)) / kBlended;
      return mix(reader.at(t), reader.at(t - 1), x * x * (3 - 2 * x));
    }
    case FormulaClosing::ThereAndBack:
      return reader.at(0.5 - 0.5 * std::cos(2 * std::numbers::pi * t));
    case FormulaClosing::Level:
    case FormulaClosing::Open:
      break;
  }
  return reader.at(t);
}

// A single = would set what it stands behind.
bool assigns(std::string_view text) {
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (text[i] != '=') continue;
    const bool compared = i > 0 && (text[i - 1] == '<' || text[i - 1] == '>' || text[i - 1] == '!');
    if (i + 1 < text.size() && text[i + 1] == '=' && !compared)
      ++i;
    else if (!compared)
      return true;
  }
  return false;
}

}  // namespace

struct Formula::State {
  std::string text;
  FormulaClosing closing = FormulaClosing::Open;
  mutable std::once_flag once = {};
  mutable std::vector<double> heights = {};  // kPlaces + 1, both ends
  mutable double furthest = 0;

  const std::vector<double>& table() const {
    std::call_once(once, [this] {
      heights.resize(kPlaces + 1);
      Reader reader(text);
      for (int i = 0; i <= kPlaces; ++i) heights[static_cast<std::size_t>(i)] = closedAt(reader, closing, double(i) / kPlaces);
      const double tilt = closing == FormulaClosing::Level ? heights.back() - heights.front() : 0;
      for (int i = 0; i <= kPlaces; ++i) {
        double& v = heights[static_cast<std::size_t>(i)];
        v -= tilt * i / kPlaces;
        v = std::isfinite(v) ? std::clamp(v, -kFormulaReach, kFormulaReach) : 0;
        furthest = std::max(furthest, std::abs(v));
      }
    });
    return heights;
  }
};

Result<FormulaClosing> formulaClosingFromName(std::string_view name) {
  const auto found = std::find(kClosings.begin(), kClosings.end(), name);
  if (found == kClosings.end())
    return fail("\"" + std::string(name.substr(0, 40)) + "\" does not close a formula; use one of: open, level, blend, there and back");
  return static_cast<FormulaClosing>(found - kClosings.begin());
}

std::string_view formulaClosingName(FormulaClosing closing) { return kClosings[static_cast<std::size_t>(closing)]; }

std::span<const std::string_view> formulaClosingNames() { return kClosings; }

bool FormulaJoint::jumps() const { return std::abs(jump) > 1e-6; }

Formula::Formula() {
  static const std::shared_ptr<const State> wave = [] {
    auto state = std::make_shared<State>();
    state->text = "0.7 * sin(angle) + 0.3 * sin(3 * angle)";
    return state;
  }();
  state_ = wave;
}

Result<Formula> Formula::fromText(std::string_view given, FormulaClosing closing) {
  const std::string_view text = trimmed(given);
  if (text.empty()) return fail("Write a formula, such as sin(angle).");
  if (text.size() > kMostFormulaBytes) return fail("A formula has at most " + std::to_string(kMostFormulaBytes) + " characters.");
  if (assigns(text)) return fail("A formula sets nothing: write == to compare.");
  auto state = std::make_shared<State>();
  state->text = text;
  state->closing = closing;
  try {
    Reader reader(state->text);
    for (int i = 0; i <= kTriedPlaces; ++i) {
      const double t = double(i) / kTriedPlaces;
      if (!std::isfinite(closedAt(reader, closing, t))) return fail("It is no number at t = " + numberText(t, 3) + ".");
    }
  } catch (const mu::Parser::exception_type& error) {
    const std::string& token = error.GetToken();
    const auto at = static_cast<std::size_t>(std::max(0, error.GetPos()));
    std::string what = error.GetMsg();
    // Where the text ends before it should, there is nothing to point at.
    if (!token.empty()) what = "\"" + token.substr(0, 40) + "\" cannot stand there";
    if (error.GetCode() == mu::ecUNASSIGNABLE_TOKEN) what = "\"" + token.substr(0, 40) + "\" is not known; use t, angle or a function";
    if (error.GetCode() == mu::ecMISSING_PARENS) return fail("A bracket is not closed.");
    if (token.empty() || error.GetCode() == mu::ecUNEXPECTED_EOF) what = "Something is missing at the end";
    return fail(what + " (character " + std::to_string(at + 1) + ").");
  }
  return Formula(std::move(state));
}

const std::string& Formula::text() const { return state_->text; }
FormulaClosing Formula::closing() const { return state_->closing; }
Result<Formula> Formula::closed(FormulaClosing closing) const { return fromText(state_->text, closing); }

double Formula::at(double u) const {
  const std::vector<double>& heights = state_->table();
  const double place = std::clamp(u, 0.0, 1.0) * kPlaces;
  const auto i = std::min(static_cast<std::size_t>(place), static_cast<std::size_t>(kPlaces - 1));
  return mix(heights[i], heights[i + 1], place - static_cast<double>(i));
}

FormulaJoint Formula::joint() const {
  const std::vector<double>& heights = state_->table();
  FormulaJoint joint{heights.back() - heights.front(), false};
  if (joint.jumps()) return joint;
  double steepest = 0;
  for (std::size_t i = 0; i < kPlaces; ++i) steepest = std::max(steepest, std::abs(heights[i + 1] - heights[i]));
  const double after = heights[1] - heights[0];
  const double before = heights[kPlaces] - heights[kPlaces - 1];
  joint.corner = std::abs(after - before) > 0.02 * steepest;
  return joint;
}

double Formula::most() const {
  state_->table();
  return state_->furthest;
}

std::span<const Formula::Function> Formula::functions() { return kFunctions; }

}  // namespace oa
