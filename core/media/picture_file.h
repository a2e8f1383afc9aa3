// Pictures from files, small.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "image/palette.h"

namespace oa {

/// The first picture of a file, made so small that neither side is longer than `longest` pixels, as straight display-encoded
/// colours row by row. Reads what FFmpeg decodes (PNG, JPEG, WebP, GIF, TIFF, BMP, clips). Files above 512 MB and pictures above
/// 16384 pixels a side are refused. Errors name the file.
struct SmallPicture {
  int width = 0;
  int height = 0;
  std::vector<Colour> pixels;
};
Result<SmallPicture> readSmallPicture(const std::string& path, int longest);

/// A palette of a picture's main colours, named after the file.
Result<Palette> paletteFromPicture(const std::string& path, int colours);

}  // namespace oa
