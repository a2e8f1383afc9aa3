// The kinds of picture that FFmpeg reads for us: BMP, OpenEXR and JPEG XL.
#pragma once

#include "store/picture_reader.h"

namespace oa {

Result<PictureSize> avPictureSize(MediaKind kind, std::string_view bytes);
Result<Raster> readAvPicture(MediaKind kind, std::string_view bytes);

}  // namespace oa
