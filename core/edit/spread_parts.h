// Head starts within one layer: of the copies that a repeat makes, and of the letters of words.
#pragma once

#include "edit/layers.h"
#include "edit/turns.h"

namespace oa::edit {

/// What the head starts of a layer's parts are, or would be, spread over.
enum class Parts { None, Copies, Letters };
Parts partsOf(const Layer& layer);
/// Whether any of them moves, so that head starts are seen.
bool partsMove(const Layer& layer);

/// Sets the order of the parts on the layer's own card. Copies go by their columns and rows as they lie, and outwards from the middle;
/// letters, and what goes by a line, by where they lie along it. The line is in shares of the scene's frame. Refused where there are none.
Result<Ids> spreadParts(Scene& scene, Id layer, const Spread& spread);

}  // namespace oa::edit
