#include "model/drawn_line.h"

#include <cmath>

namespace oa::app {
namespace {

constexpr std::size_t kMostPoints = 2000;
constexpr double kStep = 0.004;  // of the frame, between two of its points
constexpr double kLeast = 0.02;  // shorter ones are slips of the hand

double between(const Point& a, const Point& b) { return std::hypot(a.x - b.x, a.y - b.y); }

}  // namespace

void DrawnLine::ask() {
  wanted_ = true;
  points_.clear();
  Q_EMIT changed();
}

void DrawnLine::extend(const Point& to) {
  if (!wanted_ || points_.size() >= kMostPoints || (!points_.empty() && between(points_.back(), to) < kStep)) return;
  points_.push_back(to);
  Q_EMIT changed();
}

void DrawnLine::finish() {
  if (!wanted_) return;
  double length = 0;
  for (std::size_t i = 1; i < points_.size(); ++i) length += between(points_[i - 1], points_[i]);
  if (length < kLeast) return ask();
  wanted_ = false;
  Q_EMIT changed();
  Q_EMIT drawn();
}

void DrawnLine::clear() {
  if (!wanted_ && points_.empty()) return;
  wanted_ = false;
  points_.clear();
  Q_EMIT changed();
}

}  // namespace oa::app
