#include "media/av_encoder.h"

#include <algorithm>
#include <cstdlib>
#include <string>

#include "media/key_groups.h"

namespace oa {
namespace {

struct Options {
  AVDictionary* list = nullptr;
  ~Options() { av_dict_free(&list); }
  void set(const char* name, const std::string& value) { av_dict_set(&list, name, value.c_str(), 0); }
};

const char* nameOf(ExportFormat format) {
  switch (format) {
    case ExportFormat::Mp4:
      return "libx264";
    case ExportFormat::H265:
      return "libx265";
    case ExportFormat::Av1:
      return "libsvtav1";
    case ExportFormat::ProRes:
      return "prores_ks";
    case ExportFormat::Ffv1:
      return "ffv1";
    default:
      return "apng";
  }
}

// What each encoder is told besides sizes and rates.
void setUp(const MovieSettings& s, int crf, AVCodecContext& c, Options& options) {
  const auto group = std::to_string(groupLength(s.run));
  const auto quality = [&] {
    if (s.bitRate == 0) options.set("crf", std::to_string(crf));
  };
  const bool exact = s.bitRate == 0 && s.coarser == 0;
  const bool quick = s.quality == ExportQuality::Quick;
  switch (s.format) {
    case ExportFormat::Mp4: {
      c.pix_fmt = AV_PIX_FMT_YUV420P;
      options.set("preset", quick ? "ultrafast" : "veryfast");
      options.set("profile", "high");
      quality();
      // Exact key pictures (zones do not reach the first), close weights of the others and no favour for those that others build on; small
      // transforms without dead zones keep slow motion moving in every frame in place of every tenth: a single pixel that moves by one
      // level is lost in larger ones. Adaptive quantisation biased to the dark keeps night skies from banding. Groups are closed, so
      // runs can be repeated. Where few bits must do, all that would be a waste.
      std::string tuning = "scenecut=0:open-gop=0:aq-mode=3";
      if (exact)
        tuning += ":ipratio=4:pbratio=1.1:no-mbtree=1:no-dct-decimate=1:no-fast-pskip=1:8x8dct=0:deadzone-inter=0:deadzone-intra=0" +
                  exactZones(s.run, "/", ",q=0", ":zones=");
      options.set("x264-params", tuning);
      return;
    }
    case ExportFormat::H265: {
      c.pix_fmt = s.bits > 8 ? AV_PIX_FMT_YUV420P10 : AV_PIX_FMT_YUV420P;
      // The tag that players of one large make ask for.
      c.codec_tag = MKTAG('h', 'v', 'c', '1');
      options.set("preset", quick ? "superfast" : "fast");
      // As for H.264: exact pictures round the joint, close weights, no favour for those that others build on. One frame at a time, so
      // that the bytes do not depend on the machine.
      std::string tuning = "log-level=none:scenecut=0:open-gop=0:no-info=1:frame-threads=1:keyint=" + group + ":min-keyint=" + group;
      quality();
      if (exact) tuning += ":ipratio=1.4:pbratio=1.1:no-cutree=1:aq-mode=3" + exactZones(s.run, "/", ",q=1", ":zones=");
      options.set("x265-params", tuning);
      return;
    }
    case ExportFormat::Av1:
      // It chats on standard error, whatever FFmpeg is told.
      ::setenv("SVT_LOG", "0", 0);
      c.pix_fmt = s.bits > 8 ? AV_PIX_FMT_YUV420P10 : AV_PIX_FMT_YUV420P;
      options.set("preset", quick ? "11" : "7");
      quality();
      // Closed groups; pictures as they are, not smoothed over time, and each made from those before it, so that none is much better or
      // worse than its neighbours and the joint does not stand out.
      options.set("svtav1-params", "irefresh-type=2:scd=0:enable-tf=0:pred-struct=1");
      return;
    case ExportFormat::ProRes:
      c.pix_fmt = s.alpha ? AV_PIX_FMT_YUVA444P10 : AV_PIX_FMT_YUV444P10;
      options.set("profile", "4444");
      options.set("vendor", "ovag");
      options.set("alpha_bits", s.alpha ? "16" : "0");
      return;
    case ExportFormat::Ffv1:
      c.pix_fmt = s.bits > 8 ? (s.alpha ? AV_PIX_FMT_RGBA64 : AV_PIX_FMT_RGB48) : (s.alpha ? AV_PIX_FMT_BGRA : AV_PIX_FMT_0RGB32);
      c.level = 3;
      options.set("slices", "16");
      options.set("slicecrc", "1");
      return;
    default:
      c.pix_fmt = s.bits > 8 ? (s.alpha ? AV_PIX_FMT_RGBA64BE : AV_PIX_FMT_RGB48BE) : (s.alpha ? AV_PIX_FMT_RGBA : AV_PIX_FMT_RGB24);
      options.set("pred", "mixed");
  }
}

// A constant bit rate that is never exceeded for long, for FFmpeg's own options.
void limitBitRate(AVCodecContext& codec, std::int64_t bitRate) {
  codec.bit_rate = bitRate;
  codec.rc_max_rate = bitRate;
  codec.rc_buffer_size = static_cast<int>(std::min<std::int64_t>(bitRate * 2, 1 << 30));
}

// BT.709, studio range, chroma in the middle of its four pixels.
void tagVideo(AVCodecContext& codec) {
  codec.color_primaries = AVCOL_PRI_BT709;
  codec.color_trc = AVCOL_TRC_BT709;
  codec.colorspace = AVCOL_SPC_BT709;
  codec.color_range = AVCOL_RANGE_MPEG;
  codec.chroma_sample_location = AVCHROMA_LOC_CENTER;
}

}  // namespace

Result<AvCodec> openEncoder(const MovieSettings& s, int crf, bool globalHeader) {
  if (s.format == ExportFormat::Av1 && (s.width < 64 || s.height < 64)) return fail("AV1 is at least 64 pixels wide and high");
  const AVCodec* codec = avcodec_find_encoder_by_name(nameOf(s.format));
  if (!codec) return fail("the encoder " + std::string(nameOf(s.format)) + " is missing from this machine's FFmpeg libraries");
  // With the encoder's own defaults, which are not those of all others.
  AvCodec made(avcodec_alloc_context3(codec));
  if (!made) return fail("could not be encoded: there is no memory left");
  AVCodecContext& c = *made;
  Options options;
  setUp(s, crf, c, options);
  const bool colours = c.pix_fmt != AV_PIX_FMT_YUV420P && c.pix_fmt != AV_PIX_FMT_YUV420P10 && c.pix_fmt != AV_PIX_FMT_YUV444P10 &&
                       c.pix_fmt != AV_PIX_FMT_YUVA444P10;
  c.width = s.width;
  c.height = s.height;
  c.time_base = {s.rate.den, s.rate.num};
  c.framerate = {s.rate.num, s.rate.den};
  c.sample_aspect_ratio = {1, 1};
  c.thread_count = s.threads;
  c.flags |= AV_CODEC_FLAG_BITEXACT;
  if (globalHeader) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  if (!colours) tagVideo(c);
  const bool eachAlone = s.format == ExportFormat::ProRes || s.format == ExportFormat::Ffv1;
  c.gop_size = eachAlone ? 1 : static_cast<int>(groupLength(s.run));
  if (s.bitRate > 0) limitBitRate(c, s.bitRate);
  // Of this encoder an equal upper bound would ask for another way of coding.
  if (s.format == ExportFormat::Av1) c.rc_max_rate = c.rc_buffer_size = 0;
  const int code = avcodec_open2(&c, codec, &options.list);
  if (code < 0) return fail("could not be encoded: " + avReason(code));
  return made;
}

}  // namespace oa
