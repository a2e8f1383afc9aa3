// Paces as CSS writes them.
#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <optional>

#include "base/blanks.h"
#include "base/numbers.h"
#include "loop/pace.h"

namespace oa {
namespace {

constexpr std::size_t kLongest = 8000;  // characters that are looked at

std::vector<std::string_view> split(std::string_view s, char at) {
  std::vector<std::string_view> parts;
  while (true) {
    const std::size_t end = s.find(at);
    parts.push_back(trimmed(s.substr(0, end)));
    if (end == std::string_view::npos) return parts;
    s.remove_prefix(end + 1);
  }
}

std::optional<double> numberIn(std::string_view s) {
  s = trimmed(s);
  if (!s.empty() && s.front() == '+') s.remove_prefix(1);
  double v = 0;
  const auto [end, error] = std::from_chars(s.data(), s.data() + s.size(), v);
  if (error != std::errc() || end != s.data() + s.size() || !std::isfinite(v)) return {};
  return v;
}

// Each "0.5 25% 75%": how far, and none, one or two places of it.
Result<Pace> linesFrom(std::string_view inside) {
  std::vector<PaceStop> stops;
  std::vector<bool> placed;
  for (std::string_view part : split(inside, ',')) {
    std::optional<double> done;
    std::vector<double> places;
    for (const std::string_view word : split(part, ' ')) {
      if (word.empty()) continue;
      if (word.back() == '%') {
        const auto share = numberIn(word.substr(0, word.size() - 1));
        if (!share) return fail("\"" + std::string(word.substr(0, 20)) + "\" is not a share of the time");
        places.push_back(*share / 100);
      } else {
        const auto v = numberIn(word);
        if (!v || done)
          return fail("\"" + std::string(part.substr(0, 40)) + "\" is not a stop: a number, and where it is, such as 0.5 25%");
        done = v;
      }
    }
    if (!done || places.size() > 2)
      return fail("\"" + std::string(part.substr(0, 40)) + "\" is not a stop: a number, and where it is, such as 0.5 25%");
    if (stops.size() + 2 > 2 * kMaxPaceStops) return fail("a pace of lines has 2 to " + std::to_string(kMaxPaceStops) + " stops");
    if (places.empty()) {
      stops.push_back({0, *done});
      placed.push_back(false);
    }
    for (const double place : places) {
      stops.push_back({place, *done});
      placed.push_back(true);
    }
  }
  if (stops.size() < 2) return fail("linear() needs two stops at least, such as linear(0, 1)");
  // As the standard says: the ends lie at the ends, none lies before the one in front of it, and the others are spread evenly.
  if (!placed.front()) stops.front().at = 0;
  if (!placed.back()) stops.back().at = 1;
  placed.front() = placed.back() = true;
  double most = stops.front().at;
  for (std::size_t i = 0; i < stops.size(); ++i)
    if (placed[i]) most = stops[i].at = std::max(stops[i].at, most);
  for (std::size_t i = 1; i < stops.size(); ++i) {
    if (placed[i]) continue;
    std::size_t next = i;
    while (!placed[next]) ++next;
    const double from = stops[i - 1].at;
    const double step = (stops[next].at - from) / static_cast<double>(next - i + 1);
    for (std::size_t k = i; k < next; ++k) {
      stops[k].at = from + step * static_cast<double>(k - i + 1);
      placed[k] = true;
    }
  }
  return Pace::fromLines(std::move(stops));
}

Result<Pace> stepsFrom(std::string_view inside) {
  const auto parts = split(inside, ',');
  const auto count = numberIn(parts.front());
  if (!count || *count != std::floor(*count) || std::abs(*count) > kMaxPaceSteps || parts.size() > 2)
    return fail("steps() holds a whole number of steps, and when they go up: steps(4, jump-end)");
  const std::string_view jump = parts.size() == 2 ? parts[1] : "end";
  static constexpr std::pair<std::string_view, StepJump> kJumps[] = {{"end", StepJump::End},        {"jump-end", StepJump::End},
                                                                     {"start", StepJump::Start},    {"jump-start", StepJump::Start},
                                                                     {"jump-none", StepJump::None}, {"jump-both", StepJump::Both}};
  for (const auto& [name, how] : kJumps)
    if (jump == name) return Pace::fromSteps(static_cast<int>(*count), how);
  return fail("steps go up at jump-start, jump-end, jump-none or jump-both");
}

std::string share(double v) { return numberText(v * 100, 5) + "%"; }

}  // namespace

Result<Pace> Pace::fromCss(std::string_view text) {
  if (text.size() > kLongest) return fail("this is longer than a pace can be");
  std::string lower(trimmed(text));
  std::transform(lower.begin(), lower.end(), lower.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  std::replace_if(
      lower.begin(), lower.end(), [](unsigned char c) { return std::isspace(c) != 0; }, ' ');
  std::string_view s = lower;
  if (const std::size_t colon = s.find(':'); colon != std::string_view::npos) s = trimmed(s.substr(colon + 1));
  while (!s.empty() && s.back() == ';') s = trimmed(s.substr(0, s.size() - 1));
  if (s == "step-start") return fromSteps(1, StepJump::Start);
  if (s == "step-end") return fromSteps(1, StepJump::End);
  const std::size_t open = s.find('(');
  if (open == std::string_view::npos) return fromName(s);
  if (s.back() != ')') return fail("a closing bracket is missing");
  const std::string_view function = trimmed(s.substr(0, open));
  const std::string_view inside = s.substr(open + 1, s.size() - open - 2);
  if (function == "linear") return linesFrom(inside);
  if (function == "steps") return stepsFrom(inside);
  if (function != "cubic-bezier") return fromName(function);
  std::vector<double> numbers;
  for (const std::string_view part : split(inside, ','))
    if (const auto v = numberIn(part)) numbers.push_back(*v);
  if (numbers.size() != 4 || split(inside, ',').size() != 4) return fail("cubic-bezier() holds four numbers");
  return fromBezier(numbers[0], numbers[1], numbers[2], numbers[3]);
}

std::string Pace::css() const {
  if (std::string own = name(); !own.empty()) return own;
  if (kind() == Kind::Steps) {
    static constexpr const char* kNames[] = {"jump-end", "jump-start", "jump-none", "jump-both"};
    return "steps(" + std::to_string(steps_) + ", " + kNames[static_cast<std::size_t>(jump_)] + ")";
  }
  std::string text;
  if (kind() == Kind::Bezier) {
    for (const double v : p_) text += (text.empty() ? "" : ", ") + numberText(v, 6);
    return "cubic-bezier(" + text + ")";
  }
  // Places that are what they would be without being said are not said.
  for (std::size_t i = 0; i < stops_.size(); ++i) {
    text += (i > 0 ? ", " : "") + numberText(stops_[i].done, 6);
    if (i > 0 && i + 1 < stops_.size()) text += " " + share(stops_[i].at);
  }
  return "linear(" + text + ")";
}

}  // namespace oa
