#include "media/png.h"

#include "base/av.h"

namespace oa {
namespace {

// `fillRow` writes one row of the encoder's format.
template <class FillRow>
Result<std::string> encode(int width, int height, AVPixelFormat format, FillRow fillRow) {
  av_log_set_level(AV_LOG_QUIET);
  const AVCodec* codec = avcodec_find_encoder(AV_CODEC_ID_PNG);
  if (!codec) return fail("the PNG encoder is missing from this machine's FFmpeg libraries");
  const AvCodec context(avcodec_alloc_context3(codec));
  context->width = width;
  context->height = height;
  context->pix_fmt = format;
  context->time_base = {1, 1};
  context->color_range = AVCOL_RANGE_JPEG;
  context->color_primaries = AVCOL_PRI_BT709;
  context->color_trc = AVCOL_TRC_IEC61966_2_1;
  context->compression_level = 4;
  context->thread_count = 1;
  AVDictionary* options = nullptr;
  av_dict_set(&options, "pred", "sub", 0);
  int code = avcodec_open2(context.get(), codec, &options);
  av_dict_free(&options);
  const AvFrame frame(av_frame_alloc());
  frame->width = width;
  frame->height = height;
  frame->format = format;
  frame->color_range = context->color_range;
  frame->color_primaries = context->color_primaries;
  frame->color_trc = context->color_trc;
  if (code >= 0) code = av_frame_get_buffer(frame.get(), 64);
  if (code >= 0) {
    for (int y = 0; y < height; ++y) fillRow(y, frame->data[0] + static_cast<std::ptrdiff_t>(y) * frame->linesize[0]);
    code = avcodec_send_frame(context.get(), frame.get());
  }
  const AvPacket packet(av_packet_alloc());
  if (code >= 0) code = avcodec_send_frame(context.get(), nullptr);
  if (code >= 0) code = avcodec_receive_packet(context.get(), packet.get());
  if (code < 0) return fail("the picture could not be encoded: " + avReason(code));
  return std::string(reinterpret_cast<const char*>(packet->data), static_cast<std::size_t>(packet->size));
}

}  // namespace

Result<std::string> encodePng(const Frame8& frame, bool alpha) {
  const int channels = alpha ? 4 : 3;
  return encode(frame.width, frame.height, alpha ? AV_PIX_FMT_RGBA : AV_PIX_FMT_RGB24, [&](int y, std::uint8_t* out) {
    const std::uint8_t* p = frame.rgba.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(frame.width) * 4;
    for (int x = 0; x < frame.width; ++x, p += 4)
      for (int c = 0; c < channels; ++c) *out++ = p[c];
  });
}

Result<std::string> encodePng(const Frame16& frame, bool alpha) {
  const int channels = alpha ? 4 : 3;
  return encode(frame.width, frame.height, alpha ? AV_PIX_FMT_RGBA64BE : AV_PIX_FMT_RGB48BE, [&](int y, std::uint8_t* out) {
    const std::uint16_t* p = frame.rgba.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(frame.width) * 4;
    for (int x = 0; x < frame.width; ++x, p += 4)
      for (int c = 0; c < channels; ++c) {
        *out++ = static_cast<std::uint8_t>(p[c] >> 8);
        *out++ = static_cast<std::uint8_t>(p[c] & 255);
      }
  });
}

}  // namespace oa
