#include "loop/pace.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace oa {
namespace {

const std::vector<std::pair<std::string, std::array<double, 4>>>& table() {
  static const std::vector<std::pair<std::string, std::array<double, 4>>> entries{
      {"linear", {0, 0, 1, 1}},      {"ease", {0.25, 0.1, 0.25, 1}},      {"ease-in", {0.42, 0, 1, 1}},
      {"ease-out", {0, 0, 0.58, 1}}, {"ease-in-out", {0.42, 0, 0.58, 1}},
  };
  return entries;
}

double bezierAt(double a, double b, double t) {
  const double s = 1 - t;
  return 3 * s * s * t * a + 3 * s * t * t * b + t * t * t;
}

}  // namespace

const std::vector<std::string>& Pace::names() {
  static const std::vector<std::string> list = [] {
    std::vector<std::string> out;
    for (const auto& entry : table()) out.push_back(entry.first);
    return out;
  }();
  return list;
}

Result<Pace> Pace::fromName(std::string_view name) {
  for (const auto& entry : table())
    if (entry.first == name) {
      Pace pace;
      pace.p_ = entry.second;
      return pace;
    }
  return fail("\"" + std::string(name).substr(0, 40) +
              "\" is not an easing; use linear, ease, ease-in, ease-out, "
              "ease-in-out, or write it as in CSS: cubic-bezier(), linear() or steps()");
}

Result<Pace> Pace::fromBezier(double x1, double y1, double x2, double y2) {
  const auto inside = [](double v, double lo, double hi) { return std::isfinite(v) && v >= lo && v <= hi; };
  if (!inside(x1, 0, 1) || !inside(x2, 0, 1)) return fail("the first and third number of a pace must lie in 0 to 1");
  if (!inside(y1, -4, 4) || !inside(y2, -4, 4)) return fail("the second and fourth number of a pace must lie in -4 to 4");
  Pace pace;
  pace.p_ = {x1, y1, x2, y2};
  return pace;
}

Result<Pace> Pace::fromLines(std::vector<PaceStop> stops) {
  if (stops.size() < 2 || stops.size() > kMaxPaceStops) return fail("a pace of lines has 2 to " + std::to_string(kMaxPaceStops) + " stops");
  for (std::size_t i = 0; i < stops.size(); ++i) {
    PaceStop& s = stops[i];
    // As finely as they are written: what is read back is the same.
    s = {std::round(s.at * 1e7) / 1e7, std::round(s.done * 1e6) / 1e6};
    if (!std::isfinite(s.at) || s.at < 0 || s.at > 1 || (i > 0 && s.at < stops[i - 1].at))
      return fail("the stops of a pace go from 0 % to 100 % of the time, in order");
    if (!std::isfinite(s.done) || s.done < -4 || s.done > 4) return fail("the stops of a pace must lie in -4 to 4");
  }
  if (stops.front() != PaceStop{0, 0} || stops.back() != PaceStop{1, 1})
    return fail("a pace must begin with 0 and end with 1, so that a lap comes to where it began");
  Pace pace;
  pace.stops_ = std::move(stops);
  return pace;
}

Result<Pace> Pace::fromSteps(int count, StepJump jump) {
  const int least = jump == StepJump::None ? 2 : 1;
  if (count < least || count > kMaxPaceSteps)
    return fail("there are " + std::to_string(least) + " to " + std::to_string(kMaxPaceSteps) + " steps");
  Pace pace;
  pace.steps_ = count;
  pace.jump_ = jump;
  return pace;
}

std::string Pace::name() const {
  if (kind() != Kind::Bezier) return {};
  for (const auto& entry : table())
    if (entry.second == p_) return entry.first;
  return {};
}

double Pace::at(double u) const {
  if (u >= 1) return 1;
  if (steps_ > 0) {
    const int first = jump_ == StepJump::Start || jump_ == StepJump::Both ? 1 : 0;
    const int heights = steps_ + (jump_ == StepJump::Both) - (jump_ == StepJump::None);
    return (std::floor(std::max(0.0, u) * steps_) + first) / heights;
  }
  if (u <= 0) return 0;
  if (!stops_.empty()) {
    // Where two stand at one place, the second counts from there on.
    const auto after = std::upper_bound(stops_.begin(), stops_.end(), u, [](double v, const PaceStop& s) { return v < s.at; });
    const PaceStop& to = after == stops_.end() ? stops_.back() : *after;
    const PaceStop& from = *(after - 1);
    return to.at > from.at ? from.done + (to.done - from.done) * (u - from.at) / (to.at - from.at) : to.done;
  }
  if (isLinear()) return u;
  // x(t) rises monotonically: Halley's steps (E. Halley, 1694), each held within what is left of the interval, or a halving where it is too
  // flat.
  double lo = 0;
  double hi = 1;
  double t = u;
  for (int i = 0; i < 60; ++i) {
    const double off = bezierAt(p_[0], p_[2], t) - u;
    const double s = 1 - t;
    const double slope = 3 * s * s * p_[0] + 6 * s * t * (p_[2] - p_[0]) + 3 * t * t * (1 - p_[2]);
    // So close, one more step leaves nothing in double precision.
    if (std::abs(off) < 1e-8 && slope > 1e-3) {
      t -= off / slope;
      break;
    }
    (off < 0 ? lo : hi) = t;
    const double bend = 6 * (s * (p_[2] - 2 * p_[0]) + t * (1 - 2 * p_[2] + p_[0]));
    const double even = slope * slope - 0.5 * off * bend;
    const double next = slope > 1e-9 && even > 1e-12 ? t - off * slope / even : lo;
    const double before = t;
    t = next > lo && next < hi ? next : 0.5 * (lo + hi);
    if (t == before) break;
  }
  return bezierAt(p_[1], p_[3], t);
}

}  // namespace oa
