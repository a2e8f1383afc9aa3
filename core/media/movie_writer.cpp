#include "media/movie_writer.h"

#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "base/av.h"
#include "image/wide_yuv.h"
#include "media/av_encoder.h"
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
  AvCodec codec;  // FFmpeg's encoder, where it is one
  std::unique_ptr<Vp9Encoder> vp9;
  std::unique_ptr<Vp9Encoder> vp9Alpha;
  AVFormatContext* container = nullptr;
  AVStream* stream = nullptr;
  std::unique_ptr<SoundEncoder> sound;
  AVStream* soundStream = nullptr;
  AVRational tick{1, 1};          // length of a frame
  std::vector<AvPacket> packets;  // of the stretch, in ticks; only where it is repeated
  std::int64_t next = 0;          // frame of the stretch
  std::size_t stretch = 0;
  std::int64_t begun = 0;  // frames in the file before the stretch
  bool globalHeader = false;

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

  // Takes packets from FFmpeg's encoder.
  Status collect() {
    for (;;) {
      AvPacket packet(av_packet_alloc());
      const int got = avcodec_receive_packet(codec.get(), packet.get());
      if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return {};
      if (got < 0) return failed("could not be encoded", got);
      if (auto ok = keep(std::move(packet)); !ok) return ok;
    }
  }

  [[nodiscard]] const ExportStretch& here() const { return settings.stretches[stretch]; }

  // Writes a packet of the stretch, and remembers it for the repeats.
  Status keep(AvPacket packet) {
    if (auto ok = write(*packet, begun); !ok) return ok;
    if (here().repeats > 1) packets.push_back(std::move(packet));
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
    // Sound comes no later than the picture it is heard with.
    if (auto ok = soundUntil(static_cast<double>(source.dts + shift + 1) / settings.rate.value(), false); !ok) return ok;
    return put(std::move(packet));
  }

  Status put(AvPacket packet) {
    const int put = av_interleaved_write_frame(container, packet.get());
    if (put < 0) return failed("could not be written", put);
    if (container->pb && container->pb->error < 0) return failed("could not be written", container->pb->error);
    return {};
  }

  // The length of all of it, in samples.
  [[nodiscard]] std::int64_t samples() const {
    std::int64_t frames = 0;
    for (const ExportStretch& s : settings.stretches) frames += s.count * s.repeats;
    return std::llround(static_cast<double>(frames) / settings.rate.value() * kSoundRate);
  }

  // A stretch is encoded for itself, so that its packets stand alone: written once more, they are the same pictures once more.
  Status nextStretch() {
    if (codec)
      if (auto ok = send(nullptr); !ok) return ok;
    const ExportStretch done = here();
    for (std::int64_t repeat = 1; repeat < done.repeats; ++repeat)
      for (const AvPacket& packet : packets)
        if (auto ok = write(*packet, begun + repeat * done.count); !ok) return ok;
    packets.clear();
    if (stretch + 1 == settings.stretches.size()) return {};
    begun += done.count * done.repeats;
    ++stretch;
    next = 0;
    settings.run = here().count;
    return vp9 ? openVp9() : openCodec();
  }

  Status soundUntil(double seconds, bool last) {
    if (!sound) return {};
    const std::int64_t until = last ? samples() : std::min<std::int64_t>(samples(), std::llround(seconds * kSoundRate));
    return sound->encode(settings.sound, until, last, [&](AvPacket packet) {
      av_packet_rescale_ts(packet.get(), {1, kSoundRate}, soundStream->time_base);
      packet->stream_index = soundStream->index;
      return put(std::move(packet));
    });
  }

  // Before a frame: the next stretch, where it is the first one of it.
  Status begin() { return next < here().count ? Status() : nextStretch(); }

  template <class Frame>
  Status sendPacked(const Frame& frame, AVFrame& av);
  Status openCodec();
  Status openVp9();

  Status end() {
    int code = av_write_trailer(container);
    avio_flush(container->pb);
    if (code >= 0 && container->pb->error < 0) code = container->pb->error;
    if (code < 0) return failed("could not be written", code);
    return {};
  }

  // An empty picture for FFmpeg's encoder.
  [[nodiscard]] AvFrame blank(int width, int height) const {
    AvFrame av(av_frame_alloc());
    if (!av) return av;
    av->format = codec->pix_fmt;
    av->width = width;
    av->height = height;
    av->color_primaries = codec->color_primaries;
    av->color_trc = codec->color_trc;
    av->colorspace = codec->colorspace;
    av->color_range = codec->color_range;
    if (av_frame_get_buffer(av.get(), 64) < 0) av.reset();
    return av;
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
// quantiser is finer, by one for every halving of the area below full HD, three at most.
int finer(int crf, const MovieSettings& s) {
  const double area = static_cast<double>(s.width) * s.height / (1920.0 * 1080.0);
  // What these two leave out in haste costs nearness, which is made up for.
  const bool hasty = s.format == ExportFormat::H265 || s.format == ExportFormat::Av1;
  const int asked = s.quality == ExportQuality::Small            ? 8
                    : s.quality == ExportQuality::Best           ? -5
                    : s.quality == ExportQuality::Quick && hasty ? -2
                                                                 : 0;
  return std::max(1, crf + asked + s.coarser - std::clamp(static_cast<int>(std::lround(-std::log2(area))), 0, 3));
}

// The same for every encoder, by the numbers of each.
int crfOf(const MovieSettings& s) {
  const bool wide = s.format == ExportFormat::WebM || s.format == ExportFormat::Av1;
  const auto held = [&](int crf) { return std::min(crf, wide ? 63 : 51); };
  switch (s.format) {
    case ExportFormat::H265:
      return held(finer(15, s));
    case ExportFormat::Av1:
      return held(finer(9, s));
    case ExportFormat::WebM:
      return held(finer(14, s));
    default:
      return held(finer(13, s));
  }
}

// A row of straight RGBA as encoders that keep red, green and blue take it: with or without alpha, some with blue first, some with the
// bytes of a sample the other way round.
template <class Sample>
void packedRow(const Sample* rgba, int width, AVPixelFormat format, std::uint8_t* out) {
  const bool turned = format == AV_PIX_FMT_BGRA || format == AV_PIX_FMT_0RGB32;
  const bool three = format == AV_PIX_FMT_RGB24 || format == AV_PIX_FMT_RGB48 || format == AV_PIX_FMT_RGB48BE;
  const bool big = format == AV_PIX_FMT_RGBA64BE || format == AV_PIX_FMT_RGB48BE;
  const std::size_t parts = three ? 3 : 4;
  for (std::size_t x = 0; x < static_cast<std::size_t>(width); ++x)
    for (std::size_t c = 0; c < parts; ++c) {
      Sample v = rgba[x * 4 + (turned && c < 3 ? 2 - c : c)];
      if constexpr (sizeof(Sample) == 2)
        if (big != (std::endian::native == std::endian::big)) v = static_cast<Sample>((v << 8) | (v >> 8));
      std::memcpy(out + (x * parts + c) * sizeof(Sample), &v, sizeof(Sample));
    }
}

void tagColours(AVCodecParameters& p) {
  p.color_primaries = AVCOL_PRI_BT709;
  p.color_trc = AVCOL_TRC_BT709;
  p.color_space = AVCOL_SPC_BT709;
  p.color_range = AVCOL_RANGE_MPEG;
  p.chroma_location = AVCHROMA_LOC_CENTER;
}

}  // namespace

