// One palette of 256 colours for a whole loop, and frames reduced to it.
#pragma once

#include <cstdint>
#include <vector>

#include "media/export.h"
#include "render/frames.h"

namespace oa {

class Palette256 {
 public:
  /// Chooses colours for the samples given (straight 8-bit RGBA): median cut in OKLab, then a few rounds of
  /// k-means. With `alpha`, entry 255 is transparent and stands for pixels below half opacity.
  Palette256(const std::vector<Frame8>& samples, bool alpha);

  [[nodiscard]] const std::vector<std::uint32_t>& argb() const { return argb_; }
  /// One index per pixel.
  void reduce(const Frame8& frame, GifDither dither, std::vector<std::uint8_t>& indexes) const;

 private:
  [[nodiscard]] std::uint8_t nearest(int r, int g, int b) const;
  std::vector<std::uint32_t> argb_;
  std::vector<std::uint8_t> lookup_;  // 6 bits a channel
  bool alpha_;
};

}  // namespace oa
