// Where on a plane a layer can be seen.
#pragma once

#include <array>

#include "base/affine.h"
#include "scene/plan.h"

namespace oa {

struct Box {
  double left = 0;
  double top = 0;
  double right = 0;
  double bottom = 0;
  [[nodiscard]] double width() const { return right - left; }
  [[nodiscard]] double height() const { return bottom - top; }
  [[nodiscard]] Point centre() const { return {(left + right) / 2, (top + bottom) / 2}; }
};

/// What a layer shows on its own plane: the box of a shape, of all that a group holds, or its frame where it goes on for ever.
/// Steps and masks are not counted.
struct Extent {
  Box box;
  bool endless = false;  ///< the frame stands for it
};
Extent extentOf(const Plan& plan, int layer, const Moment& at);
/// The same at a moment of the layer's own: within its group, and held as it is. With `soft` the soft edges beyond it count too.
Extent extentWithin(const Plan& plan, int layer, const Moment& now, bool soft = false);

/// From a layer's plane to the scene's: all the places that it lies in.
Affine toScene(const Plan& plan, int layer, const Moment& at);
/// From the layer's plane to that of the group it lies in.
Affine toGroup(const Plan& plan, int layer, const Moment& at);
/// The moment within the group that a layer lies in.
Moment momentWithin(const Plan& plan, int layer, const Moment& at);

/// The box round a box whose corners were mapped.
Box mapped(const Box& box, const Affine& map);

}  // namespace oa
