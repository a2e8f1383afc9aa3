// Reading a plane between its pixels and beyond its edges.
#pragma once

#include <cstdint>
#include <memory>
#include <string_view>

#include "base/geometry.h"
#include "image/borders.h"
#include "image/buffer.h"
#include "image/rows.h"

namespace oa {

/// All rows of `input` in one plane.
Plane wholePlane(const RowMaker& input, int width, int height);

/// The edge rule named as in files: beyond, clamp, wrap, mirror, transparent.
Edge edgeFromName(std::string_view name);

/// `n` pixels read bilinearly at (x[i], y[i]), in pixels of the plane (centres at whole numbers); places beyond it follow `edge`.
/// Fields beyond a transparent edge are 0.
void samplePlane(const PlanePixels& plane, Edge edge, const float* x, const float* y, int n, float* out);

/// How four pixels are mixed by where a place lies between the second and the third: by cubic convolution (see image/enlarged.h), which
/// goes through them, or by the cubic B-spline, which softens them alike wherever it is read: by a variance of a third of a pixel's.
enum class Cubic { Convolution, Spline };
/// The four weights, `t` of a pixel beyond the second.
void weightsOf(Cubic cubic, double t, double* weights);

/// The same by a cubic, four by four pixels for each; colours stay within their range. `down`: how far off places of the same columns in
/// the next row lie, whose pixels are fetched meanwhile.
void samplePlaneCubic(const PlanePixels& plane, Edge edge, const float* x, const float* y, int n, float* out,
                      Cubic cubic = Cubic::Convolution, Point down = {0, 1});
/// The same for places along a line: at, at + step, ...
void sampleLineCubic(const PlanePixels& plane, Edge edge, Point at, Point step, int n, float* out, Cubic cubic = Cubic::Convolution,
                     Point down = {0, 1});

/// One row of four, `n` floats of each. Up to kSpanPadding floats more are read and written.
void mixRowsCubic(const float* const* rows, const float* weights, int n, float* out);
/// `n` colours, each of four neighbours from its own place in `row` on. Up to kSpanPadding pixels more are read and written.
void shiftRowCubic(const float* row, const float* weights, int n, float* out);
/// `n` pixels of a row by cubic convolution: of four neighbours from column[i] on, tx[i] beyond the second of them.
void sampleColumnsCubic(const float* row, int channels, const std::int32_t* column, const float* tx, int n, float* out);

/// A plane as rows.
std::unique_ptr<RowMaker> planeRows(Plane plane, bool opaque);

/// Rows as a plane to sample from: where they lie in memory already they are not copied.
class SourcePlane {
 public:
  SourcePlane() = default;
  SourcePlane(std::shared_ptr<const RowMaker> rows, int width, int height);
  [[nodiscard]] const PlanePixels& pixels() const { return pixels_; }
  [[nodiscard]] bool opaque() const { return opaque_; }

 private:
  std::shared_ptr<const RowMaker> rows_;
  Plane plane_;
  PlanePixels pixels_;
  bool opaque_ = true;
};

}  // namespace oa
