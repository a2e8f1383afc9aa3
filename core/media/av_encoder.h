// FFmpeg's encoders of moving pictures, set up for loops: the same bytes at every run, closed groups that runs can be repeated from.
#pragma once

#include "base/av.h"
#include "base/result.h"
#include "media/movie_settings.h"

namespace oa {

/// An opened encoder for H.264, H.265, AV1, ProRes, FFV1 or APNG. Its pix_fmt says how it takes pictures. Fails where it is missing or
/// refuses.
Result<AvCodec> openEncoder(const MovieSettings& settings, int crf, bool globalHeader);

}  // namespace oa
