// Feeds mutated pictures, drawings, clips and sounds to the media store. Every one must end in a picture, in a sound or in a sentence,
// within the time limit, and without a complaint of the sanitizers.
#include <unistd.h>
#include <vips/vips.h>

#include <algorithm>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <string>
#include <vector>

#include "base/av.h"
#include "base/files.h"
#include "mutate.h"
#include "shapes/drawing_lines.h"
#include "store/media_store.h"
#include "store/sample.h"

// What the font library keeps until the end is no leak of ours. The sanitizer asks for it by this name.
extern "C" const char* __lsan_default_suppressions();                                    // NOLINT(bugprone-reserved-identifier)
extern "C" const char* __lsan_default_suppressions() { return "leak:libfontconfig\n"; }  // NOLINT(bugprone-reserved-identifier)

namespace {

constexpr unsigned kSecondsPerFile = 20;

// Small pictures of every kind that can be written here, with colours in them.
std::vector<std::string> originals() {
  std::vector<std::string> list;
  VipsImage* noise = nullptr;
  VipsImage* image = nullptr;
  if (vips_gaussnoise(&noise, 23, 17, "mean", 128.0, "sigma", 60.0, nullptr) != 0 || vips_cast_uchar(noise, &image, nullptr) != 0)
    return list;
  VipsImage* bands[] = {image, image, image, image};
  VipsImage* rgba = nullptr;
  if (vips_bandjoin(bands, &rgba, 4, nullptr) != 0) return list;
  const auto add = [&](auto save, auto... options) {
    void* data = nullptr;
    std::size_t size = 0;
    if (save(rgba, &data, &size, options..., nullptr) == 0) list.emplace_back(static_cast<const char*>(data), size);
    g_free(data);
  };
  add(vips_pngsave_buffer);
  add(vips_pngsave_buffer, "interlace", TRUE);
  add(vips_jpegsave_buffer);
  add(vips_webpsave_buffer, "lossless", TRUE);
  add(vips_webpsave_buffer);
  add(vips_tiffsave_buffer);
  add(vips_tiffsave_buffer, "compression", VIPS_FOREIGN_TIFF_COMPRESSION_LZW, "tile", TRUE);
  add(vips_gifsave_buffer);
  // Of 16 bits.
  VipsImage* const shallow = rgba;
  if (vips_cast_ushort(shallow, &rgba, nullptr) == 0) {
    add(vips_pngsave_buffer);
    add(vips_tiffsave_buffer);
    g_object_unref(rgba);
  }
  g_object_unref(shallow);
  g_object_unref(image);
  g_object_unref(noise);
  // BMP, by hand: a header and rows of three bytes.
  std::string bmp("BM\x4a\x05\0\0\0\0\0\0\x36\0\0\0\x28\0\0\0\x17\0\0\0\x11\0\0\0\x01\0\x18\0", 30);
  bmp.resize(54 + 72 * 17, '\x5a');
  list.push_back(bmp);
  const std::string waves = oa::sampleDrawing();
  list.push_back(waves.substr(0, waves.find("/>", 3000) + 2) + "</svg>");
  list.emplace_back(
      "<svg xmlns='http://www.w3.org/2000/svg' width='40' height='30'><defs><filter id='f'><feGaussianBlur stdDeviation='3'/></filter>"
      "<linearGradient id='g'><stop offset='0' stop-color='red'/><stop offset='1' stop-color='#12345678'/></linearGradient></defs>"
      "<g filter='url(#f)'><path d='M1 2C3 4 5 6 7 8L9 10Z' fill='url(#g)'/><use href='#p'/><text x='3' y='9'>a</text></g>"
      "<rect id='p' width='9' height='4'/></svg>");
  list.emplace_back(
      "<svg viewBox='0 0 40 30'><g transform='rotate(30 5 5) skewX(3)'><rect x='1' y='2' width='9' height='4' rx='2'/><circle r='3'/>"
      "<polygon points='1 2 3,4 5-6'/></g><path transform='matrix(1 0 .5 1 3 4)' d='m1 2a3 4 5 0 1 6 7zq1 2 3 4t5 6h7v8s1 2 3 4'/></svg>");
  return list;
}

// Some seconds of a tune as plain samples, and what FFmpeg makes of small pictures and of it: a movie of each kind of coding that is read.
std::string wave() {
  std::string wav("RIFF\x24\x20\0\0WAVEfmt \x10\0\0\0\x01\0\x01\0\x40\x1f\0\0\x80\x3e\0\0\x02\0\x10\0data\0\x20\0\0", 44);
  for (int i = 0; i < 4096; ++i) {
    wav += static_cast<char>(i * 37 % 251);
    wav += static_cast<char>(i / 64 % 64);
  }
  return wav;
}

std::string coded(const char* container, const char* encoder, AVPixelFormat pixels) {
  const AVCodec* codec = avcodec_find_encoder_by_name(encoder);
  AVFormatContext* format = nullptr;
  if (!codec || avformat_alloc_output_context2(&format, nullptr, container, nullptr) < 0) return {};
  const oa::AvCodec made(avcodec_alloc_context3(codec));
  AVCodecContext& c = *made;
  const bool sound = codec->type == AVMEDIA_TYPE_AUDIO;
  c.width = sound ? 0 : 32;
  c.height = sound ? 0 : 24;
  c.pix_fmt = pixels;
  c.time_base = sound ? AVRational{1, 48000} : AVRational{1, 10};
  c.sample_rate = 48000;
  if (sound) {
    av_channel_layout_default(&c.ch_layout, 2);
    c.sample_fmt = codec->sample_fmts[0];
  }
  c.gop_size = 4;
  c.thread_count = 1;
  if ((format->oformat->flags & AVFMT_GLOBALHEADER) != 0) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  std::string bytes;
  const std::string path = "/tmp/over-again-fuzz-" + std::to_string(::getpid());
  AVStream* stream = avcodec_open2(&c, codec, nullptr) >= 0 ? avformat_new_stream(format, nullptr) : nullptr;
  if (stream && avcodec_parameters_from_context(stream->codecpar, &c) >= 0 &&
      avio_open(&format->pb, path.c_str(), AVIO_FLAG_READ_WRITE) >= 0 && avformat_write_header(format, nullptr) >= 0) {
    const oa::AvFrame frame(av_frame_alloc());
    const oa::AvPacket packet(av_packet_alloc());
    for (int k = 0; k <= 9; ++k) {
      if (k < 9) {
        frame->width = c.width;
        frame->height = c.height;
        frame->format = sound ? static_cast<int>(c.sample_fmt) : static_cast<int>(pixels);
        frame->nb_samples = sound ? (c.frame_size > 0 ? c.frame_size : 1024) : 0;
        frame->pts = sound ? std::int64_t{k} * frame->nb_samples : k;
        if (sound) av_channel_layout_copy(&frame->ch_layout, &c.ch_layout);
        if (av_frame_get_buffer(frame.get(), 0) < 0) break;
        for (int plane = 0; plane < AV_NUM_DATA_POINTERS && frame->buf[plane]; ++plane)
          for (std::size_t i = 0; i < frame->buf[plane]->size; ++i)
            frame->buf[plane]->data[i] = sound ? 0 : static_cast<std::uint8_t>(40 + (i * 7 + static_cast<std::size_t>(k) * 31) % 160);
      }
      avcodec_send_frame(&c, k < 9 ? frame.get() : nullptr);
      av_frame_unref(frame.get());
      while (avcodec_receive_packet(&c, packet.get()) >= 0) {
        av_packet_rescale_ts(packet.get(), c.time_base, stream->time_base);
        av_interleaved_write_frame(format, packet.get());
      }
    }
    av_write_trailer(format);
    avio_closep(&format->pb);
    bytes = oa::readFile(path, std::size_t{1} << 20).value_or(std::string());
    std::remove(path.c_str());
  }
  avformat_free_context(format);
  return bytes;
}

std::vector<std::string> movingOriginals() {
  std::vector<std::string> list{wave()};
  const struct {
    const char* container;
    const char* encoder;
    AVPixelFormat pixels;
  } kinds[] = {{"mp4", "libx264", AV_PIX_FMT_YUV420P},
               {"webm", "libvpx", AV_PIX_FMT_YUV420P},
               {"webm", "libvpx-vp9", AV_PIX_FMT_YUV420P},
               {"mov", "prores_ks", AV_PIX_FMT_YUVA444P10},
               {"mov", "png", AV_PIX_FMT_RGBA},
               {"matroska", "ffv1", AV_PIX_FMT_BGRA},
               {"gif", "gif", AV_PIX_FMT_RGB8},
               {"apng", "apng", AV_PIX_FMT_RGBA},
               {"webp", "libwebp_anim", AV_PIX_FMT_BGRA},
               {"flac", "flac", AV_PIX_FMT_NONE},
               {"ogg", "libopus", AV_PIX_FMT_NONE},
               {"mp4", "aac", AV_PIX_FMT_NONE},
               {"mp3", "libmp3lame", AV_PIX_FMT_NONE},
               {"adts", "aac", AV_PIX_FMT_NONE}};
  for (const auto& kind : kinds) {
    std::string bytes = coded(kind.container, kind.encoder, kind.pixels);
    if (bytes.empty()) std::fprintf(stderr, "no %s in %s could be made\n", kind.encoder, kind.container);
    if (!bytes.empty()) list.push_back(std::move(bytes));
  }
  return list;
}

// Bytes changed, moved, cut and doubled.
std::string damaged(const std::vector<std::string>& from, oa::fuzz::Dice& dice) {
  std::string bytes = from[dice.roll(from.size())];
  const auto place = [&] { return dice.roll(std::max<std::size_t>(1, bytes.size())); };
  for (std::size_t changes = 1 + dice.roll(6); changes > 0 && !bytes.empty(); --changes) {
    const std::size_t at = place();
    switch (dice.roll(6)) {
      case 0:
        bytes[at] = static_cast<char>(dice.roll(256));
        break;
      case 1:
        bytes[at] = static_cast<char>(bytes[at] ^ (1 << static_cast<int>(dice.roll(8))));
        break;
      case 2:
        bytes.erase(at, 1 + dice.roll(16));
        break;
      case 3:
        bytes.insert(at, bytes.substr(place(), 1 + dice.roll(40)));
        break;
      case 4:
        for (std::size_t i = at; i < std::min(bytes.size(), at + 4); ++i) bytes[i] = dice.roll(2) ? '\xff' : '\0';
        break;
      default:
        if (dice.roll(8) == 0) bytes.resize(at);
        break;
    }
  }
  return bytes;
}

}  // namespace

