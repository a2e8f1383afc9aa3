// Light that is the same in all large parts of a picture.
#pragma once

#include <vector>

#include "image/buffer.h"

namespace oa {

/// What a picture's pixels have to be multiplied by, so that none of its large parts is lighter than another: repeats do not show then.
/// Seen from any pixel without a kink.
class EvenLight {
 public:
  /// Of pictures (premultiplied RGBA) of one size, taken together; `even` is how far, 0 to 1.
  EvenLight(const std::vector<const Plane*>& pictures, double even);
  /// For each of the `width` pixels of a row at share `down` of the height, [0, 1].
  void gains(double down, int width, float* out) const;

 private:
  static constexpr int kAcross = 8;
  static constexpr int kDown = 6;
  std::vector<double> gains_;
};

/// Multiplies the colours of `n` premultiplied pixels, held within their alpha.
void multiplyColours(const float* in, const float* gains, int n, float* out);

}  // namespace oa
