// A grid of specks laid over the frame so that whole ones fill it: for white noise and grain.
#pragma once

#include <cstdint>
#include <vector>

#include "steps/step.h"

namespace oa {

class Specks {
 public:
  /// Specks about `size` pixels of the scene wide; `still` chooses one of many pictures of them (stillSeed()).
  Specks(const FrameInfo& frame, double size, std::uint32_t still);

  [[nodiscard]] std::uint32_t column(int x) const;
  [[nodiscard]] std::uint32_t row(int y) const;
  /// Columns of pixels 0 to width - 1, and padding.
  [[nodiscard]] std::vector<std::uint32_t> columns(int width) const;
  [[nodiscard]] std::uint32_t still() const { return still_; }
  /// Specks finer than a pixel are averaged away: what is left of them, 0 to 1.
  [[nodiscard]] float strength() const { return strength_; }
  /// The tone of a pixel, 0 to 1, about 0.5; `channel` draws another one of the same place.
  [[nodiscard]] double tone(int x, int y, std::uint32_t channel = 0) const;
  /// What `channel` adds to the still's number.
  static constexpr std::uint32_t channelSeed(std::uint32_t channel) { return channel * 0x68BC21EBu; }

 private:
  double x0_, y0_, perPixelX_, perPixelY_;
  int across_, down_;
  std::uint32_t still_;
  float strength_;
};

}  // namespace oa
