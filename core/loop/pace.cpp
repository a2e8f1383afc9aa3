#include "loop/pace.h"

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
              "ease-in-out or four numbers");
}

Result<Pace> Pace::fromBezier(double x1, double y1, double x2, double y2) {
  const auto inside = [](double v, double lo, double hi) { return std::isfinite(v) && v >= lo && v <= hi; };
  if (!inside(x1, 0, 1) || !inside(x2, 0, 1)) return fail("the first and third number of a pace must lie in 0 to 1");
  if (!inside(y1, -4, 4) || !inside(y2, -4, 4)) return fail("the second and fourth number of a pace must lie in -4 to 4");
  Pace pace;
  pace.p_ = {x1, y1, x2, y2};
  return pace;
}

std::string Pace::name() const {
  for (const auto& entry : table())
    if (entry.second == p_) return entry.first;
  return {};
}

double Pace::at(double u) const {
  if (u <= 0) return 0;
  if (u >= 1) return 1;
  if (isLinear()) return u;
  // x(t) rises monotonically: Newton's steps, each held within what is left of the interval, or a halving where it is too flat.
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
    const double next = slope > 1e-9 ? t - off / slope : lo;
    const double before = t;
    t = next > lo && next < hi ? next : 0.5 * (lo + hi);
    if (t == before) break;
  }
  return bezierAt(p_[1], p_[3], t);
}

}  // namespace oa
