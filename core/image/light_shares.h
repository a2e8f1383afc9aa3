// Pictures in one colour, in linear light.
#pragma once

#include <memory>

#include "image/rows.h"

namespace oa {

/// The light of `rows`, of which there is a tint, `width` pixels wide: shares of one colour are shares of its light, so that nothing is
/// decoded but that.
std::shared_ptr<const RowMaker> lightShares(std::shared_ptr<const RowMaker> rows, int width);

/// What a colour is in linear light, opaque.
Tint lightOf(const Tint& tint);

}  // namespace oa
