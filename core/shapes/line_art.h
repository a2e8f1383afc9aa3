// Filled outlines, and strokes whose width, opacity and colour change along them.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "base/geometry.h"
#include "image/plane_view.h"
#include "image/rows.h"
#include "shapes/measured_line.h"

namespace oa {

/// A place of a stroke, in pixels of the view (the middle of pixel (0, 0) is (0, 0)).
struct StrokePoint {
  Point at;
  double radius = 1;
  double opacity = 1;
  double mix = 0;  ///< how far the stroke's second colour is there instead of the first
};

/// A line through points, round where it bends and ends; nowhere painted twice.
struct Stroke {
  std::vector<StrokePoint> points;
  std::array<float, 4> colour{1, 1, 1, 1};  ///< premultiplied
  std::array<float, 4> second{1, 1, 1, 1};
  double softness = 0;  ///< width of its edge, in pixels of the view
};

/// What lies within lines that end where they began, in one colour, premultiplied.
struct Filling {
  std::vector<std::vector<Point>> lines;  ///< in pixels of the view, as above
  std::array<float, 4> colour{1, 1, 1, 1};
};

/// A part of a line as the points of a stroke, with `taper` of it getting thinner towards its ends; places stay as they are.
std::vector<StrokePoint> taperedPart(const MeasuredLine& line, double from, double to, double radius, double taper);

struct LineArt {
  std::vector<Filling> fillings;  ///< painted first
  std::vector<Stroke> strokes;    ///< in their order
  bool add = false;               ///< strokes add their light to each other and to what is filled
};

/// The drawing as a picture of a view so large.
std::unique_ptr<RowMaker> lineArtRows(LineArt art, int width, int height);

/// One pixel of the same in plain numbers.
std::array<double, 4> plainLineArtPixel(const LineArt& art, int x, int y);

}  // namespace oa
