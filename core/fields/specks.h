// A grid of specks laid over the frame so that whole ones fill it: for white noise and grain.
#pragma once

#include <array>
#include <cstdint>
#include <utility>
#include <vector>

#include "image/rows.h"
#include "params/step_context.h"

namespace oa {

class Specks {
 public:
  /// Specks about `size` pixels of the scene wide; `still` chooses one of many pictures of them (stillSeed()).
  Specks(const PlaneView& view, double size, std::uint32_t still);

  /// `n` tones (0 to 1, about 0.5) of row y from x0. A pixel has the mean of the specks it covers; specks finer than a pixel are
  /// averaged away. `channel` draws other tones of the same places. Buffers have room for n rounded up to kSpanPadding.
  void span(int y, int x0, int n, std::uint32_t channel, float* out) const;
  /// One of them in double precision.
  [[nodiscard]] double tone(int x, int y, std::uint32_t channel = 0) const;

 private:
  // The speck at a pixel's near edge, and how much of the pixel it covers; the next speck has the rest.
  struct Cover {
    std::uint32_t speck;
    float share;
  };
  struct Axis {
    double begin, perPixel;  // of an upright view: where its first pixel begins, and how many specks a pixel covers
    int count;
    double toX, toY;  // from one pixel to the next along a row, and down a column
    [[nodiscard]] Cover at(int pixel) const { return covered(begin + perPixel * pixel); }
    /// A pixel that begins at `low`, in specks.
    [[nodiscard]] Cover covered(double low) const;
    [[nodiscard]] std::uint32_t after(std::uint32_t speck) const { return speck + 1 == static_cast<std::uint32_t>(count) ? 0 : speck + 1; }
  };
  [[nodiscard]] double mean(const Cover& across, const Cover& down, std::uint32_t still) const;
  [[nodiscard]] std::pair<Cover, Cover> coverOf(int x, int y) const;
  void row(std::uint32_t speckRow, int x0, int n, std::uint32_t still, float* out) const;

  Axis across_, down_;
  std::uint32_t still_;
  float strength_;
  bool upright_;
  bool crisp_ = true;  // no pixel of a row covers two specks
  std::vector<std::uint32_t> columns_, next_;
  std::vector<float> shares_;
};

}  // namespace oa
