// Pictures from files, small.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "image/palette.h"
#include "store/media_kind.h"

namespace oa {

/// The picture of a file (see store/media_kind.h), made so small that neither side is longer than `longest` pixels, as straight
/// display-encoded colours row by row. Errors name the file.
struct SmallPicture {
  int width = 0;
  int height = 0;
  std::vector<Colour> pixels;
};
Result<SmallPicture> readSmallPicture(const std::string& path, int longest);

/// A palette of a picture's main colours, named after the file.
Result<Palette> paletteFromPicture(const std::string& path, int colours);

}  // namespace oa
