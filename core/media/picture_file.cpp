#include "media/picture_file.h"

#include <algorithm>
#include <filesystem>
#include <memory>

#include "image/colour_clusters.h"
#include "media/av.h"

extern "C" {
#include <libswscale/swscale.h>
}

namespace oa {
namespace {

constexpr std::uintmax_t kMostBytes = std::uintmax_t{512} << 20;
constexpr int kLongestSide = 16384;

struct InputClose {
  void operator()(AVFormatContext* p) const { avformat_close_input(&p); }
};
struct ScalerFree {
  void operator()(SwsContext* p) const { sws_freeContext(p); }
};

Error notAPicture(const std::string& path) { return {"is not a picture that can be read; PNG, JPEG, WebP, GIF, TIFF and BMP can", path}; }

// The first frame of the best video stream.
Result<AvFrame> firstFrame(const std::string& path) {
  AVFormatContext* raw = nullptr;
  // Only the file itself: formats that name other files or addresses do not get at them.
  AVDictionary* options = nullptr;
  av_dict_set(&options, "protocol_whitelist", "file", 0);
  const int opened = avformat_open_input(&raw, ("file:" + path).c_str(), nullptr, &options);
  av_dict_free(&options);
  if (opened < 0) return tl::unexpected(notAPicture(path));
  const std::unique_ptr<AVFormatContext, InputClose> input(raw);
  if (avformat_find_stream_info(input.get(), nullptr) < 0) return tl::unexpected(notAPicture(path));
  const AVCodec* decoder = nullptr;
  const int stream = av_find_best_stream(input.get(), AVMEDIA_TYPE_VIDEO, -1, -1, &decoder, 0);
  if (stream < 0 || !decoder) return tl::unexpected(notAPicture(path));
  const AVCodecParameters* parameters = input->streams[stream]->codecpar;
  if (parameters->width > kLongestSide || parameters->height > kLongestSide)
    return fail("is larger than " + std::to_string(kLongestSide) + " pixels a side", path);
  const AvCodec codec(avcodec_alloc_context3(decoder));
  if (!codec || avcodec_parameters_to_context(codec.get(), parameters) < 0) return tl::unexpected(notAPicture(path));
  codec->max_pixels = std::int64_t{kLongestSide} * kLongestSide;
  if (avcodec_open2(codec.get(), decoder, nullptr) < 0) return tl::unexpected(notAPicture(path));
  AvFrame frame(av_frame_alloc());
  const AvPacket packet(av_packet_alloc());
  for (int packets = 0; packets < 1000; ++packets) {
    const int read = av_read_frame(input.get(), packet.get());
    if (read >= 0 && packet->stream_index == stream && avcodec_send_packet(codec.get(), packet.get()) < 0)
      return tl::unexpected(notAPicture(path));
    av_packet_unref(packet.get());
    if (read < 0) avcodec_send_packet(codec.get(), nullptr);
    if (avcodec_receive_frame(codec.get(), frame.get()) >= 0) return frame;
    if (read < 0) break;
  }
  return tl::unexpected(notAPicture(path));
}

}  // namespace

Result<SmallPicture> readSmallPicture(const std::string& path, int longest) {
  std::error_code failed;
  const auto bytes = std::filesystem::file_size(path, failed);
  if (failed) return fail("cannot be read: " + failed.message(), path);
  if (bytes > kMostBytes) return fail("is larger than 512 MB", path);
  av_log_set_level(AV_LOG_QUIET);
  const auto frame = firstFrame(path);
  if (!frame) return tl::unexpected(frame.error());
  const AVFrame& f = **frame;
  if (f.width < 1 || f.height < 1 || f.width > kLongestSide || f.height > kLongestSide) return tl::unexpected(notAPicture(path));
  const double scale = std::min(1.0, static_cast<double>(longest) / std::max(f.width, f.height));
  SmallPicture picture;
  picture.width = std::max(1, static_cast<int>(f.width * scale));
  picture.height = std::max(1, static_cast<int>(f.height * scale));
  const std::unique_ptr<SwsContext, ScalerFree> scaler(sws_getContext(f.width, f.height, static_cast<AVPixelFormat>(f.format),
                                                                      picture.width, picture.height, AV_PIX_FMT_RGBA, SWS_AREA, nullptr,
                                                                      nullptr, nullptr));
  if (!scaler) return tl::unexpected(notAPicture(path));
  const int stride = (picture.width * 4 + 63) / 64 * 64;
  std::vector<std::uint8_t> rgba(static_cast<std::size_t>(stride) * static_cast<std::size_t>(picture.height) + 64);
  std::uint8_t* const to[4] = {rgba.data(), nullptr, nullptr, nullptr};
  const int strides[4] = {stride, 0, 0, 0};
  if (sws_scale(scaler.get(), f.data, f.linesize, 0, f.height, to, strides) != picture.height) return tl::unexpected(notAPicture(path));
  for (int y = 0; y < picture.height; ++y)
    for (int x = 0; x < picture.width; ++x) {
      const std::uint8_t* p =
          rgba.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(stride) + static_cast<std::size_t>(x) * 4;
      const auto part = [&](int i) { return static_cast<float>(p[i]) / 255.0f; };
      picture.pixels.push_back({part(0), part(1), part(2), part(3)});
    }
  return picture;
}

Result<Palette> paletteFromPicture(const std::string& path, int colours) {
  const auto picture = readSmallPicture(path, 160);
  if (!picture) return tl::unexpected(picture.error());
  Palette palette{std::filesystem::path(path).stem().string(), mainColours(picture->pixels, colours)};
  if (palette.colours.empty()) return fail("is wholly transparent: there are no colours in it", path);
  return palette;
}

}  // namespace oa
