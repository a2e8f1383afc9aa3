#include "media/h264_encoder.h"

#include <string>

#include "media/av_encoder.h"
#include "media/key_groups.h"

namespace oa {
Result<AvCodec> openH264(const H264Settings& s) {
  const AVCodec* codec = avcodec_find_encoder_by_name("libx264");
  if (!codec) return fail("the encoder libx264 is missing from this machine's FFmpeg libraries");
  AvCodec made(avcodec_alloc_context3(codec));
  AVCodecContext& c = *made;
  c.width = s.width;
  c.height = s.height;
  c.time_base = {s.rate.den, s.rate.num};
  c.framerate = {s.rate.num, s.rate.den};
  c.sample_aspect_ratio = {1, 1};
  c.thread_count = s.threads;
  c.flags |= AV_CODEC_FLAG_BITEXACT;
  if (s.globalHeader) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  c.pix_fmt = AV_PIX_FMT_YUV420P;
  tagVideo(c);
  c.gop_size = static_cast<int>(groupLength(s.run));
  AVDictionary* options = nullptr;
  av_dict_set(&options, "preset", "veryfast", 0);
  if (s.bitRate > 0)
    limitBitRate(c, s.bitRate);
  else
    av_dict_set(&options, "crf", std::to_string(s.crf).c_str(), 0);
  // Exact key pictures (zones do not reach the first), close weights of the others and no favour for those that others build
  // on; small transforms without dead zones keep slow motion moving in every frame in place of every tenth: a single pixel that
  // moves by one level is lost in larger ones. Adaptive quantisation biased to the dark keeps night skies from banding. Groups
  // are closed, so runs can be repeated.
  // Where few bits must do, all that would be a waste.
  std::string tuning = "scenecut=0:open-gop=0:aq-mode=3";
  if (s.bitRate == 0 && s.exact)
    tuning += ":ipratio=4:pbratio=1.1:no-mbtree=1:no-dct-decimate=1:no-fast-pskip=1:8x8dct=0:deadzone-inter=0:deadzone-intra=0" +
              exactZones(s.run, "/", ",q=0", ":zones=");
  av_dict_set(&options, "x264-params", tuning.c_str(), 0);
  av_dict_set(&options, "profile", "high", 0);
  const int code = avcodec_open2(&c, codec, &options);
  av_dict_free(&options);
  if (code < 0) return fail("could not be encoded: " + avReason(code));
  return made;
}

}  // namespace oa
