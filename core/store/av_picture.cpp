#include "store/av_picture.h"

#include <algorithm>
#include <cstring>
#include <vector>

#include "base/av.h"

extern "C" {
#include <libavutil/pixdesc.h>
#include <libswscale/swscale.h>
}

namespace oa {
namespace {

struct InputClose {
  void operator()(AVFormatContext* p) const { avformat_close_input(&p); }
};
struct ScalerFree {
  void operator()(SwsContext* p) const { sws_freeContext(p); }
};

struct Reader {
  const char* demuxer;
  const char* decoder;
};
Reader readerOf(MediaKind kind) {
  if (kind == MediaKind::Exr) return {"exr_pipe", "exr"};
  if (kind == MediaKind::JpegXl) return {"jpegxl_pipe", "libjxl"};
  return {"bmp_pipe", "bmp"};
}

Error broken(MediaKind kind) { return {"is a damaged or unfinished " + std::string(kindName(kind)) + " picture", {}}; }

// A file in memory, for FFmpeg: no name, so nothing beside it can be opened.
class MemoryInput {
 public:
  explicit MemoryInput(std::string_view bytes) : bytes_(bytes) {
    constexpr int kBuffer = 1 << 15;
    context_ = avio_alloc_context(static_cast<std::uint8_t*>(av_malloc(kBuffer)), kBuffer, 0, this, read, nullptr, seek);
  }
  ~MemoryInput() {
    if (!context_) return;
    av_freep(&context_->buffer);
    avio_context_free(&context_);
  }
  MemoryInput(const MemoryInput&) = delete;
  MemoryInput& operator=(const MemoryInput&) = delete;
  [[nodiscard]] AVIOContext* context() const { return context_; }

