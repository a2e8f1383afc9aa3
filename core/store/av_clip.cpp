// Clips, and the animated pictures that FFmpeg reads.
#include <algorithm>
#include <cmath>

#include "store/av_frame.h"
#include "store/media_ref.h"
#include "store/moving.h"

extern "C" {
#include <libavutil/display.h>
}

namespace oa {
namespace {

constexpr const char* kDecoders =
    "h264,hevc,libdav1d,vp8,vp9,libvpx,libvpx-vp9,prores,png,ffv1,mjpeg,mpeg4,gif,apng,"
    // What else may stand in the same file is named, so that it can be left out.
    "aac,mp3float,mp3,opus,libopus,vorbis,flac,pcm_s16le,pcm_s24le,pcm_f32le,pcm_s16be,alac,ac3";
constexpr AVCodecID kVideo[] = {AV_CODEC_ID_H264,  AV_CODEC_ID_HEVC,   AV_CODEC_ID_AV1, AV_CODEC_ID_VP8,
                                AV_CODEC_ID_VP9,   AV_CODEC_ID_PRORES, AV_CODEC_ID_PNG, AV_CODEC_ID_FFV1,
                                AV_CODEC_ID_MJPEG, AV_CODEC_ID_MPEG4,  AV_CODEC_ID_GIF, AV_CODEC_ID_APNG};
// What a clip may take until it is known.
constexpr double kMostSecondsToOpen = 20;
constexpr double kMostSecondsToDecode = 20;

const char* demuxerOf(MediaKind kind) {
  if (kind == MediaKind::Gif) return "gif";
  if (kind == MediaKind::Png) return "apng";
  return kind == MediaKind::Matroska ? "matroska,webm" : "mov,mp4,m4a,3gp,3g2,mj2";
}

Error broken(MediaKind kind) { return {"is a damaged or unfinished " + std::string(kindName(kind)) + " file", {}}; }

// Pictures that only others are made from are not shown (RFC 6386, section 9.1: bit 4 of the frame's tag).
bool isHidden(const AVStream& stream, const AVPacket& packet) {
  return stream.codecpar->codec_id == AV_CODEC_ID_VP8 && packet.size > 0 && (packet.data[0] & 0x10) == 0;
}

class AvClip final : public MovingReader {
 public:
  static Result<std::unique_ptr<MovingReader>> open(MediaKind kind, const MediaSource& source, std::shared_ptr<const MovingInfo> known) {
    auto input = AvInput::open(source, demuxerOf(kind), kDecoders);
    if (!input) return tl::unexpected(broken(kind));
    std::unique_ptr<AvClip> clip(new AvClip(kind, std::move(*input)));
    AVFormatContext& format = *clip->input_->context();
    clip->input_->limit(kMostSecondsToOpen);
    format.probesize = 8 << 20;
    if (avformat_find_stream_info(&format, nullptr) < 0) return tl::unexpected(broken(kind));
    const int index = av_find_best_stream(&format, AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
    if (index < 0) return fail("holds no moving picture");
    clip->stream_ = format.streams[index];
    const AVCodecParameters& p = *clip->stream_->codecpar;
    if (std::find(std::begin(kVideo), std::end(kVideo), p.codec_id) == std::end(kVideo))
      return fail(std::string("holds a moving picture of a kind that is not read: ") + avcodec_get_name(p.codec_id));
    if (p.width < 1 || p.height < 1 || p.width > kLongestSide || p.height > kLongestSide ||
        static_cast<std::int64_t>(p.width) * p.height > kMostPixels)
      return fail("is larger than can be read");
    for (unsigned i = 0; i < format.nb_streams; ++i)
      if (static_cast<int>(i) != index) format.streams[i]->discard = AVDISCARD_ALL;
    clip->turn_ = quartersOf(*clip->stream_);
    clip->info_ = std::move(known);
    if (auto ok = clip->measure(); !ok) return tl::unexpected(ok.error());
    if (auto ok = clip->openCodec(); !ok) return tl::unexpected(ok.error());
    return std::unique_ptr<MovingReader>(std::move(clip));
  }

  [[nodiscard]] std::size_t next() const override { return next_; }

  Result<Raster> picture(std::size_t index) override {
    input_->limit(kMostSecondsToDecode);
    if (!last_ || index != lastIndex_) {
      if (index < next_ || index > next_ + kFarther) seekTo(index);
      // A file may take us too far.
      if (!decodeTo(index)) {
        restart();
        decodeTo(index);
      }
    }
    if (!last_) return tl::unexpected(broken(kind_));
    auto raster = rasterOf(*last_, flat_.first, flat_.second);
    if (!raster) return tl::unexpected(broken(kind_));
    return turnedBy(*raster, turn_);
  }

 private:
  AvClip(MediaKind kind, std::unique_ptr<AvInput> input)
      : kind_(kind), input_(std::move(input)), frame_(av_frame_alloc()), packet_(av_packet_alloc()) {}

  static int quartersOf(const AVStream& stream) {
    const auto* matrix = reinterpret_cast<const std::int32_t*>(av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr));
    if (!matrix) return 0;
    const double angle = av_display_rotation_get(matrix);
    return std::isfinite(angle) ? static_cast<int>(std::lround(-angle / 90)) : 0;
  }

