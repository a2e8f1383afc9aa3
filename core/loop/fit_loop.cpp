#include "loop/fit_loop.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <optional>

namespace oa {
namespace {

// The whole laps with which a loop of so many frames comes nearest to a period, as a share of that.
int nearestLaps(double frames, double period) {
  const double exact = frames / period;
  const int below = std::max(1, static_cast<int>(std::floor(exact)));
  const auto off = [&](int laps) { return std::abs(frames / laps - period); };
  return off(below + 1) < off(below) ? below + 1 : below;
}

}  // namespace

std::vector<LoopFit> fitLoop(const std::vector<double>& periods, const Rational& rate, double tolerance, double longest) {
  std::vector<LoopFit> fits;
  if (periods.empty()) return fits;
  constexpr double kExact = 1e-9;
  const double fps = rate.value();
  const auto most = static_cast<std::int64_t>(std::floor(longest * fps + 1e-6));
  double best = tolerance + kExact;
  for (std::int64_t n = 1; n <= most; ++n) {
    double worst = 0;
    for (const double seconds : periods) {
      const double period = seconds * fps;
      const double off = std::abs(static_cast<double>(n) / nearestLaps(static_cast<double>(n), period) - period) / period;
      worst = std::max(worst, off);
      if (worst > best) break;
    }
    if (worst > best || (!fits.empty() && worst > best - kExact)) continue;
    LoopFit fit;
    fit.frames = n;
    fit.off = worst < kExact ? 0 : worst;
    for (const double seconds : periods) fit.laps.push_back(nearestLaps(static_cast<double>(n), seconds * fps));
    fits.push_back(std::move(fit));
    best = worst;
    if (worst < kExact) break;
  }
  return fits;
}

std::vector<LoopFit> worthChoosing(const std::vector<LoopFit>& fits) {
  std::vector<LoopFit> left;
  for (auto fit = fits.rbegin(); fit != fits.rend(); ++fit)
    if (left.empty() || static_cast<double>(fit->frames) * 1.05 < static_cast<double>(left.back().frames)) left.push_back(*fit);
  std::reverse(left.begin(), left.end());
  return left;
}

namespace {

// A text as words and numbers, in small letters.
class Words {
 public:
  explicit Words(std::string_view text) {
    for (const char c : text) text_ += c == ',' ? '.' : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  }
  std::optional<double> number() {
    skip();
    double v = 0;
    const auto [end, error] = std::from_chars(text_.data() + at_, text_.data() + text_.size(), v);
    if (error != std::errc{} || !std::isfinite(v)) return std::nullopt;
    at_ = static_cast<std::size_t>(end - text_.data());
    return v;
  }
  bool take(std::string_view word) {
    skip();
    if (std::string_view(text_).substr(at_, word.size()) != word) return false;
    const std::size_t end = at_ + word.size();
    // A word is not the beginning of another one.
    if (std::isalpha(static_cast<unsigned char>(word.back())) && end < text_.size() && std::isalpha(static_cast<unsigned char>(text_[end])))
      return false;
    at_ = end;
    return true;
  }
  bool any(std::initializer_list<std::string_view> words) {
    return std::any_of(words.begin(), words.end(), [&](std::string_view w) { return take(w); });
  }
  bool done() {
    skip();
    return at_ == text_.size();
  }

 private:
  void skip() {
    while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_]))) ++at_;
  }
  std::string text_;
  std::size_t at_ = 0;
};

// Seconds of a unit of time, none if it is none.
std::optional<double> timeUnit(Words& words) {
  if (words.any({"seconds", "second", "sec", "s"})) return 1.0;
  if (words.any({"minutes", "minute", "min"})) return 60.0;
  return std::nullopt;
}

}  // namespace

Result<Rate> rateFromText(std::string_view text, int bar) {
  const auto unread = [&] {
    return fail("\"" + std::string(text.substr(0, 40)) +
                "\" is no rate; say it like 2 s, 1 turn in 40 s, 120 px/s, 12/min, 0.5 Hz, 4 beats or 48 frames");
  };
  Words words(text);
  words.take("every");
  const auto amount = words.number();
  if (!amount || !(*amount > 0)) return unread();
  const auto whole = [&](Rate::Of of, double v) -> Result<Rate> {
    if (!words.done() || !(v > 0) || !std::isfinite(v)) return unread();
    return Rate{of, v};
  };
  const auto per = [&](Rate::Of of, double v) -> Result<Rate> {
    const auto unit = timeUnit(words);
    if (!unit) return unread();
    return of == Rate::Of::Period ? whole(of, *unit / v) : whole(of, v / *unit);
  };
  if (words.take("/")) return per(Rate::Of::Period, *amount);
  if (words.take("hz")) return whole(Rate::Of::Period, 1 / *amount);
  if (words.any({"beats", "beat"})) return whole(Rate::Of::Beats, *amount);
  if (words.any({"bars", "bar"})) return whole(Rate::Of::Beats, *amount * bar);
  if (words.any({"frames", "frame", "f"})) return whole(Rate::Of::Frames, *amount);
  if (words.any({"px", "pixels", "\xC2\xB0", "degrees", "deg", "%"})) {
    if (!words.take("/") && !words.any({"a", "per"})) return unread();
    return per(Rate::Of::Speed, *amount);
  }
  if (words.any({"turns", "turn", "laps", "lap", "rounds", "round", "times", "cycles", "cycle"})) {
    if (words.take("/") || words.any({"a", "per"})) return per(Rate::Of::Period, *amount);
    if (!words.take("in")) return unread();
    const auto time = words.number();
    const auto unit = timeUnit(words);
    if (!time || !unit) return unread();
    return whole(Rate::Of::Period, *time * *unit / *amount);
  }
  if (const auto unit = timeUnit(words)) return whole(Rate::Of::Period, *amount * *unit);
  return unread();
}

Result<LapsFit> lapsFor(const Rate& wanted, std::int64_t frames, const Rational& rate, double way, int beats, int most) {
  const double fps = rate.value();
  double period = 0;  // in frames
  switch (wanted.of) {
    case Rate::Of::Period:
      period = wanted.amount * fps;
      break;
    case Rate::Of::Frames:
      period = wanted.amount;
      break;
    case Rate::Of::Speed:
      if (!(way > 0)) return fail("this motion has no way that a speed could be told by; say how long a lap takes");
      period = way / wanted.amount * fps;
      break;
    case Rate::Of::Beats:
      if (beats < 1) return fail("the loop is not counted in beats yet; set its tempo in the frame settings");
      period = wanted.amount * static_cast<double>(frames) / beats;
      break;
  }
  if (!(period > 1e-9) || !(period < 1e12)) return fail("that is too fast or too slow");
  LapsFit fit;
  const auto n = static_cast<double>(frames);
  fit.laps = n / period >= most ? most : std::min(most, nearestLaps(n, period));
  fit.seconds = n / fit.laps / fps;
  fit.off = (n / fit.laps - period) / period;
  fit.frames = std::max<std::int64_t>(1, std::llround(period * fit.laps));
  return fit;
}

}  // namespace oa
