#include "media/picture_file.h"

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <memory>
#include <string_view>

#include "image/colour_clusters.h"
#include "media/av.h"

extern "C" {
#include <libswscale/swscale.h>
}

namespace oa {
namespace {

constexpr std::size_t kMostBytes = std::size_t{256} << 20;
constexpr int kLongestSide = 16384;

struct InputClose {
  void operator()(AVFormatContext* p) const { avformat_close_input(&p); }
};
struct ScalerFree {
  void operator()(SwsContext* p) const { sws_freeContext(p); }
};

// What is read, by the first bytes of the content; nothing else is handed to a reader, whatever it is called. FFmpeg's own guess
// would also find play lists, texts and lists of other files.
struct Kind {
  const char* name;
  const char* demuxer;
  const char* decoder;
};
constexpr Kind kKinds[] = {{"PNG", "png_pipe", "png"}, {"JPEG", "jpeg_pipe", "mjpeg"}, {"WebP", "webp_pipe", "webp"},
                           {"GIF", "gif", "gif"},      {"TIFF", "tiff_pipe", "tiff"},  {"BMP", "bmp_pipe", "bmp"}};

const Kind* kindOf(std::string_view bytes) {
  const auto begins = [&](std::string_view with) { return bytes.substr(0, with.size()) == with; };
  if (begins("\x89PNG\r\n\x1a\n")) return &kKinds[0];
  if (begins("\xff\xd8\xff")) return &kKinds[1];
  if (begins("RIFF") && bytes.size() >= 12 && bytes.substr(8, 4) == "WEBP") return &kKinds[2];
  if (begins("GIF87a") || begins("GIF89a")) return &kKinds[3];
  if (begins({"II*\0", 4}) || begins({"MM\0*", 4})) return &kKinds[4];
  if (begins("BM") && bytes.size() >= 26) return &kKinds[5];
  return nullptr;
}

Error broken(const Kind& kind, const std::string& path) {
  return {std::string("is a ") + kind.name + " picture that is damaged or unfinished", path};
}

// A file in memory, for FFmpeg: no name, so nothing beside it can be opened.
class MemoryInput {
 public:
  explicit MemoryInput(const std::string& bytes) : bytes_(bytes) {
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
  const std::string& bytes_;
  std::size_t at_ = 0;
  AVIOContext* context_ = nullptr;
};

// The first frame of the picture.
Result<AvFrame> firstFrame(const std::string& bytes, const std::string& path) {
  const Kind* kind = kindOf(bytes);
  if (!kind) return fail("is not a picture that can be read; PNG, JPEG, WebP, GIF, TIFF and BMP can", path);
  MemoryInput memory(bytes);
  AVFormatContext* raw = avformat_alloc_context();
  const AVInputFormat* demuxer = av_find_input_format(kind->demuxer);
  const AVCodec* decoder = avcodec_find_decoder_by_name(kind->decoder);
  if (!raw || !memory.context() || !demuxer || !decoder) {
    avformat_free_context(raw);
    return fail(std::string(kind->name) + " pictures cannot be read by this machine's FFmpeg libraries", path);
  }
  raw->pb = memory.context();
  raw->flags |= AVFMT_FLAG_CUSTOM_IO;
  raw->codec_whitelist = av_strdup(kind->decoder);
  raw->format_whitelist = av_strdup(kind->demuxer);
  raw->protocol_whitelist = av_strdup("");
  if (avformat_open_input(&raw, nullptr, demuxer, nullptr) < 0) return tl::unexpected(broken(*kind, path));
  const std::unique_ptr<AVFormatContext, InputClose> input(raw);
  if (avformat_find_stream_info(input.get(), nullptr) < 0) return tl::unexpected(broken(*kind, path));
  const int stream = av_find_best_stream(input.get(), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
  if (stream < 0) return tl::unexpected(broken(*kind, path));
  const AVCodecParameters* parameters = input->streams[stream]->codecpar;
  if (parameters->width > kLongestSide || parameters->height > kLongestSide)
    return fail("is larger than " + std::to_string(kLongestSide) + " pixels a side", path);
  const AvCodec codec(avcodec_alloc_context3(decoder));
  if (!codec || avcodec_parameters_to_context(codec.get(), parameters) < 0) return tl::unexpected(broken(*kind, path));
  codec->max_pixels = std::int64_t{kLongestSide} * kLongestSide;
  if (avcodec_open2(codec.get(), decoder, nullptr) < 0) return tl::unexpected(broken(*kind, path));
  AvFrame frame(av_frame_alloc());
  const AvPacket packet(av_packet_alloc());
  for (int packets = 0; packets < 1000; ++packets) {
    const int read = av_read_frame(input.get(), packet.get());
    if (read >= 0 && packet->stream_index == stream && avcodec_send_packet(codec.get(), packet.get()) < 0)
      return tl::unexpected(broken(*kind, path));
    av_packet_unref(packet.get());
    if (read < 0) avcodec_send_packet(codec.get(), nullptr);
    if (avcodec_receive_frame(codec.get(), frame.get()) >= 0) return frame;
    if (read < 0) break;
  }
  return tl::unexpected(broken(*kind, path));
}

}  // namespace

Result<SmallPicture> readSmallPicture(const std::string& path, int longest) {
  const auto bytes = readFile(path, kMostBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  av_log_set_level(AV_LOG_QUIET);
  const auto frame = firstFrame(*bytes, path);
  if (!frame) return tl::unexpected(frame.error());
  const Kind* kind = kindOf(*bytes);
  const AVFrame& f = **frame;
  if (f.width < 1 || f.height < 1 || f.width > kLongestSide || f.height > kLongestSide) return tl::unexpected(broken(*kind, path));
  const double scale = std::min(1.0, static_cast<double>(longest) / std::max(f.width, f.height));
  SmallPicture picture;
  picture.width = std::max(1, static_cast<int>(f.width * scale));
  picture.height = std::max(1, static_cast<int>(f.height * scale));
  const std::unique_ptr<SwsContext, ScalerFree> scaler(sws_getContext(f.width, f.height, static_cast<AVPixelFormat>(f.format),
                                                                      picture.width, picture.height, AV_PIX_FMT_RGBA, SWS_AREA, nullptr,
                                                                      nullptr, nullptr));
  if (!scaler) return tl::unexpected(broken(*kind, path));
  const int stride = (picture.width * 4 + 63) / 64 * 64;
  std::vector<std::uint8_t> rgba(static_cast<std::size_t>(stride) * static_cast<std::size_t>(picture.height) + 64);
  std::uint8_t* const to[4] = {rgba.data(), nullptr, nullptr, nullptr};
  const int strides[4] = {stride, 0, 0, 0};
  if (sws_scale(scaler.get(), f.data, f.linesize, 0, f.height, to, strides) != picture.height) return tl::unexpected(broken(*kind, path));
  for (int y = 0; y < picture.height; ++y)
    for (int x = 0; x < picture.width; ++x) {
      const std::uint8_t* p =
          rgba.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(stride) + static_cast<std::size_t>(x) * 4;
      const auto part = [&](int i) { return static_cast<float>(p[i]) / 255.0f; };
      picture.pixels.push_back({part(0), part(1), part(2), part(3)});
    }
  return picture;
}

bool isPicture(const std::string& path) {
  std::FILE* file = std::fopen(path.c_str(), "rbe");
  if (!file) return false;
  char first[32];
  const std::size_t got = std::fread(first, 1, sizeof first, file);
  std::fclose(file);
  return kindOf({first, got}) != nullptr;
}

Result<Palette> paletteFromPicture(const std::string& path, int colours) {
  const auto picture = readSmallPicture(path, 160);
  if (!picture) return tl::unexpected(picture.error());
  Palette palette{std::filesystem::path(path).stem().string(), mainColours(picture->pixels, colours)};
  if (palette.colours.empty()) return fail("is wholly transparent: there are no colours in it", path);
  return palette;
}

}  // namespace oa
