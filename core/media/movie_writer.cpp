#include "media/movie_writer.h"

#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/av.h"
#include "media/h264_encoder.h"
#include "media/key_groups.h"
#include "media/vp9_encoder.h"

namespace oa {

namespace {

constexpr int kIoBuffer = 1 << 16;

// The file is written through its own descriptor: no name of it reaches FFmpeg, which would take some for addresses.
int writeTo(void* file, std::uint8_t* bytes, int count) {
  const auto put = static_cast<OutputFile*>(file)->write({reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(count)});
  return put ? count : AVERROR(EIO);
}

std::int64_t seekIn(void* file, std::int64_t offset, int whence) {
  const int descriptor = static_cast<OutputFile*>(file)->descriptor();
  if (whence == AVSEEK_SIZE) {
    struct stat info {};
    return ::fstat(descriptor, &info) == 0 ? static_cast<std::int64_t>(info.st_size) : AVERROR(errno);
  }
  const auto at = ::lseek(descriptor, offset, whence & ~AVSEEK_FORCE);
  return at < 0 ? AVERROR(errno) : static_cast<std::int64_t>(at);
}

}  // namespace

struct MovieWriter::State {
  MovieSettings settings;
  OutputFile* file = nullptr;
  AvCodec h264;
  std::unique_ptr<Vp9Encoder> vp9;
  std::unique_ptr<Vp9Encoder> vp9Alpha;
  AVFormatContext* container = nullptr;
  AVStream* stream = nullptr;
  AVRational tick{1, 1};          // length of a frame
  std::vector<AvPacket> packets;  // one run, in ticks; only where it is repeated
  std::int64_t next = 0;

  ~State() {
    if (!container) return;
    if (container->pb) {
      av_freep(&container->pb->buffer);
      avio_context_free(&container->pb);
    }
    avformat_free_context(container);
  }

  [[nodiscard]] tl::unexpected<Error> failed(const char* what, int code) const {
    // A write that failed says more than what FFmpeg makes of it.
    if (auto written = file->write({}); !written) return tl::unexpected(written.error());
    return fail(std::string(what) + ": " + avReason(code));
  }

  // Takes packets from the H.264 encoder.
  Status collect() {
    for (;;) {
      AvPacket packet(av_packet_alloc());
      const int got = avcodec_receive_packet(h264.get(), packet.get());
      if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return {};
      if (got < 0) return failed("could not be encoded", got);
      if (auto ok = keep(std::move(packet)); !ok) return ok;
    }
  }

  // Writes a packet of the run, and remembers it for the repeats.
  Status keep(AvPacket packet) {
    if (auto ok = write(*packet, 0); !ok) return ok;
    if (settings.repeats > 1) packets.push_back(std::move(packet));
    return {};
  }

  // Writes a packet `shift` ticks later.
  Status write(const AVPacket& source, std::int64_t shift) {
    AvPacket packet(av_packet_clone(&source));
    if (!packet) return failed("could not be written", AVERROR(ENOMEM));
    packet->pts += shift;
    packet->dts += shift;
    packet->duration = 1;
    av_packet_rescale_ts(packet.get(), tick, stream->time_base);
    packet->stream_index = stream->index;
    const int put = av_interleaved_write_frame(container, packet.get());
    if (put < 0) return failed("could not be written", put);
    if (container->pb && container->pb->error < 0) return failed("could not be written", container->pb->error);
    return {};
  }

