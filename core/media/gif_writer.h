// Animated GIF (CompuServe, GIF89a), compressed by giflib.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "base/output_file.h"

namespace oa {

struct GifSettings {
  int width = 1;
  int height = 1;
  int plays = 0;                       ///< how often players show it; 0: for ever
  bool seeThrough = false;             ///< entry 255 is clear, and every picture stands alone; else it stands for "as before"
  std::vector<std::uint32_t> palette;  ///< 256 colours as 0xAARRGGBB
};

class GifWriter {
 public:
  /// Writes into `file`, which must outlive the writer.
  static Result<std::unique_ptr<GifWriter>> open(OutputFile& file, GifSettings settings);
  ~GifWriter();
  /// One index per pixel, shown for `hundredths` of a second.
  Status add(const std::vector<std::uint8_t>& indexes, int hundredths);
  Status finish();

 private:
  struct State;
  explicit GifWriter(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace oa
