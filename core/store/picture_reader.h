// Pictures from bytes: every kind but drawings.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "store/media_kind.h"
#include "store/raster.h"

namespace oa {

struct PictureSize {
  int width = 0;
  int height = 0;
};

/// The size a picture has once it is upright, from its header; refuses what is above kLongestSide or kMostPixels. Errors are
/// sentences without the file's name.
Result<PictureSize> pictureSize(MediaKind kind, std::string_view bytes);

/// The first picture in the bytes, turned upright as its orientation says and converted to sRGB by its colour profile; nothing but
/// the bytes is opened. Damaged and unfinished ones are refused, and those that take longer than kMostSeconds.
Result<Raster> readPicture(MediaKind kind, std::string_view bytes);
inline constexpr double kMostSeconds = 60;

}  // namespace oa
