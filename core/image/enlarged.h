// A field or picture that is only known every few pixels, enlarged to all of them.
#pragma once

#include <memory>
#include <vector>

#include "image/buffer.h"
#include "image/rows.h"

namespace oa {

/// Samples over a frame of `width` x `height` pixels: sample (i, j) lies at pixel (i stepX, j stepY). Column and row 0 of
/// `plane` hold sample -1; there is room for one sample before and two after the frame.
struct SampleGrid {
  int width = 1;
  int height = 1;
  double stepX = 1;
  double stepY = 1;
  Plane plane;

  /// A grid of steps of about `step` pixels, at least 2, of which a whole number fits the frame: a tile stays one.
  SampleGrid(int width, int height, double step, int channels);
};

/// Cubic convolution with a = -1/2 (R. G. Keys, "Cubic convolution interpolation", IEEE TASSP 29, 1981): goes through the
/// samples, and has no kinks.
std::unique_ptr<RowMaker> enlarged(SampleGrid grid, bool opaque);

/// The weights of the samples at -1, 0, 1 and 2 for a place `t` in [0, 1) between 0 and 1.
void cubicWeights(double t, double* weights);

}  // namespace oa
