#include "media/movie_writer.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "media/av.h"

namespace oa {

struct MovieWriter::State {
  MovieSettings settings;
  std::string path;
  AvCodec codec;
  AVFormatContext* container = nullptr;
  AVStream* stream = nullptr;
  AVRational tick{1, 1};          // length of a frame
  std::vector<AvPacket> packets;  // one run, in ticks
  std::int64_t next = 0;

  ~State() {
    if (!container) return;
    if (container->pb) avio_closep(&container->pb);
    avformat_free_context(container);
  }

  [[nodiscard]] tl::unexpected<Error> failed(const char* what, int code) const {
    return fail(std::string(what) + ": " + avReason(code), path);
  }

  // Takes packets from the encoder and keeps them until the whole run is there.
  Status collect() {
    for (;;) {
      AvPacket packet(av_packet_alloc());
      const int got = avcodec_receive_packet(codec.get(), packet.get());
      if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return {};
      if (got < 0) return failed("could not be encoded", got);
      packets.push_back(std::move(packet));
      // GIF's closing packet is only for the repeats.
      if (packets.back()->pts >= settings.run) continue;
      if (auto ok = write(*packets.back(), 0); !ok) return ok;
    }
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
    const int sent = avcodec_send_frame(codec.get(), frame);
    if (sent < 0 && sent != AVERROR_EOF) return failed("could not be encoded", sent);
    return collect();
  }
};

namespace {

// Constant quality for a size: a small picture has as much change in a pixel and fewer bits to say it with, so its
// quantiser is finer, by one for every halving of the area below full HD.
int finer(int crf, const MovieSettings& s) {
  const double area = static_cast<double>(s.width) * s.height / (1920.0 * 1080.0);
  return std::max(4, crf - std::max(0, static_cast<int>(std::lround(-std::log2(area)))));
}

void tuneVideo(AVCodecContext& c, const MovieSettings& s, AVDictionary** options) {
  c.pix_fmt = s.alpha ? AV_PIX_FMT_YUVA420P : AV_PIX_FMT_YUV420P;
  c.color_primaries = AVCOL_PRI_BT709;
  c.color_trc = AVCOL_TRC_BT709;
  c.colorspace = AVCOL_SPC_BT709;
  c.color_range = AVCOL_RANGE_MPEG;
  c.chroma_sample_location = AVCHROMA_LOC_CENTER;
  // Runs are cut into equal groups of pictures: one if they are short, for a key picture is a small visible beat.
  // VP9 favours its key pictures more, and finds its way back to them at the end of a long group.
  const int longest = s.format == ExportFormat::Mp4 ? 300 : 900;
  const int groups = (s.run + longest - 1) / longest;
  c.gop_size = (s.run + groups - 1) / groups;
  if (s.format == ExportFormat::Mp4) {
    av_dict_set(options, "preset", "veryfast", 0);
    av_dict_set(options, "crf", std::to_string(finer(13, s)).c_str(), 0);
    // Close weights of key, forward and two-way pictures, and no favour for pictures that others build on, keep
    // the joint as quiet as every other step; narrow dead zones keep slow motion moving in every frame in place
    // of every tenth. Adaptive quantisation biased to the dark keeps night skies from banding. Groups are
    // closed, so runs can be repeated.
    av_dict_set(options, "x264-params",
                "scenecut=0:open-gop=0:ipratio=1.1:pbratio=1.1:aq-mode=3:no-mbtree=1:no-dct-decimate=1:no-fast-pskip=1:"
                "deadzone-inter=6:deadzone-intra=6",
                0);
    av_dict_set(options, "profile", "high", 0);
  } else {
    c.bit_rate = 0;
    av_dict_set(options, "crf", std::to_string(finer(14, s)).c_str(), 0);
    av_dict_set(options, "deadline", "good", 0);
    av_dict_set(options, "cpu-used", "4", 0);
    av_dict_set(options, "row-mt", "1", 0);
    av_dict_set(options, "tile-columns", s.width >= 1024 ? "2" : "0", 0);
    // Hidden reference pictures do not go together with an alpha stream.
    av_dict_set(options, "auto-alt-ref", s.alpha ? "0" : "1", 0);
    av_dict_set(options, "lag-in-frames", "25", 0);
  }
}

}  // namespace

MovieWriter::MovieWriter(std::unique_ptr<State> state) : state_(std::move(state)) {}
MovieWriter::~MovieWriter() = default;

Result<std::unique_ptr<MovieWriter>> MovieWriter::open(const std::string& path, const MovieSettings& settings) {
  // Encoders chat on standard error; what matters comes back as return values.
  av_log_set_level(AV_LOG_QUIET);
  auto state = std::make_unique<State>();
  State& s = *state;
  s.settings = settings;
  s.path = path;
  const bool gif = settings.format == ExportFormat::Gif;
  const char* container = gif ? "gif" : (settings.format == ExportFormat::Mp4 ? "mp4" : "webm");
  const char* encoder = gif ? "gif" : (settings.format == ExportFormat::Mp4 ? "libx264" : "libvpx-vp9");
  int code = avformat_alloc_output_context2(&s.container, nullptr, container, path.c_str());
  if (code < 0) return s.failed("could not be set up", code);
  const AVCodec* codec = avcodec_find_encoder_by_name(encoder);
  if (!codec) return fail(std::string("the encoder ") + encoder + " is missing from this machine's FFmpeg libraries");
  s.codec.reset(avcodec_alloc_context3(codec));
  AVCodecContext& c = *s.codec;
  c.width = settings.width;
  c.height = settings.height;
  s.tick = {settings.rate.den, settings.rate.num};
  c.time_base = s.tick;
  c.framerate = {settings.rate.num, settings.rate.den};
  c.sample_aspect_ratio = {1, 1};
  c.thread_count = settings.threads;
  if (s.container->oformat->flags & AVFMT_GLOBALHEADER) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  AVDictionary* options = nullptr;
  if (gif) {
    c.pix_fmt = AV_PIX_FMT_PAL8;
    // Changes against the last frame cannot say "clear again", so with alpha every frame stands alone.
    if (settings.alpha) av_dict_set(&options, "gifflags", "-offsetting-transdiff", 0);
  } else {
    tuneVideo(c, settings, &options);
  }
  code = avcodec_open2(&c, codec, &options);
  av_dict_free(&options);
  if (code < 0) return s.failed("could not be encoded", code);
  s.stream = avformat_new_stream(s.container, nullptr);
  if (!s.stream) return s.failed("could not be set up", AVERROR(ENOMEM));
  s.stream->time_base = s.tick;
  s.stream->avg_frame_rate = c.framerate;
  s.stream->r_frame_rate = c.framerate;
  avcodec_parameters_from_context(s.stream->codecpar, &c);
  if (settings.alpha && settings.format == ExportFormat::WebM) av_dict_set(&s.stream->metadata, "alpha_mode", "1", 0);
  code = avio_open(&s.container->pb, path.c_str(), AVIO_FLAG_WRITE);
  if (code < 0) return s.failed("could not be written", code);
  AVDictionary* muxing = nullptr;
  if (settings.format == ExportFormat::Mp4) av_dict_set(&muxing, "movflags", "+faststart", 0);
  if (gif) av_dict_set(&muxing, "loop", "0", 0);
  code = avformat_write_header(s.container, &muxing);
  av_dict_free(&muxing);
  if (code < 0) return s.failed("could not be written", code);
  return std::unique_ptr<MovieWriter>(new MovieWriter(std::move(state)));
}

Status MovieWriter::add(const FrameYuv& frame) {
  State& s = *state_;
  AvFrame av(av_frame_alloc());
  av->format = s.codec->pix_fmt;
  av->width = frame.width;
  av->height = frame.height;
  av->color_primaries = s.codec->color_primaries;
  av->color_trc = s.codec->color_trc;
  av->colorspace = s.codec->colorspace;
  av->color_range = s.codec->color_range;
  if (const int code = av_frame_get_buffer(av.get(), 64); code < 0) return s.failed("could not be encoded", code);
  const auto copy = [&](int plane, const std::vector<std::uint8_t>& from, int width, int height) {
    for (int y = 0; y < height; ++y)
      std::memcpy(av->data[plane] + static_cast<std::ptrdiff_t>(y) * av->linesize[plane],
                  from.data() + static_cast<std::ptrdiff_t>(y) * width, static_cast<std::size_t>(width));
  };
  copy(0, frame.y, frame.width, frame.height);
  copy(1, frame.u, frame.width / 2, frame.height / 2);
  copy(2, frame.v, frame.width / 2, frame.height / 2);
  if (s.settings.alpha) copy(3, frame.alpha, frame.width, frame.height);
  return s.send(av.get());
}

Status MovieWriter::add(const std::vector<std::uint8_t>& indexes, const std::vector<std::uint32_t>& palette) {
  State& s = *state_;
  AvFrame av(av_frame_alloc());
  av->format = AV_PIX_FMT_PAL8;
  av->width = s.settings.width;
  av->height = s.settings.height;
  if (const int code = av_frame_get_buffer(av.get(), 64); code < 0) return s.failed("could not be encoded", code);
  for (int y = 0; y < av->height; ++y)
    std::memcpy(av->data[0] + static_cast<std::ptrdiff_t>(y) * av->linesize[0], indexes.data() + static_cast<std::ptrdiff_t>(y) * av->width,
                static_cast<std::size_t>(av->width));
  std::memcpy(av->data[1], palette.data(), std::min<std::size_t>(256, palette.size()) * 4);
  return s.send(av.get());
}

Status MovieWriter::finish() {
  State& s = *state_;
  if (auto ok = s.send(nullptr); !ok) return ok;
  // A GIF's first packet carries the file's header; repeats begin with the closing one, which shows the same
  // picture as a change from the last.
  if (s.settings.format == ExportFormat::Gif && s.settings.repeats > 1) {
    std::rotate(s.packets.begin(), s.packets.end() - 1, s.packets.end());
    s.packets.erase(s.packets.begin() + 1);
    s.packets.front()->pts -= s.settings.run;
    s.packets.front()->dts -= s.settings.run;
  }
  for (int repeat = 1; repeat < s.settings.repeats; ++repeat)
    for (const AvPacket& packet : s.packets)
      if (auto ok = s.write(*packet, std::int64_t{repeat} * s.settings.run); !ok) return ok;
  int code = av_write_trailer(s.container);
  if (code >= 0 && s.container->pb->error < 0) code = s.container->pb->error;
  const int closed = avio_closep(&s.container->pb);
  if (code < 0 || closed < 0) return s.failed("could not be written", code < 0 ? code : closed);
  return {};
}

}  // namespace oa
