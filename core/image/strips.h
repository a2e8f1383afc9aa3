// A plane in upright strips, to be read at places that wander up and down.
#pragma once

#include "image/borders.h"
#include "image/buffer.h"
#include "image/rows.h"

namespace oa {

/// Floats of a strip's row, and how many from one row of a strip to the next: behind its own pixels a row has the first one of the
/// strip to its right, so that neighbours always lie side by side.
inline constexpr int kStripFloats = 64;
inline constexpr int kStripStride = 68;

/// The pixels of a plane in strips.
struct StripPixels {
  const float* first = nullptr;
  std::ptrdiff_t strip = 0;  ///< floats from strip to strip
  int width = 0;
  int height = 0;
  int channels = 1;
  [[nodiscard]] const float* at(int x, int y) const {
    const int perStrip = kStripFloats / channels;
    return first + x / perStrip * strip + static_cast<std::ptrdiff_t>(y) * kStripStride +
           static_cast<std::ptrdiff_t>(x % perStrip) * channels;
  }
};

/// In rows as wide as a frame each row lies on a page of its own, and places that hop from row to row wait for the page tables; in
/// strips a page holds 15 rows.
class StripPlane {
 public:
  StripPlane() = default;
  StripPlane(const RowMaker& rows, int width, int height);
  [[nodiscard]] const StripPixels& pixels() const { return pixels_; }

 private:
  FloatBuffer buffer_;
  StripPixels pixels_;
};

/// How far off the pixels of a row are read, in pixels of the plane: across by four rows of `across` and down by four of `down`,
/// both mixed by `weights`; less than 4e6. Rows have room for their pixels rounded up to kSpanPadding.
struct ShiftRow {
  const float* across[4];
  const float* down[4];
  float weights[4];
};

/// `rows` rows of `n` pixels from (x0, y0) on, each read bilinearly some way off, no more than `farthest` along either direction, as
/// `shifts` says of its row; places beyond the plane follow `edge`. Fields beyond a transparent edge are 0.
void sampleShifted(const StripPixels& plane, Edge edge, int x0, int y0, const ShiftRow* shifts, double farthest, int n, int rows,
                   float* out, std::ptrdiff_t outStride);

}  // namespace oa