template <class Frame>
Status MovieWriter::State::sendPacked(const Frame& frame, AVFrame& av) {
  for (int y = 0; y < frame.height; ++y)
    packedRow(frame.rgba.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(frame.width) * 4, frame.width,
              static_cast<AVPixelFormat>(av.format), av.data[0] + static_cast<std::ptrdiff_t>(y) * av.linesize[0]);
  return send(&av);
}

Status MovieWriter::State::openCodec() {
  auto made = openEncoder(settings, crfOf(settings), globalHeader);
  if (!made) return tl::unexpected(made.error());
  codec = std::move(*made);
  // What the container was told first holds for all: the settings are the same.
  if (stretch == 0) avcodec_parameters_from_context(stream->codecpar, codec.get());
  return {};
}

Status MovieWriter::State::openVp9() {
  Vp9Settings plain{settings.width,  settings.height,  settings.rate,    false,
                    crfOf(settings), settings.bitRate, settings.threads, settings.quality == ExportQuality::Quick};
  auto encoder = Vp9Encoder::open(plain);
  if (!encoder) return tl::unexpected(encoder.error());
  vp9 = std::move(*encoder);
  if (settings.alpha) {
    plain.alphaPlane = true;
    auto alpha = Vp9Encoder::open(plain);
    if (!alpha) return tl::unexpected(alpha.error());
    vp9Alpha = std::move(*alpha);
    if (stretch == 0) av_dict_set(&stream->metadata, "alpha_mode", "1", 0);
  }
  if (stretch > 0) return {};
  AVCodecParameters& p = *stream->codecpar;
  p.codec_type = AVMEDIA_TYPE_VIDEO;
  p.codec_id = AV_CODEC_ID_VP9;
  p.width = settings.width;
  p.height = settings.height;
  p.format = AV_PIX_FMT_YUV420P;
  p.sample_aspect_ratio = {1, 1};
  tagColours(p);
  return {};
}

