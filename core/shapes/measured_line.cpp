#include "shapes/measured_line.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"

namespace oa {

MeasuredLine::MeasuredLine(std::vector<Point> points, bool closed) : points_(std::move(points)), closed_(closed) {
  until_.reserve(points_.size());
  double sum = 0;
  for (std::size_t i = 0; i < points_.size(); ++i) {
    if (i > 0) sum += std::hypot(points_[i].x - points_[i - 1].x, points_[i].y - points_[i - 1].y);
    until_.push_back(sum);
  }
}

// The piece that ends at point i + 1.
std::size_t MeasuredLine::pieceAt(double length) const {
  const auto next = std::upper_bound(until_.begin() + 1, until_.end() - 1, length);
  return static_cast<std::size_t>(next - until_.begin()) - 1;
}

MeasuredLine::Place MeasuredLine::at(double share) const {
  if (points_.empty()) return {{}, {1, 0}};
  if (points_.size() == 1 || !(length() > 0)) return {points_.front(), {1, 0}};
  const double wanted = (closed_ ? fract(share) : std::clamp(share, 0.0, 1.0)) * length();
  const std::size_t i = pieceAt(wanted);
  const Point a = points_[i];
  const Point b = points_[i + 1];
  const double piece = until_[i + 1] - until_[i];
  const double t = piece > 0 ? std::clamp((wanted - until_[i]) / piece, 0.0, 1.0) : 0;
  Place place;
  place.at = {mix(a.x, b.x, t), mix(a.y, b.y, t)};
  if (piece > 0) place.along = {(b.x - a.x) / piece, (b.y - a.y) / piece};
  return place;
}

std::vector<MeasuredLine::PartPoint> MeasuredLine::part(double from, double to, int least) const {
  std::vector<PartPoint> list;
  if (!closed_) {
    from = std::max(from, 0.0);
    to = std::min(to, 1.0);
  }
  if (points_.size() < 2 || !(length() > 0) || !(to > from)) return list;
  const double whole = length();
  // Every point of the line between, once round or more often; and places in between where they would be too few.
  std::vector<double> shares{from, to};
  const auto rounds = static_cast<int>(std::ceil(to)) - static_cast<int>(std::floor(from));
  for (int round = 0; round < std::max(1, rounds); ++round)
    for (const double until : until_) {
      const double share = std::floor(from) + round + until / whole;
      if (share > from && share < to) shares.push_back(share);
    }
  for (int i = 1; i < least; ++i) shares.push_back(from + (to - from) * i / least);
  std::sort(shares.begin(), shares.end());
  for (const double share : shares) list.push_back({at(share).at, (share - from) / (to - from)});
  return list;
}

}  // namespace oa
