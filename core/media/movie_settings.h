// What a movie is made like.
#pragma once

#include <cstdint>
#include <vector>

#include "media/frame_source.h"
#include "media/sound_encoder.h"

namespace oa {

struct MovieSettings {
  ExportFormat format = ExportFormat::Mp4;
  int width = 2;
  int height = 2;
  Rational rate;
  bool alpha = false;
  std::int64_t run = 1;  ///< frames that are encoded in one go: those of the stretch that it is at
  std::vector<ExportStretch> stretches = {};
  int threads = 0;
  int bits = 8;  ///< of a channel
  ExportQuality quality = ExportQuality::Good;
  int coarser = 0;           ///< so many steps of a constant quality less than the quality has: six are half the bits
  std::int64_t bitRate = 0;  ///< of the picture, bits a second; 0: by the quality
  int plays = 0;             ///< APNG: how often it is shown; 0: for ever
  SoundFunction sound = {};  ///< empty: none
};

}  // namespace oa
