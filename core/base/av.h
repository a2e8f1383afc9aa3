// Owners for FFmpeg's objects, and its errors in our words.
#pragma once

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/opt.h>
}

#include <memory>
#include <string>

#include "base/files.h"
#include "base/result.h"

namespace oa {

struct AvFree {
  void operator()(AVFrame* p) const { av_frame_free(&p); }
  void operator()(AVPacket* p) const { av_packet_free(&p); }
  void operator()(AVCodecContext* p) const { avcodec_free_context(&p); }
};
using AvFrame = std::unique_ptr<AVFrame, AvFree>;
using AvPacket = std::unique_ptr<AVPacket, AvFree>;
using AvCodec = std::unique_ptr<AVCodecContext, AvFree>;

/// A negative FFmpeg return value as a reason for the user.
inline std::string avReason(int code) {
  if (code == AVERROR_EXTERNAL || code == AVERROR_UNKNOWN || code == AVERROR_INVALIDDATA || code == AVERROR_BUG)
    return "the encoder refused these settings";
  return systemReason(AVUNERROR(code));
}

}  // namespace oa
