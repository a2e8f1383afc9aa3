// Moving pictures: clips and animated pictures, one picture after the other or any of them.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "base/result.h"
#include "store/av_input.h"
#include "store/media_kind.h"
#include "store/raster.h"

namespace oa {

struct MovingInfo {
  int width = 0;  ///< upright, with square pixels
  int height = 0;
  std::vector<double> times;  ///< when each picture begins, in seconds from the first; ascending
  double seconds = 0;         ///< when the last one ends
  /// The same in the file's own ticks, for readers that look for them.
  std::vector<std::int64_t> ticks = {};
};

/// Most pictures that a clip may have.
inline constexpr std::size_t kMostPictures = 2000000;

class MovingReader {
 public:
  virtual ~MovingReader() = default;
  MovingReader() = default;
  MovingReader(const MovingReader&) = delete;
  MovingReader& operator=(const MovingReader&) = delete;

  [[nodiscard]] const MovingInfo& info() const { return *info_; }
  [[nodiscard]] const std::shared_ptr<const MovingInfo>& sharedInfo() const { return info_; }
  /// The picture that begins at times[index]. What cannot be decoded shows the one before it, as players do; an error if there is none.
  virtual Result<Raster> picture(std::size_t index) = 0;
  /// The picture that is had at the least cost.
  [[nodiscard]] virtual std::size_t next() const = 0;

 protected:
  std::shared_ptr<const MovingInfo> info_;
};

/// Opens a clip or animated picture. Errors are sentences without the file's name. `known`: what another reader of the same file found.
Result<std::unique_ptr<MovingReader>> openMoving(MediaKind kind, const MediaSource& source, std::shared_ptr<const MovingInfo> known = {});

// One function for each way of reading.
Result<std::unique_ptr<MovingReader>> openAvClip(MediaKind kind, const MediaSource& source, std::shared_ptr<const MovingInfo> known);
Result<std::unique_ptr<MovingReader>> openWebpClip(const MediaSource& source, std::shared_ptr<const MovingInfo> known);

}  // namespace oa
