// How much of each pixel of a row lies within a polygon.
#pragma once

#include <vector>

#include "base/geometry.h"

namespace oa {

struct AreaEdge {
  Point from;
  Point to;
};
/// The shares of the `width` pixels from `left` of row `y` that lie within closed lines, in [0, 1]: exact areas with their signs, summed up
/// along the row by how far each edge lets in what is right of it, as scan converters of outline fonts do. What is gone round twice in one
/// direction is within. `sums` needs room for width + 2 numbers; `edges` are those that touch the row.
void coverRow(const AreaEdge* edges, std::size_t count, int y, int left, int width, float* sums);

/// The same, edge by edge; those that do not touch the row, or lie to the right of it, are passed over.
class RowCover {
 public:
  RowCover(int y, int left, int width, float* sums);
  void add(const AreaEdge& edge);
  /// `sums` are the shares from here on; false if no edge had anything to do with them: all are 0.
  bool finish();

 private:
  int left_;
  int width_;
  double top_;
  double bottom_;
  float* sums_;
  bool any_ = false;
};

/// The same of all rows of a box whose upper left pixel is (left, top), at once: each edge is looked at only once. `out` has `height` rows
/// of width + 2 numbers, the last two of which mean nothing.
void coverBox(const AreaEdge* edges, std::size_t count, int left, int top, int width, int height, float* out);

}  // namespace oa
