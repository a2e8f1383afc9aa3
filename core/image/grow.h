// Widening and narrowing what is light in a field.
#pragma once

#include "image/buffer.h"

namespace oa {

/// Every pixel becomes the largest within `radius` pixels round it, or where the radius is negative the smallest (grey dilation and
/// erosion by a disc). Fractions of a pixel lie between the two whole radii.
Plane grown(const Plane& field, double radius);

}  // namespace oa
