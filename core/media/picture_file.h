// Pictures from files, small.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "image/palette.h"

namespace oa {

/// The first picture of a file, made so small that neither side is longer than `longest` pixels, as straight display-encoded
/// colours row by row. PNG, JPEG, WebP, GIF, TIFF and BMP are read, by their content and whatever the file is called; nothing but
/// the file itself is opened. Files above 256 MB and pictures above 16384 pixels a side are refused. Errors name the file.
struct SmallPicture {
  int width = 0;
  int height = 0;
  std::vector<Colour> pixels;
};
Result<SmallPicture> readSmallPicture(const std::string& path, int longest);

/// Whether a file's first bytes are those of a picture that can be read.
bool isPicture(const std::string& path);

/// A palette of a picture's main colours, named after the file.
Result<Palette> paletteFromPicture(const std::string& path, int colours);

}  // namespace oa