MovieFrames framesOf(const MovieSettings& s) {
  const bool colours = s.format == ExportFormat::Ffv1 || s.format == ExportFormat::Apng;
  if (colours && s.bits <= 8) return MovieFrames::Rgba8;
  const bool planes = s.format == ExportFormat::Mp4 || s.format == ExportFormat::WebM ||
                      ((s.format == ExportFormat::H265 || s.format == ExportFormat::Av1) && s.bits <= 8);
  return planes ? MovieFrames::Yuv : MovieFrames::Rgba16;
}

MovieWriter::MovieWriter(std::unique_ptr<State> state) : state_(std::move(state)) {}
MovieWriter::~MovieWriter() = default;

Result<std::unique_ptr<MovieWriter>> MovieWriter::open(OutputFile& file, const MovieSettings& settings) {
  // Encoders chat on standard error; what matters comes back as return values.
  av_log_set_level(AV_LOG_QUIET);
  auto state = std::make_unique<State>();
  State& s = *state;
  s.settings = settings;
  s.settings.run = settings.stretches.front().count;
  s.file = &file;
  const std::string container(formatSpec(settings.format).container);
  const bool indexed = container == "mp4" || container == "mov";
  int code = avformat_alloc_output_context2(&s.container, nullptr, container.c_str(), nullptr);
  if (code < 0) return s.failed("could not be set up", code);
  s.tick = {settings.rate.den, settings.rate.num};
  // No version texts and no random numbers: the same scene gives the same bytes.
  s.container->flags |= AVFMT_FLAG_BITEXACT;
  s.stream = avformat_new_stream(s.container, nullptr);
  if (!s.stream) return s.failed("could not be set up", AVERROR(ENOMEM));
  s.stream->time_base = s.tick;
  s.stream->avg_frame_rate = s.stream->r_frame_rate = {settings.rate.num, settings.rate.den};
  s.globalHeader = (s.container->oformat->flags & AVFMT_GLOBALHEADER) != 0;
  if (auto ok = settings.format == ExportFormat::WebM ? s.openVp9() : s.openCodec(); !ok) return tl::unexpected(ok.error());
  if (settings.sound) {
    auto sound = SoundEncoder::open(settings.format, kSoundBits, s.globalHeader);
    if (!sound) return tl::unexpected(sound.error());
    s.sound = std::move(*sound);
    s.soundStream = avformat_new_stream(s.container, nullptr);
    if (!s.soundStream) return s.failed("could not be set up", AVERROR(ENOMEM));
    s.soundStream->time_base = {1, kSoundRate};
    avcodec_parameters_from_context(s.soundStream->codecpar, &s.sound->context());
  }
  auto* buffer = static_cast<std::uint8_t*>(av_malloc(kIoBuffer));
  s.container->pb = avio_alloc_context(buffer, kIoBuffer, 1, &file, nullptr, writeTo, file.seekable() ? seekIn : nullptr);
  if (!s.container->pb) return s.failed("could not be set up", AVERROR(ENOMEM));
  s.container->flags |= AVFMT_FLAG_CUSTOM_IO;
  AVDictionary* muxing = nullptr;
  if (indexed) {
    // To put the index in front the muxer reads its own file once more, by its working name.
    s.container->url = av_strdup(("file:" + file.workPath()).c_str());
    av_dict_set(&muxing, "movflags", "+faststart", 0);
  }
  if (settings.format == ExportFormat::Apng) av_dict_set(&muxing, "plays", std::to_string(settings.plays).c_str(), 0);
  code = avformat_write_header(s.container, &muxing);
  av_dict_free(&muxing);
  if (code < 0) return s.failed("could not be written", code);
  return std::unique_ptr<MovieWriter>(new MovieWriter(std::move(state)));
}