int main(int argc, char** argv) {
  using namespace oa;
  if (argc != 2) {
    std::fprintf(stderr, "over-again-fuzz-media COUNT\n");
    return 2;
  }
  if (VIPS_INIT(argv[0]) != 0) return 1;
  std::vector<std::string> whole = originals();
  const std::vector<std::string> moving = movingOriginals();
  whole.insert(whole.end(), moving.begin(), moving.end());
  if (whole.size() < 24) {
    std::fprintf(stderr, "only %zu files to begin with\n", whole.size());
    return 1;
  }
  MediaStore store(std::size_t{32} << 20);
  const auto shown = [&](const std::string& bytes, bool& accepted) {
    MediaRef ref{"a"};
    ref.data = std::make_shared<const std::string>(bytes);
    ref.hash = contentHash(bytes);
    alarm(kSecondsPerFile);
    // The lines of a drawing are read by another reader.
    if (bytes.find("<svg") != std::string::npos)
      if (const auto drawing = linesOfDrawing(bytes))
        for (const Outline& line : drawing->lines)
          if (flattened(line, 0.5).empty()) return false;
    const auto taken = store.takeIn(ref);
    accepted = taken.has_value();
    if (!taken) return !taken.error().message.empty();
    if (taken->width == 0) {
      const auto sound = store.sound(*taken);
      return sound ? (*sound)->samples() > 0 : !sound.error().message.empty();
    }
    if (taken->moving()) {
      const auto clip = store.clip(*taken);
      if (!clip) return !clip.error().message.empty();
      // From place to place, backwards too.
      const std::size_t n = (*clip)->info().times.size();
      for (const std::size_t i : {std::size_t{0}, n - 1, n / 2})
        if (const auto picture = (*clip)->picture(i); !picture && picture.error().message.empty()) return false;
      ClipMix mix;
      mix.parts[0] = {n - 1, 1};
      const auto mixed = store.clipTile(*taken, mix, std::min(taken->width, 41), std::min(taken->height, 23), {Edge::Wrap, Edge::Mirror});
      if (!mixed) return false;
    }
    const auto tile = store.tile(*taken, std::min(taken->width, 41), std::min(taken->height, 23), {Edge::Wrap, Edge::Mirror});
    return tile && tile->width >= 1 && tile->height >= 1;
  };
  for (const std::string& bytes : whole) {
    bool accepted = false;
    if (!shown(bytes, accepted) || !accepted) {
      std::fprintf(stderr, "a whole file of %zu bytes that begins with \"%.12s\" was not read\n", bytes.size(), bytes.c_str());
      return 1;
    }
  }
  const int count = std::atoi(argv[1]);
  int accepted = 0;
  fuzz::Dice dice(2027);
  for (int i = 0; i < count; ++i) {
    bool one = false;
    if (!shown(damaged(whole, dice), one)) {
      std::fprintf(stderr, "file %d ended in neither a picture nor a sentence\n", i);
      return 1;
    }
    accepted += one;
  }
  std::printf("%d files: %d shown, the others refused with a sentence\n", count, accepted);
  return accepted > 0 && accepted < count ? 0 : 1;
}
