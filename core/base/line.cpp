#include "base/line.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace oa {
namespace {

// Where on the piece from `a` to `b` the point nearest to `p` lies, 0 to 1, and how far away that is.
std::pair<double, double> nearestOn(const Point& a, const Point& b, const Point& p) {
  const Point way{b.x - a.x, b.y - a.y};
  const double square = way.x * way.x + way.y * way.y;
  const double share = square > 0 ? std::clamp(((p.x - a.x) * way.x + (p.y - a.y) * way.y) / square, 0.0, 1.0) : 0;
  return {share, std::hypot(a.x + share * way.x - p.x, a.y + share * way.y - p.y)};
}

}  // namespace

double lengthOf(const std::vector<Point>& line) {
  double length = 0;
  for (std::size_t i = 1; i < line.size(); ++i) length += std::hypot(line[i].x - line[i - 1].x, line[i].y - line[i - 1].y);
  return length;
}

double alongLine(const std::vector<Point>& line, const Point& place) {
  double nearest = std::numeric_limits<double>::infinity();
  double gone = 0;
  double along = 0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const double length = std::hypot(line[i + 1].x - line[i].x, line[i + 1].y - line[i].y);
    const auto [share, away] = nearestOn(line[i], line[i + 1], place);
    if (away < nearest) {
      nearest = away;
      along = gone + share * length;
    }
    gone += length;
  }
  return along;
}

std::vector<Point> simplified(const std::vector<Point>& line, double tolerance) {
  if (line.size() < 3) return line;
  std::vector<bool> kept(line.size(), false);
  kept.front() = kept.back() = true;
  // Pieces that are not looked at yet.
  std::vector<std::pair<std::size_t, std::size_t>> open = {{0, line.size() - 1}};
  while (!open.empty()) {
    const auto [from, to] = open.back();
    open.pop_back();
    double furthest = tolerance;
    std::size_t at = 0;
    for (std::size_t i = from + 1; i < to; ++i)
      if (const double away = nearestOn(line[from], line[to], line[i]).second; away > furthest) {
        furthest = away;
        at = i;
      }
    if (at == 0) continue;
    kept[at] = true;
    open.emplace_back(from, at);
    open.emplace_back(at, to);
  }
  std::vector<Point> fewer;
  for (std::size_t i = 0; i < line.size(); ++i)
    if (kept[i]) fewer.push_back(line[i]);
  return fewer;
}

}  // namespace oa
