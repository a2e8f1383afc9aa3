// The lines of an SVG drawing.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "base/outline.h"
#include "base/result.h"
#include "store/media_ref.h"

namespace oa {

struct DrawingLines {
  Point size;                  ///< of the drawing, in pixels
  std::vector<Outline> lines;  ///< as they stand in it, from its upper left
};

/// Most lines, and points of all lines together, that are taken from a drawing.
inline constexpr std::size_t kMostDrawingLines = 4000;
inline constexpr std::size_t kMostDrawingPoints = 100000;

/// The paths, lines and shapes of an SVG document (W3C SVG 1.1, sections 7.6, 8 and 9) where their transformations put them. What is only
/// defined, hidden, text or a picture is not among them.
Result<DrawingLines> linesOfDrawing(const std::string& svg);
/// Those of a file, kept for whoever asks again; none where it cannot be read.
std::shared_ptr<const DrawingLines> linesOfDrawing(const MediaRef& ref);

}  // namespace oa
