// PNG pictures (ISO/IEC 15948), written through FFmpeg's encoder.
#pragma once

#include <memory>
#include <string>

#include "base/result.h"
#include "render/frames.h"

namespace oa {

/// The bytes of a PNG file. Tagged as sRGB. `alpha` false leaves the alpha channel out.
Result<std::string> encodePng(const Frame8& frame, bool alpha);
Result<std::string> encodePng(const Frame16& frame, bool alpha);

}  // namespace oa