  Status send(AVFrame* frame) {
    if (frame) frame->pts = next++;
    const int sent = avcodec_send_frame(h264.get(), frame);
    if (sent < 0 && sent != AVERROR_EOF) return failed("could not be encoded", sent);
    return collect();
  }
};

namespace {

// Constant quality for a size: a small picture has as much change in a pixel and fewer bits to say it with, so its
// quantiser is finer, by one for every halving of the area below full HD, three at most.
int finer(int crf, const MovieSettings& s) {
  const double area = static_cast<double>(s.width) * s.height / (1920.0 * 1080.0);
  return crf - std::clamp(static_cast<int>(std::lround(-std::log2(area))), 0, 3);
}

void tagColours(AVCodecParameters& p) {
  p.color_primaries = AVCOL_PRI_BT709;
  p.color_trc = AVCOL_TRC_BT709;
  p.color_space = AVCOL_SPC_BT709;
  p.color_range = AVCOL_RANGE_MPEG;
  p.chroma_location = AVCHROMA_LOC_CENTER;
}

}  // namespace

MovieWriter::MovieWriter(std::unique_ptr<State> state) : state_(std::move(state)) {}
MovieWriter::~MovieWriter() = default;

Result<std::unique_ptr<MovieWriter>> MovieWriter::open(OutputFile& file, const MovieSettings& settings) {
  // Encoders chat on standard error; what matters comes back as return values.
  av_log_set_level(AV_LOG_QUIET);
  auto state = std::make_unique<State>();
  State& s = *state;
  s.settings = settings;
  s.file = &file;
  const bool mp4 = settings.format == ExportFormat::Mp4;
  int code = avformat_alloc_output_context2(&s.container, nullptr, mp4 ? "mp4" : "webm", nullptr);
  if (code < 0) return s.failed("could not be set up", code);
  s.tick = {settings.rate.den, settings.rate.num};
  // No version texts and no random numbers: the same scene gives the same bytes.
  s.container->flags |= AVFMT_FLAG_BITEXACT;
  s.stream = avformat_new_stream(s.container, nullptr);
  if (!s.stream) return s.failed("could not be set up", AVERROR(ENOMEM));
  s.stream->time_base = s.tick;
  s.stream->avg_frame_rate = s.stream->r_frame_rate = {settings.rate.num, settings.rate.den};
  if (mp4) {
    const bool globalHeader = (s.container->oformat->flags & AVFMT_GLOBALHEADER) != 0;
    auto codec =
        openH264({settings.width, settings.height, settings.rate, settings.run, finer(13, settings), settings.threads, globalHeader});
    if (!codec) return tl::unexpected(codec.error());
    s.h264 = std::move(*codec);
    avcodec_parameters_from_context(s.stream->codecpar, s.h264.get());
  } else {
    Vp9Settings vp9{settings.width, settings.height, settings.rate, false, finer(14, settings), settings.threads};
    auto encoder = Vp9Encoder::open(vp9);
    if (!encoder) return tl::unexpected(encoder.error());
    s.vp9 = std::move(*encoder);
    if (settings.alpha) {
      vp9.alphaPlane = true;
      auto alpha = Vp9Encoder::open(vp9);
      if (!alpha) return tl::unexpected(alpha.error());
      s.vp9Alpha = std::move(*alpha);
      av_dict_set(&s.stream->metadata, "alpha_mode", "1", 0);
    }
    AVCodecParameters& p = *s.stream->codecpar;
    p.codec_type = AVMEDIA_TYPE_VIDEO;
    p.codec_id = AV_CODEC_ID_VP9;
    p.width = settings.width;
    p.height = settings.height;
    p.format = AV_PIX_FMT_YUV420P;
    p.sample_aspect_ratio = {1, 1};
    tagColours(p);
  }
  auto* buffer = static_cast<std::uint8_t*>(av_malloc(kIoBuffer));
  s.container->pb = avio_alloc_context(buffer, kIoBuffer, 1, &file, nullptr, writeTo, file.seekable() ? seekIn : nullptr);
  if (!s.container->pb) return s.failed("could not be set up", AVERROR(ENOMEM));
  s.container->flags |= AVFMT_FLAG_CUSTOM_IO;
  AVDictionary* muxing = nullptr;
  if (mp4) {
    // To put the index in front the muxer reads its own file once more, by its working name.
    s.container->url = av_strdup(("file:" + file.workPath()).c_str());
    av_dict_set(&muxing, "movflags", "+faststart", 0);
  }
  code = avformat_write_header(s.container, &muxing);
  av_dict_free(&muxing);
  if (code < 0) return s.failed("could not be written", code);
  return std::unique_ptr<MovieWriter>(new MovieWriter(std::move(state)));
}

Status MovieWriter::add(const FrameYuv& frame) {
  State& s = *state_;
  if (s.vp9) return addVp9(frame);
  AvFrame av(av_frame_alloc());
  av->format = s.h264->pix_fmt;
  av->width = frame.width;
  av->height = frame.height;
  av->color_primaries = s.h264->color_primaries;
  av->color_trc = s.h264->color_trc;
  av->colorspace = s.h264->colorspace;
  av->color_range = s.h264->color_range;
  if (const int code = av_frame_get_buffer(av.get(), 64); code < 0) return s.failed("could not be encoded", code);
  const auto copy = [&](int plane, const std::vector<std::uint8_t>& from, int width, int height) {
    for (int y = 0; y < height; ++y)
      std::memcpy(av->data[plane] + static_cast<std::ptrdiff_t>(y) * av->linesize[plane],
                  from.data() + static_cast<std::ptrdiff_t>(y) * width, static_cast<std::size_t>(width));
  };
  copy(0, frame.y, frame.width, frame.height);
  copy(1, frame.u, frame.width / 2, frame.height / 2);
  copy(2, frame.v, frame.width / 2, frame.height / 2);
  return s.send(av.get());
}

Status MovieWriter::addVp9(const FrameYuv& frame) {
  State& s = *state_;
  const std::int64_t number = s.next++;
  const bool key = number % groupLength(s.settings.run) == 0;
  const bool exact = nearKey(number, s.settings.run);
  const auto coded = s.vp9->encode(frame, number, key, exact);
  if (!coded) return tl::unexpected(coded.error());
  AvPacket packet(av_packet_alloc());
  if (!packet || av_new_packet(packet.get(), static_cast<int>(coded->bytes.size())) < 0)
    return s.failed("could not be encoded", AVERROR(ENOMEM));
  std::copy(coded->bytes.begin(), coded->bytes.end(), packet->data);
  if (s.vp9Alpha) {
    const auto alpha = s.vp9Alpha->encode(frame, number, key, exact);
    if (!alpha) return tl::unexpected(alpha.error());
    // A block's addition of kind 1, as WebM carries alpha; the first eight bytes are that kind.
    std::uint8_t* side = av_packet_new_side_data(packet.get(), AV_PKT_DATA_MATROSKA_BLOCKADDITIONAL, alpha->bytes.size() + 8);
    if (!side) return s.failed("could not be encoded", AVERROR(ENOMEM));
    std::fill_n(side, 7, std::uint8_t{0});
    side[7] = 1;
    std::copy(alpha->bytes.begin(), alpha->bytes.end(), side + 8);
  }
  packet->pts = packet->dts = number;
  if (coded->key) packet->flags |= AV_PKT_FLAG_KEY;
  return s.keep(std::move(packet));
}

Status MovieWriter::finish() {
  State& s = *state_;
  if (s.h264)
    if (auto ok = s.send(nullptr); !ok) return ok;
  for (std::int64_t repeat = 1; repeat < s.settings.repeats; ++repeat)
    for (const AvPacket& packet : s.packets)
      if (auto ok = s.write(*packet, repeat * s.settings.run); !ok) return ok;
  int code = av_write_trailer(s.container);
  avio_flush(s.container->pb);
  if (code >= 0 && s.container->pb->error < 0) code = s.container->pb->error;
  if (code < 0) return s.failed("could not be written", code);
  return {};
}

}  // namespace oa
