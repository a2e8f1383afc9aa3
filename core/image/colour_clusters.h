// The main colours of a picture.
#pragma once

#include <vector>

#include "image/colour.h"

namespace oa {

/// Up to `count` colours that stand for `pixels`, darkest first: k-means in OKLab (S. Lloyd, "Least squares quantization in
/// PCM", IEEE Trans. Inf. Theory 28, 1982), begun with places far apart (D. Arthur and S. Vassilvitskii, "k-means++", 2007) from
/// a fixed seed, so that the same picture always gives the same colours. Transparent pixels count less. Fewer colours
/// come back where the picture has no more.
std::vector<Colour> mainColours(const std::vector<Colour>& pixels, int count);

}  // namespace oa