  Status measure() {
    const AVCodecParameters& p = *stream_->codecpar;
    const AVRational pixel = av_guess_sample_aspect_ratio(input_->context(), stream_, nullptr);
    const double wide = pixel.num > 0 && pixel.den > 0 ? static_cast<double>(pixel.num) / pixel.den : 1;
    flat_ = {p.width, p.height};
    if (wide > 0.1 && wide < 10 && std::abs(wide - 1) > 1e-3)
      flat_.first = std::clamp(static_cast<int>(std::lround(p.width * wide)), 1, kLongestSide);
    return info_ ? Status{} : list();
  }

  // When each picture begins, from the packets alone.
  Status list() {
    auto info = std::make_shared<MovingInfo>();
    std::vector<std::int64_t>& ticks = info->ticks;
    std::int64_t end = 0;
    while (av_read_frame(input_->context(), packet_.get()) >= 0) {
      const AVPacket& packet = *packet_;
      const std::int64_t at = packet.pts != AV_NOPTS_VALUE ? packet.pts : packet.dts;
      const bool shown = packet.stream_index == stream_->index && at != AV_NOPTS_VALUE && (packet.flags & AV_PKT_FLAG_DISCARD) == 0 &&
                         packet.size > 0 && !isHidden(*stream_, packet);
      if (shown) {
        ticks.push_back(at);
        end = std::max(end, at + packet.duration);
      }
      av_packet_unref(packet_.get());
      if (ticks.size() > kMostPictures) return fail("has more pictures than can be read");
    }
    if (input_->late()) return fail("takes too long to read");
    std::sort(ticks.begin(), ticks.end());
    ticks.erase(std::unique(ticks.begin(), ticks.end()), ticks.end());
    if (ticks.empty()) return tl::unexpected(broken(kind_));
    const double tick = av_q2d(stream_->time_base);
    const bool lying = turn_ % 2 != 0;
    info->width = lying ? flat_.second : flat_.first;
    info->height = lying ? flat_.first : flat_.second;
    for (const std::int64_t at : ticks) info->times.push_back(static_cast<double>(at - ticks.front()) * tick);
    // The last is shown as long as it says, or as long as the others are.
    const std::size_t n = ticks.size();
    const double usual = n > 1 ? info->times.back() / static_cast<double>(n - 1) : 0;
    info->seconds = static_cast<double>(end - ticks.front()) * tick;
    if (info->seconds <= info->times.back()) info->seconds = info->times.back() + (usual > 0 ? usual : 0.1);
    if (!(info->seconds > 0) || info->seconds > kMostMediaSeconds) return fail("lasts longer than ten hours");
    info_ = std::move(info);
    return {};
  }

