// Places beyond a frame, brought back into it as an edge rule says.
#pragma once

#include "fields/edged.h"

namespace oa {

/// `n` places along an axis: begin + i * step + shift[i], in pixels; those outside `frame` lie where `edge` puts them: where it is
/// Clamp or Mirror, else they stay. Up to n rounded up to kSpanPadding are read and written.
void foldedPlaces(const float* shift, float begin, float step, int n, Edge edge, PixelRange frame, float* out);

}  // namespace oa
