// A line of short straight pieces by its length.
#pragma once

#include <cstddef>
#include <vector>

#include "base/geometry.h"

namespace oa {

/// Shares of its length go from 0 to 1; those of a closed line, which ends where it began, go round.
class MeasuredLine {
 public:
  MeasuredLine(std::vector<Point> points, bool closed);
  [[nodiscard]] bool closed() const { return closed_; }
  [[nodiscard]] double length() const { return until_.empty() ? 0 : until_.back(); }
  [[nodiscard]] const std::vector<Point>& points() const { return points_; }

  struct Place {
    Point at;
    Point along;  ///< which way it runs there, of length 1
  };
  [[nodiscard]] Place at(double share) const;

  struct PartPoint {
    Point at;
    double t = 0;  ///< share of the part
  };
  /// From one share to another that is not smaller; with all points between, and at least `least` pieces. Of an open line only what
  /// there is of it.
  [[nodiscard]] std::vector<PartPoint> part(double from, double to, int least = 1) const;

 private:
  [[nodiscard]] std::size_t pieceAt(double length) const;
  std::vector<Point> points_;
  std::vector<double> until_;  // the length up to each point
  bool closed_;
};

}  // namespace oa
