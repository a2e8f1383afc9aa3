// A file opened by FFmpeg, by its content alone: it is given bytes and no name, so nothing beside them can be opened.
#pragma once

#include <chrono>
#include <cstdint>
#include <memory>
#include <string>
#include <string_view>

#include "base/av.h"
#include "base/result.h"

namespace oa {

/// Where the bytes of a file come from: memory, or a file on the disk.
struct MediaSource {
  std::shared_ptr<const std::string> data;
  std::string path;  ///< where there is no data
};

class AvInput {
 public:
  /// `demuxer`: the only one that may read it; `decoders`: the only ones, separated by commas. Errors are FFmpeg's numbers as sentences
  /// without the file's name.
  static Result<std::unique_ptr<AvInput>> open(const MediaSource& source, const char* demuxer, const char* decoders);
  /// The same of bytes that outlive it.
  static Result<std::unique_ptr<AvInput>> open(std::string_view bytes, const char* demuxer, const char* decoders);
  ~AvInput();
  AvInput(const AvInput&) = delete;
  AvInput& operator=(const AvInput&) = delete;

  [[nodiscard]] AVFormatContext* context() const { return format_; }
  /// Reading fails from so many seconds from now on.
  void limit(double seconds);
  [[nodiscard]] bool late() const;

 private:
  AvInput() = default;
  Status begin(const char* demuxer, const char* decoders);
  static int read(void* self, std::uint8_t* to, int count);
  static std::int64_t seek(void* self, std::int64_t offset, int whence);

  std::shared_ptr<const std::string> keep_;
  std::string_view bytes_;
  int file_ = -1;
  std::int64_t size_ = 0;
  std::int64_t at_ = 0;
  std::chrono::steady_clock::time_point until_ = std::chrono::steady_clock::time_point::max();
  AVIOContext* io_ = nullptr;
  AVFormatContext* format_ = nullptr;
};

/// A decoder for a stream of it, opened; null if there is none that may be used. `name`: that one and no other.
AvCodec openDecoder(const AVStream& stream, const char* name, int threads);

}  // namespace oa
