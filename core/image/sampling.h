// Reading a plane between its pixels and beyond its edges.
#pragma once

#include <memory>
#include <string_view>

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
void samplePlane(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out);

/// The same by cubic convolution (see image/enlarged.h), four by four pixels for each; colours stay within their range.
void samplePlaneCubic(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out);

/// A plane as rows.
std::unique_ptr<RowMaker> planeRows(Plane plane, bool opaque);

}  // namespace oa
