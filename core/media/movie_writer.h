// One encoded run of frames, written as often as asked: the loop repeats exactly, so its packets can too. Sound goes on beside them.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/output_file.h"
#include "media/movie_settings.h"
#include "render/frames.h"

namespace oa {

/// What the pictures of a movie are given to its writer as.
enum class MovieFrames { Yuv, Rgba8, Rgba16 };
MovieFrames framesOf(const MovieSettings& settings);
/// Bits a second that the sound of a movie takes.
inline constexpr int kSoundBits = 192000;

/// Movies and APNG, encoded into a file that the caller keeps or drops.
class MovieWriter {
 public:
  /// `file` must outlive the writer.
  static Result<std::unique_ptr<MovieWriter>> open(OutputFile& file, const MovieSettings& settings);
  ~MovieWriter();

  Status add(const FrameYuv& frame);
  /// For those that are MovieFrames::Rgba8 or Rgba16; straight alpha.
  Status add(const Frame8& frame);
  Status add(const Frame16& frame);
  /// Flushes, repeats what is shown again, closes the file. Only after this is the file whole.
  Status finish();

 private:
  struct State;
  explicit MovieWriter(std::unique_ptr<State> state);
  Status addVp9(const FrameYuv& frame);
  std::unique_ptr<State> state_;
};

}  // namespace oa
