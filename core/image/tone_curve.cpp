#include "image/tone_curve.h"

#include <algorithm>
#include <cmath>

namespace oa {
namespace {

// Slopes at all points (three-point formula of Fritsch and Butland, 1984: harmonic, 0 at turning points).
std::vector<double> slopesOf(const Curve& curve) {
  const std::size_t n = curve.size();
  std::vector<double> secant(n - 1);
  for (std::size_t i = 0; i + 1 < n; ++i) secant[i] = (curve[i + 1].y - curve[i].y) / (curve[i + 1].x - curve[i].x);
  std::vector<double> slope(n);
  slope.front() = secant.front();
  slope.back() = secant.back();
  for (std::size_t i = 1; i + 1 < n; ++i) {
    if (secant[i - 1] * secant[i] <= 0) continue;
    const double left = curve[i].x - curve[i - 1].x;
    const double right = curve[i + 1].x - curve[i].x;
    slope[i] = 3 * (left + right) / ((2 * right + left) / secant[i - 1] + (right + 2 * left) / secant[i]);
  }
  return slope;
}

double heightIn(const Curve& curve, const std::vector<double>& slope, std::size_t i, double x) {
  const double width = curve[i + 1].x - curve[i].x;
  const double t = (x - curve[i].x) / width;
  const double s = 1 - t;
  return curve[i].y * (1 + 2 * t) * s * s + slope[i] * width * t * s * s + curve[i + 1].y * t * t * (3 - 2 * t) -
         slope[i + 1] * width * t * t * s;
}

}  // namespace

bool isStraight(const Curve& curve) {
  return curve.size() >= 2 && curve.front().x == 0 && curve.back().x == 1 &&
         std::all_of(curve.begin(), curve.end(), [](const Point& p) { return p.x == p.y; });
}

double curveAt(const Curve& curve, double x) {
  if (curve.empty()) return x;
  if (curve.size() == 1 || x <= curve.front().x) return curve.front().y;
  if (x >= curve.back().x) return curve.back().y;
  std::size_t i = 0;
  while (i + 2 < curve.size() && x >= curve[i + 1].x) ++i;
  return heightIn(curve, slopesOf(curve), i, x);
}

std::vector<float> bakeCurve(const Curve& curve, int count) {
  std::vector<float> heights(static_cast<std::size_t>(count));
  if (curve.size() < 2) {
    for (std::size_t k = 0; k < heights.size(); ++k) heights[k] = static_cast<float>(curveAt(curve, static_cast<double>(k) / (count - 1)));
    return heights;
  }
  const std::vector<double> slope = slopesOf(curve);
  std::size_t i = 0;
  for (std::size_t k = 0; k < heights.size(); ++k) {
    const double x = std::clamp(static_cast<double>(k) / (count - 1), curve.front().x, curve.back().x);
    while (i + 2 < curve.size() && x >= curve[i + 1].x) ++i;
    heights[k] = static_cast<float>(heightIn(curve, slope, i, x));
  }
  return heights;
}

}  // namespace oa
