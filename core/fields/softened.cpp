#include "fields/softened.h"

#include <algorithm>
#include <cmath>

#include "image/blur.h"
#include "image/cropped.h"
#include "image/resampled.h"

namespace oa {
namespace {

constexpr double kMostSigma = 48;

}  // namespace

std::shared_ptr<const RowMaker> softened(const Input& input, const PlaneView& view, double sigma, const BeforeBlur& before, double around) {
  const double coarser = std::exp2(std::ceil(std::log2(std::max(1.0, sigma / kMostSigma))));
  const PlaneView base = coarser > 1 ? view.coarser(coarser) : view;
  BlurSettings s;
  s.sigmaX = s.sigmaY = sigma / coarser;
  const int reach = blurReach(s.sigmaX) + static_cast<int>(std::ceil(around / coarser));
  const PlaneView wide = base.grown(reach);
  std::shared_ptr<const RowMaker> rows = input.pull(wide);
  if (before) rows = before(std::move(rows), wide.width, wide.height, coarser);
  const std::shared_ptr<const RowMaker> soft = cropped(blurred(*rows, wide.width, wide.height, s), reach, reach, base.width, wide.width);
  return coarser > 1 ? resampled(soft, base, view) : soft;
}

}  // namespace oa
