// A field or picture that is only known every few pixels, enlarged to all of them.
#pragma once

#include <memory>
#include <utility>
#include <vector>

#include "image/buffer.h"
#include "image/plane_view.h"
#include "image/rows.h"

namespace oa {

/// Samples over a view: sample (i, j) lies at pixel (beginX + i stepX, beginY + j stepY). Column and row 0 of `plane` hold sample
/// -1; there is room for one sample before and two after the view.
struct SampleGrid {
  int width = 1;
  int height = 1;
  double stepX = 1;
  double stepY = 1;
  double beginX = 0;  ///< of sample 0: more than a step before the first pixel, never behind it
  double beginY = 0;
  Plane plane;

  /// A grid of steps of about `step` pixels, at least 2, of which a whole number fits the frame: a tile stays one. In upright
  /// views samples lie at the same places of the plane, whichever part of it is shown.
  SampleGrid(const PlaneView& view, double step, int channels);
  /// What is there already: pixel (0, 0) of a picture of `width` x `height` lies at place (x0, y0) of `samples`, and each further one
  /// `step` of them on, less than 1. There must be a sample before, and two behind, the first and the last pixel.
  SampleGrid(Plane samples, double x0, double y0, double step, int width, int height);
  /// The same where sample 0 lies at pixel 0, and the next ones so many whole pixels on.
  SampleGrid(Plane samples, int pixelsX, int pixelsY, int width, int height);

  /// The first of the four rows of the plane that pixel row `y` is mixed from, and their weights.
  int cellOf(int y, float* weights) const;
  /// The pixel at which column or row 0 of the plane lies.
  [[nodiscard]] double firstX() const { return beginX - stepX; }
  [[nodiscard]] double firstY() const { return beginY - stepY; }
  /// Axes (anything with u0, ux, uy, v0, vx, vy) over pixels, as axes over the columns and rows of the plane.
  template <class Axes>
  void place(Axes& a) const {
    a.u0 += a.ux * firstX() + a.uy * firstY();
    a.v0 += a.vx * firstX() + a.vy * firstY();
    a.ux *= stepX;
    a.vx *= stepX;
    a.uy *= stepY;
    a.vy *= stepY;
  }
};

/// Samples of each row of a picture, made when they are asked for, from several threads at once.
class SampleRows {
 public:
  virtual ~SampleRows() = default;
  SampleRows() = default;
  SampleRows(const SampleRows&) = delete;
  SampleRows& operator=(const SampleRows&) = delete;
  /// Samples [first - 1, first - 1 + count) of row `y`, of which sample 0 lies at pixel 0: where they lie in `room`, which has room for
  /// so many.
  virtual const float* samples(int y, int first, int count, float* room) const = 0;
  /// Floats that `count` samples need.
  [[nodiscard]] virtual int room(int count) const = 0;
};

/// Cubic convolution with a = -1/2 (R. G. Keys, "Cubic convolution interpolation", IEEE TASSP 29, 1981): goes through the
/// samples, and has no kinks.
std::unique_ptr<RowMaker> enlarged(SampleGrid grid, bool opaque);
/// The same of a picture that is only known every `apart` pixels of each row.
std::unique_ptr<RowMaker> enlarged(std::unique_ptr<SampleRows> samples, int apart, int width, bool opaque);

/// Two fields on equal grids enlarged along their rows only: each row of samples at all pixels. Four of them mixed by
/// SampleGrid::cellOf() are a row.
std::pair<Plane, Plane> enlargedAcross(const SampleGrid& grid, const SampleGrid& other);

/// The weights of the samples at -1, 0, 1 and 2 for a place `t` in [0, 1) between 0 and 1.
void cubicWeights(double t, double* weights);

}  // namespace oa
