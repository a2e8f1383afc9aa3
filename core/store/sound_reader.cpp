#include "store/sound_reader.h"

extern "C" {
#include <libavutil/channel_layout.h>
#include <libswresample/swresample.h>
}

#include <algorithm>

namespace oa {
namespace {

constexpr const char* kDecoders =
    "aac,mp3float,mp3,opus,libopus,vorbis,flac,alac,ac3,pcm_u8,pcm_s16le,pcm_s24le,pcm_s32le,pcm_f32le,pcm_f64le,pcm_s16be,pcm_s24be,"
    // Beside the sound of a clip stand its pictures, and there may be one of a record's sleeve.
    "h264,hevc,libdav1d,vp8,vp9,prores,png,ffv1,mjpeg,mpeg4";
constexpr double kMostSecondsToRead = 60;

const char* demuxerOf(MediaKind kind) {
  switch (kind) {
    case MediaKind::Wav:
      return "wav";
    case MediaKind::Flac:
      return "flac";
    case MediaKind::Ogg:
      return "ogg";
    case MediaKind::Mp3:
      return "mp3";
    case MediaKind::Aac:
      return "aac";
    case MediaKind::Matroska:
      return "matroska,webm";
    default:
      return "mov,mp4,m4a,3gp,3g2,mj2";
  }
}

struct ResamplerFree {
  void operator()(SwrContext* p) const { swr_free(&p); }
};

// To two channels of floats at one rate, whatever comes; files may change in the middle.
class Converter {
 public:
  bool add(const AVFrame& frame, std::vector<float>& out) {
    if (!fits(frame) && !begin(frame, out)) return false;
    return convert(const_cast<const std::uint8_t**>(frame.extended_data), frame.nb_samples, out);
  }
  bool end(std::vector<float>& out) { return !swr_ || convert(nullptr, 0, out); }

 private:
  [[nodiscard]] bool fits(const AVFrame& f) const {
    return swr_ && f.sample_rate == rate_ && f.format == format_ && f.ch_layout.nb_channels == channels_;
  }
  bool begin(const AVFrame& f, std::vector<float>& out) {
    if (!end(out)) return false;
    if (f.sample_rate < 1000 || f.sample_rate > 768000 || f.ch_layout.nb_channels < 1 || f.ch_layout.nb_channels > 64) return false;
    AVChannelLayout two = AV_CHANNEL_LAYOUT_STEREO;
    AVChannelLayout from{};
    // Channels without names are taken as usual.
    if (f.ch_layout.order == AV_CHANNEL_ORDER_UNSPEC)
      av_channel_layout_default(&from, f.ch_layout.nb_channels);
    else
      av_channel_layout_copy(&from, &f.ch_layout);
    SwrContext* raw = nullptr;
    const int code = swr_alloc_set_opts2(&raw, &two, AV_SAMPLE_FMT_FLT, kSoundRate, &from, static_cast<AVSampleFormat>(f.format),
                                         f.sample_rate, 0, nullptr);
    av_channel_layout_uninit(&from);
    swr_.reset(raw);
    rate_ = f.sample_rate;
    format_ = f.format;
    channels_ = f.ch_layout.nb_channels;
    return code >= 0 && swr_init(swr_.get()) >= 0;
  }
  bool convert(const std::uint8_t** in, int count, std::vector<float>& out) {
    const int room = swr_get_out_samples(swr_.get(), count);
    if (room < 0) return false;
    const std::size_t before = out.size();
    out.resize(before + static_cast<std::size_t>(room) * 2);
    auto* to = reinterpret_cast<std::uint8_t*>(out.data() + before);
    const int made = room > 0 ? swr_convert(swr_.get(), &to, room, in, count) : 0;
    out.resize(before + static_cast<std::size_t>(std::max(0, made)) * 2);
    return made >= 0;
  }

  std::unique_ptr<SwrContext, ResamplerFree> swr_;
  int rate_ = 0;
  int format_ = -1;
  int channels_ = 0;
};

Error broken(MediaKind kind) { return {"is a damaged or unfinished " + std::string(kindName(kind)) + " file", {}}; }

}  // namespace

Result<std::shared_ptr<const Sound>> readSound(MediaKind kind, const MediaSource& source) {
  auto input = AvInput::open(source, demuxerOf(kind), kDecoders);
  if (!input) return tl::unexpected(broken(kind));
  AVFormatContext& format = *(*input)->context();
  (*input)->limit(kMostSecondsToRead);
  format.probesize = 4 << 20;
  if (avformat_find_stream_info(&format, nullptr) < 0) return tl::unexpected(broken(kind));
  const int index = av_find_best_stream(&format, AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0);
  if (index < 0) return fail("holds no sound");
  const AVStream& stream = *format.streams[index];
  const int pictures = av_find_best_stream(&format, AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
  for (unsigned i = 0; i < format.nb_streams; ++i)
    if (static_cast<int>(i) != index) format.streams[i]->discard = AVDISCARD_ALL;
  const AvCodec codec = openDecoder(stream, nullptr, 1);
  if (!codec || avcodec_open2(codec.get(), nullptr, nullptr) < 0) return fail("holds a sound of a kind that is not read");
  auto sound = std::make_shared<Sound>();
  Converter converter;
  const AvFrame frame(av_frame_alloc());
  const AvPacket packet(av_packet_alloc());
  std::int64_t first = AV_NOPTS_VALUE;
  bool any = false;
  for (bool drained = false;;) {
    const int got = avcodec_receive_frame(codec.get(), frame.get());
    if (got >= 0) {
      any = true;
      if (first == AV_NOPTS_VALUE) first = frame->best_effort_timestamp;
      if (!converter.add(*frame, sound->stereo)) return tl::unexpected(broken(kind));
      if (sound->samples() > kMostSamples) return fail("is a sound of more than half an hour");
      continue;
    }
    if (got == AVERROR_EOF || drained) break;
    const int read = av_read_frame(&format, packet.get());
    if (read < 0) {
      drained = true;
      avcodec_send_packet(codec.get(), nullptr);
      continue;
    }
    if (packet->stream_index == index) avcodec_send_packet(codec.get(), packet.get());
    av_packet_unref(packet.get());
  }
  if ((*input)->late()) return fail("takes too long to read");
  if (!any || !converter.end(sound->stereo) || sound->samples() < 1) return tl::unexpected(broken(kind));
  if (pictures >= 0 && first != AV_NOPTS_VALUE && format.streams[pictures]->start_time != AV_NOPTS_VALUE) {
    const double begins = static_cast<double>(first) * av_q2d(stream.time_base) -
                          static_cast<double>(format.streams[pictures]->start_time) * av_q2d(format.streams[pictures]->time_base);
    if (begins > -60 && begins < 60) sound->begins = begins;
  }
  return std::shared_ptr<const Sound>(std::move(sound));
}

}  // namespace oa
