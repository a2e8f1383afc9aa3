// One encoded run of frames, written as often as asked: the loop repeats exactly, so its packets can too.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "media/export.h"
#include "render/frames.h"

namespace oa {

struct MovieSettings {
  ExportFormat format = ExportFormat::Mp4;
  int width = 2;
  int height = 2;
  Rational rate;
  bool alpha = false;
  int run = 1;      ///< frames in one run
  int repeats = 1;  ///< runs in the file
  int threads = 0;
};

/// Encodes into `path` directly; the caller renames or removes it.
class MovieWriter {
 public:
  static Result<std::unique_ptr<MovieWriter>> open(const std::string& path, const MovieSettings& settings);
  ~MovieWriter();

  /// Video formats.
  Status add(const FrameYuv& frame);
  /// GIF: one index per pixel; `palette` holds 256 colours as 0xAARRGGBB. One frame more than the run is
  /// added, the first one again: it is what the repeats begin with, as a change from the last frame.
  Status add(const std::vector<std::uint8_t>& indexes, const std::vector<std::uint32_t>& palette);
  /// Flushes, repeats the run, closes the file. Only after this is the file whole.
  Status finish();

 private:
  struct State;
  explicit MovieWriter(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace oa
