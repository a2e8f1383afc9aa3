// FFmpeg's encoders of moving pictures, set up for loops: the same bytes at every run, closed groups that runs can be repeated from.
#pragma once

#include <cstdint>

#include "base/av.h"
#include "base/rational.h"
#include "base/result.h"
#include "media/formats.h"

namespace oa {

struct EncoderSettings {
  ExportFormat format = ExportFormat::H265;
  int width = 0;
  int height = 0;
  Rational rate;
  std::int64_t run = 0;  ///< frames of the run
  bool alpha = false;
  int bits = 8;               ///< of a channel, as the format has them
  int crf = 0;                ///< constant rate factor, where there is one: smaller is better
  std::int64_t bitRate = 0;   ///< bits a second in place of a constant quality; 0: none
  bool exact = true;          ///< the pictures round the joint are as exact as the format gets
  int threads = 0;            ///< 0: as many as there are processors
  bool globalHeader = false;  ///< parameter sets stand in the container
};

/// An opened encoder for H.264, H.265, AV1, ProRes, FFV1 or APNG. Its pix_fmt says how it takes pictures. Fails where it is missing or
/// refuses.
Result<AvCodec> openEncoder(const EncoderSettings& settings);

}  // namespace oa
