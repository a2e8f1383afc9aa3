// H.264 by x264 through FFmpeg, set up for loops: the same bytes at every run, and exact pictures around every key picture.
#pragma once

#include <cstdint>

#include "base/rational.h"
#include "base/result.h"
#include "base/av.h"

namespace oa {

struct H264Settings {
  int width = 0;  ///< even
  int height = 0;
  Rational rate;
  std::int64_t run = 0;       ///< frames of the run
  int crf = 0;                ///< constant rate factor, 0 to 51: smaller is better
  std::int64_t bitRate = 0;   ///< bits a second in place of it; 0: none
  bool exact = true;          ///< the pictures round the joint are as exact as the format gets
  int threads = 0;            ///< 0: as many as there are processors
  bool globalHeader = false;  ///< parameter sets stand in the container
};

/// An opened encoder for 4:2:0 pictures in BT.709, studio range. Fails where libx264 is missing or refuses.
Result<AvCodec> openH264(const H264Settings& settings);

}  // namespace oa
