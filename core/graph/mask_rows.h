// Masks: pictures read as how much of another one is there.
#pragma once

#include <memory>

#include "graph/recipe_pass.h"
#include "image/plane_view.h"

namespace oa {

/// The mask of a layer on the layer's own plane: a field, 0 to 1.
std::shared_ptr<const RowMaker> maskRows(const Puller& puller, int layer, const PlaneView& view, const Moment& at);

/// `picture` as RGBA, times a field.
std::shared_ptr<const RowMaker> maskedRows(std::shared_ptr<const RecipePass> picture, std::shared_ptr<const RowMaker> field, int width);

/// `picture` as RGBA.
std::shared_ptr<const RowMaker> pictureRows(std::shared_ptr<const RecipePass> picture, int width);

/// Where a layer's mask can be above 0.
PixelBox maskReach(const Puller& puller, int layer, const PlaneView& view, const Moment& at);
/// The pixels that the frame of a view touches.
PixelBox frameBoxOf(const PlaneView& view);

/// 1 within the frame of a view, 0 outside; pixels on its edge have their share of it.
std::shared_ptr<const RowMaker> frameRowsOf(const PlaneView& view);

}  // namespace oa