 private:
  static int read(void* self, std::uint8_t* to, int count) {
    auto* me = static_cast<MemoryInput*>(self);
    const auto left = std::min(static_cast<std::size_t>(count), me->bytes_.size() - me->at_);
    if (left == 0) return AVERROR_EOF;
    std::copy_n(me->bytes_.data() + me->at_, left, reinterpret_cast<char*>(to));
    me->at_ += left;
    return static_cast<int>(left);
  }
  static std::int64_t seek(void* self, std::int64_t offset, int whence) {
    auto* me = static_cast<MemoryInput*>(self);
    const auto size = static_cast<std::int64_t>(me->bytes_.size());
    if (whence == AVSEEK_SIZE) return size;
    const int from = whence & ~AVSEEK_FORCE;
    const std::int64_t to = offset + (from == SEEK_CUR ? static_cast<std::int64_t>(me->at_) : from == SEEK_END ? size : 0);
    if (to < 0 || to > size) return AVERROR(EINVAL);
    me->at_ = static_cast<std::size_t>(to);
    return to;
  }
  std::string_view bytes_;
  std::size_t at_ = 0;
  AVIOContext* context_ = nullptr;
};

// The first frame of the picture.
Result<AvFrame> firstFrame(MediaKind kind, std::string_view bytes) {
  av_log_set_level(AV_LOG_QUIET);
  const Reader reader = readerOf(kind);
  MemoryInput memory(bytes);
  AVFormatContext* raw = avformat_alloc_context();
  const AVInputFormat* demuxer = av_find_input_format(reader.demuxer);
  const AVCodec* decoder = avcodec_find_decoder_by_name(reader.decoder);
  if (!raw || !memory.context() || !demuxer || !decoder) {
    avformat_free_context(raw);
    return fail("cannot be read: this machine's FFmpeg libraries have no reader for " + std::string(kindName(kind)));
  }
  raw->pb = memory.context();
  raw->flags |= AVFMT_FLAG_CUSTOM_IO;
  raw->codec_whitelist = av_strdup(reader.decoder);
  raw->format_whitelist = av_strdup(reader.demuxer);
  raw->protocol_whitelist = av_strdup("");
  if (avformat_open_input(&raw, nullptr, demuxer, nullptr) < 0) return tl::unexpected(broken(kind));
  const std::unique_ptr<AVFormatContext, InputClose> input(raw);
  if (input->nb_streams != 1) return tl::unexpected(broken(kind));
  const AvCodec codec(avcodec_alloc_context3(decoder));
  if (!codec || avcodec_parameters_to_context(codec.get(), input->streams[0]->codecpar) < 0) return tl::unexpected(broken(kind));
  codec->max_pixels = kMostPixels;
  // Scene-linear light is shown as sRGB.
  if (kind == MediaKind::Exr) av_opt_set(codec->priv_data, "apply_trc", "iec61966_2_1", 0);
  if (avcodec_open2(codec.get(), decoder, nullptr) < 0) return tl::unexpected(broken(kind));
  AvFrame frame(av_frame_alloc());
  const AvPacket packet(av_packet_alloc());
  for (int packets = 0; packets < 1000; ++packets) {
    const int read = av_read_frame(input.get(), packet.get());
    if (read >= 0 && avcodec_send_packet(codec.get(), packet.get()) < 0) return tl::unexpected(broken(kind));
    av_packet_unref(packet.get());
    if (read < 0) avcodec_send_packet(codec.get(), nullptr);
    if (avcodec_receive_frame(codec.get(), frame.get()) >= 0) return frame;
    if (read < 0) break;
  }
  return tl::unexpected(broken(kind));
}

std::uint32_t little32(std::string_view bytes, std::size_t at) {
  std::uint32_t v = 0;
  for (std::size_t i = 0; i < 4; ++i) v |= static_cast<std::uint32_t>(static_cast<std::uint8_t>(bytes[at + i])) << (8 * i);
  return v;
}

}  // namespace

Result<PictureSize> avPictureSize(MediaKind kind, std::string_view bytes) {
  // BMP says it in its header; the others tell it with the picture.
  if (kind == MediaKind::Bmp && bytes.size() >= 26 && little32(bytes, 14) >= 40)
    // A negative height: from the top down.
    return PictureSize{
        static_cast<std::int32_t>(little32(bytes, 18)),
        static_cast<int>(std::min<std::int64_t>(std::abs(std::int64_t{static_cast<std::int32_t>(little32(bytes, 22))}), 1 << 30))};
  const auto frame = firstFrame(kind, bytes);
  if (!frame) return tl::unexpected(frame.error());
  return PictureSize{(*frame)->width, (*frame)->height};
}

Result<Raster> readAvPicture(MediaKind kind, std::string_view bytes) {
  const auto frame = firstFrame(kind, bytes);
  if (!frame) return tl::unexpected(frame.error());
  const AVFrame& f = **frame;
  const auto format = static_cast<AVPixelFormat>(f.format);
  const AVPixFmtDescriptor* described = av_pix_fmt_desc_get(format);
  if (!described || f.width < 1 || f.height < 1) return tl::unexpected(broken(kind));
  const bool deep = described->comp[0].depth > 8;
  const bool alpha = (described->flags & AV_PIX_FMT_FLAG_ALPHA) != 0 || format == AV_PIX_FMT_PAL8;
  Raster raster{f.width, f.height, alpha ? 4 : 3, deep ? 16 : 8, {}};
  const AVPixelFormat wanted = deep ? (alpha ? AV_PIX_FMT_RGBA64LE : AV_PIX_FMT_RGB48LE) : (alpha ? AV_PIX_FMT_RGBA : AV_PIX_FMT_RGB24);
  const std::unique_ptr<SwsContext, ScalerFree> scaler(
      sws_getContext(f.width, f.height, format, f.width, f.height, wanted, SWS_POINT | SWS_ACCURATE_RND, nullptr, nullptr, nullptr));
  if (!scaler) return tl::unexpected(broken(kind));
  // Its vector code writes in whole vectors.
  const std::size_t stride = (raster.rowBytes() + 127) / 64 * 64;
  std::vector<std::uint8_t> rows(stride * static_cast<std::size_t>(f.height) + 64);
  std::uint8_t* const to[4] = {rows.data(), nullptr, nullptr, nullptr};
  const int strides[4] = {static_cast<int>(stride), 0, 0, 0};
  if (sws_scale(scaler.get(), f.data, f.linesize, 0, f.height, to, strides) != f.height) return tl::unexpected(broken(kind));
  const std::shared_ptr<std::uint8_t[]> data(new std::uint8_t[raster.bytes()]);
  for (int y = 0; y < f.height; ++y)
    std::memcpy(data.get() + raster.rowBytes() * static_cast<std::size_t>(y), rows.data() + stride * static_cast<std::size_t>(y),
                raster.rowBytes());
  raster.data = {data, data.get()};
  return raster;
}

}  // namespace oa
