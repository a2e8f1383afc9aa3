// Letters that move, as small pictures laid down turned and sized.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "image/rows.h"
#include "words/letter_picture.h"

namespace oa {

struct LetterMark {
  std::shared_ptr<const LetterPicture> picture;
  // From pixels of the view to those of the picture.
  double xx = 1, xy = 0, x0 = 0;
  double yx = 0, yy = 1, y0 = 0;
  /// An eight-cornered hull of what is not nothing, as four pairs of sides: of row y the columns from left + perRow * y to right +
  /// perRow * y. Those along the rows are in `box`.
  alignas(32) std::array<double, 4> left{-1e18, -1e18, -1e18, -1e18};
  alignas(32) std::array<double, 4> right{1e18, 1e18, 1e18, 1e18};
  alignas(32) std::array<double, 4> perRow{};
  std::array<float, 4> colour{};  ///< premultiplied, with its opacity; where the picture has colours of its own the last alone counts
  PixelBox box;                   ///< of the view, that it can touch
};

/// Where a letter lies in a view: its middle and its axes, as long as its font is large.
struct LetterPlace {
  Point at;
  Point along;
  Point down;
};
LetterMark letterMark(std::shared_ptr<const LetterPicture> picture, const LetterPlace& place, const std::array<float, 4>& colour);

/// Painted over each other in their order, in a picture of that size.
std::unique_ptr<RowMaker> letterRows(std::vector<LetterMark> marks, int width, int height);

/// One pixel of the same in plain numbers.
std::array<double, 4> plainLetterPixel(const std::vector<LetterMark>& marks, int x, int y);

}  // namespace oa
