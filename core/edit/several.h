// A layer several times over: laid out, each a little later than the one before, arriving one after the other.
#pragma once

#include <string>

#include "edit/layers.h"

namespace oa::edit {

constexpr int kMostSeveral = 64;

struct Several {
  enum class Layout { Row, Column, Ring, Scattered, InPlace };
  int count = 6;  ///< 2 to kMostSeveral, the first one with them
  Layout layout = Layout::Row;
  /// From the middle of the first to that of the last, in shares of the frame: of its width in a row, of its height in a column and across
  /// a ring, of both where they are scattered; 0 to 4.
  double reach = 0.8;
  double size = 1;   ///< beside the one that there was, 0.01 to 16
  double later = 0;  ///< the share of a lap within which all of them begin what they do, 0 to 1; with 0 they do it together
  double apart = 0;  ///< seconds from one arrival to the next, where they arrive, 0 or more
  int seed = 1;      ///< Layout::Scattered
};

/// What was made several of, and what came of it.
struct SeveralMade {
  Ids layers;        ///< the first is the one that there was
  Point middle;      ///< of all of them, in shares of their frame: at first, where it lay
  Point size{1, 1};  ///< how large it was
  Point laidAt;      ///< where it was left, so that what was moved since stays moved
  Point laidSize;    ///< how large it was left
};

/// What there is before anything is made.
Result<SeveralMade> severalOf(const Scene& scene, Id layer);

/// Makes as many of them as are wanted, or takes away those that are too many, the last first, and lays them all out anew. Copies stand
/// above each other in the pile, numbered behind the first one's name. Their motions stay with them. Refused where one of them is gone or
/// locked, or where the scene would become too large; then neither is changed.
Result<Ids> laySeveral(Scene& scene, SeveralMade& made, const Several& several);

/// Where each of them would lie, in shares of a frame of this width and height, 0 being their middle.
std::vector<Point> placesOf(const Several& several, double width, double height);

}  // namespace oa::edit
