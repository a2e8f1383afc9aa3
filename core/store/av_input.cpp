#include "store/av_input.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>

#include "store/raster.h"

namespace oa {

int AvInput::read(void* self, std::uint8_t* to, int count) {
  auto* me = static_cast<AvInput*>(self);
  if (me->late()) return AVERROR_EXIT;
  const auto left = std::min<std::int64_t>(count, me->size_ - me->at_);
  if (left <= 0) return AVERROR_EOF;
  std::int64_t got = left;
  if (me->file_ >= 0) {
    got = ::pread(me->file_, to, static_cast<std::size_t>(left), me->at_);
    if (got < 0) return AVERROR(errno);
    if (got == 0) return AVERROR_EOF;
  } else {
    std::copy_n(me->bytes_.data() + me->at_, left, reinterpret_cast<char*>(to));
  }
  me->at_ += got;
  return static_cast<int>(got);
}

std::int64_t AvInput::seek(void* self, std::int64_t offset, int whence) {
  auto* me = static_cast<AvInput*>(self);
  if (whence == AVSEEK_SIZE) return me->size_;
  const int from = whence & ~AVSEEK_FORCE;
  const std::int64_t base = from == SEEK_CUR ? me->at_ : from == SEEK_END ? me->size_ : 0;
  std::int64_t to = 0;
  if (__builtin_add_overflow(base, offset, &to) || to < 0 || to > me->size_) return AVERROR(EINVAL);
  return me->at_ = to;
}

Result<std::unique_ptr<AvInput>> AvInput::open(const MediaSource& source, const char* demuxer, const char* decoders) {
  if (source.data) {
    auto made = open(*source.data, demuxer, decoders);
    if (made) (*made)->keep_ = source.data;
    return made;
  }
  std::unique_ptr<AvInput> input(new AvInput);
  // Not waiting for who might write into a pipe.
  input->file_ = ::open(source.path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
  struct stat info {};
  if (input->file_ < 0 || ::fstat(input->file_, &info) != 0) return fail(systemReason(errno));
  if (!S_ISREG(info.st_mode)) return fail("is not a file");
  input->size_ = info.st_size;
  if (auto ok = input->begin(demuxer, decoders); !ok) return tl::unexpected(ok.error());
  return input;
}

Result<std::unique_ptr<AvInput>> AvInput::open(std::string_view bytes, const char* demuxer, const char* decoders) {
  std::unique_ptr<AvInput> input(new AvInput);
  input->bytes_ = bytes;
  input->size_ = static_cast<std::int64_t>(bytes.size());
  if (auto ok = input->begin(demuxer, decoders); !ok) return tl::unexpected(ok.error());
  return input;
}

Status AvInput::begin(const char* demuxer, const char* decoders) {
  av_log_set_level(AV_LOG_QUIET);
  constexpr int kBuffer = 1 << 16;
  io_ = avio_alloc_context(static_cast<std::uint8_t*>(av_malloc(kBuffer)), kBuffer, 0, this, read, nullptr, seek);
  format_ = avformat_alloc_context();
  const AVInputFormat* format = av_find_input_format(demuxer);
  if (!io_ || !format_) return fail("cannot be read: there is no memory left");
  if (!format) return fail("cannot be read: this machine's FFmpeg libraries have no reader for it");
  format_->pb = io_;
  format_->flags |= AVFMT_FLAG_CUSTOM_IO;
  format_->codec_whitelist = av_strdup(decoders);
  format_->format_whitelist = av_strdup(demuxer);
  format_->protocol_whitelist = av_strdup("");
  format_->max_streams = 32;
  format_->interrupt_callback = {[](void* self) { return static_cast<AvInput*>(self)->late() ? 1 : 0; }, this};
  // It frees the context where it fails.
  if (const int code = avformat_open_input(&format_, nullptr, format, nullptr); code < 0) return fail(avReason(code));
  return {};
}

AvInput::~AvInput() {
  if (format_) avformat_close_input(&format_);
  if (io_) {
    av_freep(&io_->buffer);
    avio_context_free(&io_);
  }
  if (file_ >= 0) ::close(file_);
}

void AvInput::limit(double seconds) {
  until_ = std::chrono::steady_clock::now() + std::chrono::microseconds(static_cast<std::int64_t>(seconds * 1e6));
}

bool AvInput::late() const { return std::chrono::steady_clock::now() > until_; }

AvCodec openDecoder(const AVStream& stream, const char* name, int threads) {
  const AVCodec* decoder = name ? avcodec_find_decoder_by_name(name) : avcodec_find_decoder(stream.codecpar->codec_id);
  if (!decoder) return nullptr;
  AvCodec codec(avcodec_alloc_context3(decoder));
  if (!codec || avcodec_parameters_to_context(codec.get(), stream.codecpar) < 0) return nullptr;
  codec->max_pixels = kMostPixels;
  codec->max_samples = std::int64_t{1} << 24;
  codec->thread_count = threads;
  codec->pkt_timebase = stream.time_base;
  return codec;
}

}  // namespace oa
