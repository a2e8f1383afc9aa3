// Where the copies of a repeat lie.
#pragma once

#include <cstddef>
#include <cstdint>
#include <functional>
#include <memory>
#include <string_view>
#include <vector>

#include "base/geometry.h"
#include "base/pooled_vector.h"
#include "base/random.h"

namespace oa {

/// One of many. Places are pixels of the plane.
struct Copy {
  Point at;
  double turn = 0;  ///< degrees, clockwise
  double size = 1;
  double opacity = 1;
  // Where it stands among the others, each in [0, 1]: what head starts and differences are ordered by.
  float along = 0;
  float row = 0;
  float column = 0;
  float outwards = 0;
  std::uint32_t number = 0;  ///< which it is of all, from 0, whatever order they are drawn in
  /// Two whole numbers that stay its own wherever it is at the moment, and however many there are: row and column, line and place.
  std::uint64_t key = 0;
  /// What chance draws for it by.
  [[nodiscard]] std::uint64_t id() const { return mix64(key); }

  void stand(double alongShare, double rowShare, double columnShare, double outwardsShare) {
    along = static_cast<float>(alongShare);
    row = static_cast<float>(rowShare);
    column = static_cast<float>(columnShare);
    outwards = static_cast<float>(outwardsShare);
  }
};

/// Most copies that are made; what asks for more gets so many.
inline constexpr std::size_t kMostCopies = 1000000;

enum class SpreadKind { Grid, Staggered, Honeycomb, Ring, Spiral, Sunflower, Line, Path, Scattered, Falling, Columns, Passing };
const std::vector<std::string_view>& spreadNames();
SpreadKind spreadFromName(std::string_view name);

/// What a spread is told. Lengths and places are pixels of the plane, angles degrees clockwise; each kind reads what it needs.
struct SpreadSettings {
  SpreadKind kind = SpreadKind::Grid;
  Point frame{1, 1};
  double margin = 0;  ///< how far beyond the frame a copy has to be to be out of sight
  Point centre;
  double turn = 0;
  Point distance{100, 100};
  int columns = 0;     ///< 0: as many as reach over the frame
  int rows = 0;        ///< likewise
  double stagger = 0;  ///< of a cell that every other row (ring) is shifted by
  Point travel;        ///< how far all have gone on, in shares of what they take up as a whole
  int count = 1;
  double radius = 100;
  double inner = 0;
  int rings = 1;
  double turns = 3;
  bool aligned = false;  ///< turned as the ring or line runs
  Point from;
  Point to;
  double droop = 0;  ///< how deep a line hangs, as a share of its length
  int lines = 1;
  Point gap;                ///< from each line to the next
  std::vector<Point> path;  ///< short pieces; a closed one ends where it began
  bool closed = false;
  double apart = 0;       ///< along a line or path: so far from each to the next, instead of a count; 0: by the count
  bool even = true;       ///< scattered: no two nearer than `distance` across
  double direction = 90;  ///< falling: where to
  double done = 0;        ///< falling, passing: share of the lap done
  int passes = 1;         ///< of the farthest copies within a lap; negative: backwards
  int depths = 1;         ///< falling: the nearest make so many passes more than the farthest
  double far = 1;         ///< size of the farthest
  double faded = 0;       ///< how much fainter they are
  double sway = 0;        ///< to each side
  double hurry = 0;       ///< passing: how much quicker they get
  std::uint64_t seed = 1;
};

/// The copies of a spread one by one, in the order in which they are drawn, from several threads at once.
struct CopyMaker {
  std::size_t count = 0;
  std::function<void(std::size_t i, Copy& copy)> fill;
  [[nodiscard]] Copy at(std::size_t i) const {
    Copy copy;
    copy.number = static_cast<std::uint32_t>(i);
    fill(i, copy);
    return copy;
  }
};
CopyMaker copyMaker(const SpreadSettings& settings);
/// All of them.
PooledVector<Copy> spreadCopies(const SpreadSettings& settings);

/// The lines that copies stand on, as rows of points; none for those that stand on none.
std::vector<std::vector<Point>> spreadLines(const SpreadSettings& settings);
/// Lines that show how a spread is laid out: those that copies stand on, rings, one cell of a grid, which way things fall.
std::vector<std::vector<Point>> spreadSkeleton(const SpreadSettings& settings);
/// Round a place, as such a line.
std::vector<Point> ellipseLine(Point centre, double a, double b);

}  // namespace oa