Status MovieWriter::add(const FrameYuv& frame) {
  State& s = *state_;
  if (auto ok = s.begin(); !ok) return ok;
  if (s.vp9) return addVp9(frame);
  AvFrame av = s.blank(frame.width, frame.height);
  if (!av) return s.failed("could not be encoded", AVERROR(ENOMEM));
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

Status MovieWriter::add(const Frame16& frame) {
  State& s = *state_;
  if (auto ok = s.begin(); !ok) return ok;
  AvFrame av = s.blank(frame.width, frame.height);
  if (!av) return s.failed("could not be encoded", AVERROR(ENOMEM));
  const auto format = static_cast<AVPixelFormat>(av->format);
  const auto plane = [&](int i) { return reinterpret_cast<std::uint16_t*>(av->data[i]); };
  const auto stride = [&](int i) { return static_cast<std::ptrdiff_t>(av->linesize[i]) / 2; };
  const bool halved = format == AV_PIX_FMT_YUV420P10;
  if (halved || format == AV_PIX_FMT_YUV444P10 || format == AV_PIX_FMT_YUVA444P10) {
    const bool alpha = format == AV_PIX_FMT_YUVA444P10;
    wideYuv(frame.rgba.data(), frame.width, frame.height, halved,
            {plane(0), plane(1), plane(2), alpha ? plane(3) : nullptr, stride(0), stride(1), alpha ? stride(3) : 0});
    return s.send(av.get());
  }
  return s.sendPacked(frame, *av);
}

Status MovieWriter::add(const Frame8& frame) {
  State& s = *state_;
  if (auto ok = s.begin(); !ok) return ok;
  AvFrame av = s.blank(frame.width, frame.height);
  if (!av) return s.failed("could not be encoded", AVERROR(ENOMEM));
  return s.sendPacked(frame, *av);
}

Status MovieWriter::addVp9(const FrameYuv& frame) {
  State& s = *state_;
  const std::int64_t number = s.next++;
  const bool key = number % groupLength(s.settings.run) == 0;
  const bool exact = s.settings.coarser == 0 && nearKey(number, s.settings.run);
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
  if (auto ok = s.nextStretch(); !ok) return ok;
  if (auto ok = s.soundUntil(0, true); !ok) return ok;
  return s.end();
}

}  // namespace oa