  Status openCodec() {
    const AVCodecID id = stream_->codecpar->codec_id;
    const AVDictionaryEntry* mode = av_dict_get(stream_->metadata, "alpha_mode", nullptr, 0);
    const bool alpha = mode && std::string_view(mode->value) == "1";
    // Their alpha is a second stream beside the first, which only libvpx's own decoder reads.
    const char* name = nullptr;
    if (alpha && id == AV_CODEC_ID_VP8) name = "libvpx";
    if (alpha && id == AV_CODEC_ID_VP9) name = "libvpx-vp9";
    if (id == AV_CODEC_ID_AV1) name = "libdav1d";
    codec_ = openDecoder(*stream_, name, 2);
    if (!codec_ || avcodec_open2(codec_.get(), nullptr, nullptr) < 0) return tl::unexpected(broken(kind_));
    restart();
    return {};
  }

  void restart() {
    av_seek_frame(input_->context(), stream_->index, info_->ticks.front(), AVSEEK_FLAG_BACKWARD);
    flush(0);
  }

  void seekTo(std::size_t index) {
    if (av_seek_frame(input_->context(), stream_->index, info_->ticks[index], AVSEEK_FLAG_BACKWARD) < 0) return restart();
    flush(index);
  }

  void flush(std::size_t next) {
    avcodec_flush_buffers(codec_.get());
    drained_ = false;
    next_ = next;
    last_.reset();
  }

  // Decodes until the picture is there, or one behind it; last_ is then the nearest at or before it, if any was met.
  bool decodeTo(std::size_t index) {
    while (receive()) {
      const std::size_t at = indexOf();
      next_ = at + 1;
      if (at > index) break;
      std::swap(last_, frame_);
      if (!frame_) frame_.reset(av_frame_alloc());
      lastIndex_ = at;
      if (at == index) break;
    }
    return last_ != nullptr;
  }

  // The next picture that the decoder has.
  bool receive() {
    // A file that only feeds the decoder and never brings a picture.
    for (int packets = 0; packets < 100000 && !input_->late();) {
      const int got = avcodec_receive_frame(codec_.get(), frame_.get());
      if (got >= 0) {
        if (frame_->best_effort_timestamp == AV_NOPTS_VALUE || (frame_->flags & AV_FRAME_FLAG_DISCARD) != 0) continue;
        return true;
      }
      if (got == AVERROR_EOF || drained_) return false;
      const int read = av_read_frame(input_->context(), packet_.get());
      if (read < 0) {
        drained_ = true;
        avcodec_send_packet(codec_.get(), nullptr);
        continue;
      }
      ++packets;
      // What cannot be decoded is left out.
      if (packet_->stream_index == stream_->index) avcodec_send_packet(codec_.get(), packet_.get());
      av_packet_unref(packet_.get());
    }
    return false;
  }

  // Which picture the decoded frame is: the last that begins no later.
  [[nodiscard]] std::size_t indexOf() const {
    const std::vector<std::int64_t>& ticks = info_->ticks;
    const auto after = std::upper_bound(ticks.begin(), ticks.end(), frame_->best_effort_timestamp);
    return after == ticks.begin() ? 0 : static_cast<std::size_t>(after - ticks.begin()) - 1;
  }

  // Further on it is quicker to look for a key picture.
  static constexpr std::size_t kFarther = 48;

  MediaKind kind_;
  std::unique_ptr<AvInput> input_;
  AVStream* stream_ = nullptr;
  AvCodec codec_;
  AvFrame frame_;
  AvFrame last_;
  std::size_t lastIndex_ = 0;
  AvPacket packet_;
  std::pair<int, int> flat_;  // the size before it is turned
  int turn_ = 0;
  std::size_t next_ = 0;
  bool drained_ = false;
};

}  // namespace

Result<std::unique_ptr<MovingReader>> openAvClip(MediaKind kind, const MediaSource& source, std::shared_ptr<const MovingInfo> known) {
  return AvClip::open(kind, source, std::move(known));
}

}  // namespace oa
