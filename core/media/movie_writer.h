// One encoded run of frames, written as often as asked: the loop repeats exactly, so its packets can too. Sound goes on beside them.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/output_file.h"
#include "media/export.h"
#include "media/sound_encoder.h"
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
  int bits = 8;  ///< of a channel
  ExportQuality quality = ExportQuality::Good;
  int coarser = 0;           ///< so many steps of a constant quality less than the quality has: six are half the bits
  std::int64_t bitRate = 0;  ///< of the picture, bits a second; 0: by the quality
  int plays = 0;             ///< APNG: how often it is shown; 0: for ever
  SoundFunction sound = {};  ///< empty: none
  double soundSeconds = -1;  ///< how long the sound is; negative: as long as all runs
};

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
  /// Flushes, repeats the run, closes the file. Only after this is the file whole.
  Status finish();

 private:
  struct State;
  explicit MovieWriter(std::unique_ptr<State> state);
  Status addVp9(const FrameYuv& frame);
  std::unique_ptr<State> state_;
};

}  // namespace oa
