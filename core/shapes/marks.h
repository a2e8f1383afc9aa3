// Many shapes painted over each other: each a plain shape or a picture somewhere, turned and sized, in a colour.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "base/pooled_vector.h"
#include "image/buffer.h"
#include "image/plane_view.h"
#include "image/tint.h"
#include "shapes/outline_shape.h"
#include "shapes/stamp_picture.h"

namespace oa {

/// How what lies over each other goes together.
enum class MarkBlend { Over, Add, Lighter };

/// What is painted many times. Its own measure is pixels of the plane at size 1, from its middle.
struct MarkShape {
  OutlineShape outline;
  double halfWidth = 0;   ///< all of it lies within
  double halfHeight = 0;  ///< likewise
  double glow = 0;        ///< how far it glows beyond its edge
  double glowStrength = 0;
  /// Pictures in place of a shape, each half as large as the one before, premultiplied, with a transparent border of
  /// kPictureBorder pixels; the first shows the whole of halfWidth x halfHeight twice over.
  std::vector<std::shared_ptr<const StampPicture>> pictures;
  /// Of pictures only their opacity counts: they are seen in the mark's colour.
  bool tinted = false;
  /// The colour of which all pixels of its pictures are shares, if it is known to be so.
  std::optional<Tint> tint;
  /// Colours go over into a second one along this, from 0 to 1: x * alongX + y * alongY + begin, or, where it is outwards, with the
  /// distance from the middle, each axis on its own.
  bool graded = false;
  bool outwards = false;
  double alongX = 0;
  double alongY = 0;
  double begin = 0;
};
inline constexpr int kPictureBorder = 2;

struct Mark {
  std::uint32_t shape = 0;
  std::uint16_t level = 0;  ///< which of the shape's pictures
  // From pixels of the view to the shape's own measure.
  float xx = 1, xy = 0, x0 = 0;
  float yx = 0, yy = 1, y0 = 0;
  float pixel = 1;                ///< as wide as a pixel is in that measure
  std::array<float, 4> colour{};  ///< premultiplied, with its opacity; of pictures that are not tinted the last alone counts
  // The pixels that it can touch. Together they are a line of the cache.
  std::uint16_t left = 0, top = 0, right = 0, bottom = 0;
};
static_assert(sizeof(Mark) <= 64);

/// Room that is made for marks is to be filled by whoever made it.
using Marks = RawPooledVector<Mark>;
/// What colours go over into, mark by mark; empty where no shape is graded.
using SecondColours = PooledVector<std::array<float, 4>>;

/// Where a copy of a shape goes.
struct MarkPlace {
  Point at;         ///< of its middle on the plane
  double turn = 0;  ///< degrees, clockwise
  double size = 1;
  double stretchX = 1;  ///< -1: mirrored
};

/// Fills in all of a mark but its colours; false where the view does not see it. How much fainter it has to be because it is thin is left
/// in `fainter`, (0, 1]; what is not is that much smaller instead, and stays opaque.
bool placeMark(Mark& mark, const MarkShape& shape, const MarkPlace& place, const PlaneView& view, float& fainter);

/// The marks as a picture, painted in their order. Those of no rows or columns are left out.
std::unique_ptr<RowMaker> markRows(std::vector<MarkShape> shapes, Marks marks, SecondColours seconds, MarkBlend blend,
                                   const PlaneView& view);

/// One pixel of the same in plain numbers.
std::array<double, 4> plainMarkPixel(const std::vector<MarkShape>& shapes, const Marks& marks, const SecondColours& seconds,
                                     MarkBlend blend, int x, int y);

}  // namespace oa
