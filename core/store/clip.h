// A clip that is open: its pictures in any order, those that come next decoded ahead.
#pragma once

#include <condition_variable>
#include <memory>
#include <mutex>
#include <string>
#include <thread>
#include <vector>

#include "store/byte_cache.h"
#include "store/moving.h"

namespace oa {

class Clip {
 public:
  /// Pictures are kept in `cache` under names that begin with `name`.
  /// `known`: what was found when it was taken in.
  static Result<std::shared_ptr<Clip>> open(MediaKind kind, const MediaSource& source, std::string name, std::shared_ptr<ByteCache> cache,
                                            std::shared_ptr<const MovingInfo> known);
  ~Clip();
  Clip(const Clip&) = delete;
  Clip& operator=(const Clip&) = delete;

  [[nodiscard]] const MovingInfo& info() const { return *info_; }
  /// For several threads. Errors are sentences without the file's name.
  Result<Raster> picture(std::size_t index);

 private:
  Clip(MediaKind kind, MediaSource source, std::string name, std::shared_ptr<ByteCache> cache);
  Result<Raster> decode(std::size_t index);
  MovingReader* readerFor(std::size_t index);
  void ahead();

  // Two ends that fade into each other are read at once; one more goes backwards.
  static constexpr std::size_t kMostReaders = 3;
  static constexpr std::size_t kAhead = 6;

  MediaKind kind_;
  MediaSource source_;
  std::string name_;
  std::shared_ptr<ByteCache> cache_;
  std::shared_ptr<const MovingInfo> info_;

  std::mutex reading_;
  struct Open {
    std::unique_ptr<MovingReader> reader;
    std::uint64_t used = 0;
  };
  std::vector<Open> readers_;
  std::uint64_t uses_ = 0;

  std::mutex mutex_;
  std::condition_variable wake_;
  std::thread worker_;
  std::size_t wanted_ = 0;  // the first picture to be decoded ahead
  std::size_t left_ = 0;    // how many
  std::size_t last_ = 0;    // the picture asked for last
  bool quit_ = false;
};

}  // namespace oa
