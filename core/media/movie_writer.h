// One encoded run of frames, written as often as asked: the loop repeats exactly, so its packets can too.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/output_file.h"
#include "media/export.h"
#include "render/frames.h"

namespace oa {

struct MovieSettings {
  ExportFormat format = ExportFormat::Mp4;
  int width = 2;
  int height = 2;
  Rational rate;
  bool alpha = false;
  std::int64_t run = 1;      ///< frames in one run
  std::int64_t repeats = 1;  ///< runs in the file
  int threads = 0;
};

/// MP4 and WebM, encoded into a file that the caller keeps or drops.
class MovieWriter {
 public:
  /// `file` must outlive the writer.
  static Result<std::unique_ptr<MovieWriter>> open(OutputFile& file, const MovieSettings& settings);
  ~MovieWriter();

  Status add(const FrameYuv& frame);
  /// Flushes, repeats the run, closes the file. Only after this is the file whole.
  Status finish();

 private:
  struct State;
  explicit MovieWriter(std::unique_ptr<State> state);
  Status addVp9(const FrameYuv& frame);
  std::unique_ptr<State> state_;
};

}  // namespace oa
