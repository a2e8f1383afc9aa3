// What lies before a step, blurred, in any view and however wide.
#pragma once

#include <functional>
#include <memory>

#include "fields/input.h"

namespace oa {

/// Makes something else of the rows that will be blurred, `width` x `height` pixels; one of their pixels is `coarser` of the view.
using BeforeBlur =
    std::function<std::shared_ptr<const RowMaker>(std::shared_ptr<const RowMaker> rows, int width, int height, double coarser)>;

/// The input's pixels of `view`, blurred with a standard deviation of `sigma` of them as they are (not as light). Wide blurs read a
/// coarser picture: what is lost is far finer than what they leave. `before` is given `around` pixels more on each side.
std::shared_ptr<const RowMaker> softened(const Input& input, const PlaneView& view, double sigma, const BeforeBlur& before = {},
                                         double around = 0);

}  // namespace oa
