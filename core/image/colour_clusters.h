// The main colours of a picture.
#pragma once

#include <cstddef>
#include <vector>

#include "image/colour.h"

namespace oa {

struct WeightedLab {
  OkLab lab;
  double weight = 1;
};

/// The squared distance in OKLab.
[[nodiscard]] double squaredDistance(const OkLab& a, const OkLab& b);
/// Which of `middles` is nearest; the first of those equally near.
[[nodiscard]] std::size_t nearestMiddle(const std::vector<OkLab>& middles, const OkLab& lab);
/// Rounds of k-means (S. Lloyd, "Least squares quantization in PCM", IEEE Trans. Inf. Theory 28, 1982): each middle goes to the
/// mean of the samples that are nearest to it; one that has none stays.
void settleMiddles(std::vector<OkLab>& middles, const std::vector<WeightedLab>& samples, int rounds);

/// Up to `count` colours that stand for `pixels`, darkest first: k-means in OKLab, begun with places far apart (D. Arthur and S.
/// Vassilvitskii, "k-means++", 2007) from a fixed seed, so that the same picture always gives the same colours. Transparent pixels count
/// less. Fewer colours come back where the picture has no more.
std::vector<Colour> mainColours(const std::vector<Colour>& pixels, int count);

}  // namespace oa
