// Drawings (SVG), drawn at any size.
#pragma once

#include <memory>
#include <string>

#include "base/result.h"
#include "image/buffer.h"
#include "store/picture_reader.h"

namespace oa {

/// The size that a drawing has of its own, in pixels of 96 to the inch, at least 1 x 1; one that cannot be drawn tiny within
/// kMostTrialSeconds is refused. Errors are sentences without the file's name.
Result<PictureSize> drawingSize(const std::shared_ptr<const std::string>& svg);

/// The whole drawing, stretched to `width` x `height`, premultiplied. Nothing but the text itself is opened: what it refers to outside
/// is left out. One that takes longer than kMostDrawingSeconds is refused, though it may go on in the background until it is done.
Result<Plane> readDrawing(const std::shared_ptr<const std::string>& svg, int width, int height);
inline constexpr double kMostDrawingSeconds = 8;
inline constexpr double kMostTrialSeconds = 0.8;
/// Pixels that a drawing is drawn in at most.
inline constexpr std::int64_t kMostDrawnPixels = std::int64_t{1} << 26;

}  // namespace oa
