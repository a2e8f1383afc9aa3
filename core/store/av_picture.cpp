#include "store/av_picture.h"

#include <algorithm>

#include "store/av_frame.h"
#include "store/av_input.h"

namespace oa {
namespace {

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

// The first frame of the picture.
Result<AvFrame> firstFrame(MediaKind kind, std::string_view bytes) {
  const Reader reader = readerOf(kind);
  if (!avcodec_find_decoder_by_name(reader.decoder))
    return fail("cannot be read: this machine's FFmpeg libraries have no reader for " + std::string(kindName(kind)));
  const auto input = AvInput::open(bytes, reader.demuxer, reader.decoder);
  if (!input || (*input)->context()->nb_streams != 1) return tl::unexpected(broken(kind));
  const AvCodec codec = openDecoder(*(*input)->context()->streams[0], reader.decoder, 1);
  if (!codec) return tl::unexpected(broken(kind));
  // Scene-linear light is shown as sRGB.
  if (kind == MediaKind::Exr) av_opt_set(codec->priv_data, "apply_trc", "iec61966_2_1", 0);
  if (avcodec_open2(codec.get(), nullptr, nullptr) < 0) return tl::unexpected(broken(kind));
  AvFrame frame(av_frame_alloc());
  const AvPacket packet(av_packet_alloc());
  for (int packets = 0; packets < 1000; ++packets) {
    const int read = av_read_frame((*input)->context(), packet.get());
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
  auto raster = rasterOf(**frame, (*frame)->width, (*frame)->height);
  if (!raster) return tl::unexpected(broken(kind));
  return std::move(*raster);
}

}  // namespace oa
