// What a step reads from: the picture below it in its recipe, in any view.
#pragma once

#include <array>
#include <memory>

#include "base/affine.h"
#include "image/plane_view.h"
#include "image/rows.h"
#include "loop/phase.h"

namespace oa {

/// The picture that a step works on. It has no edge: any part of the plane may be asked for, as finely as the view says, at any
/// moment of the loop.
class Input {
 public:
  virtual ~Input() = default;
  Input() = default;
  Input(const Input&) = delete;
  Input& operator=(const Input&) = delete;

  /// The picture's pixels in `view`, at the moment that the step itself is asked for.
  [[nodiscard]] virtual std::shared_ptr<const RowMaker> pull(const PlaneView& view) const = 0;
  /// The same at another moment, counted in the frames of moment().
  [[nodiscard]] virtual std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment& at) const = 0;
  /// The same in linear light (image/transfer.h), however coarse the view is: means of the light that each pixel covers, mixed by the cubic
  /// B-spline of pixels, so that no light is gained or lost. Null where that is not to be had for less than finer pixels.
  [[nodiscard]] virtual std::shared_ptr<const RowMaker> light(const PlaneView& /*view*/) const { return nullptr; }
  [[nodiscard]] virtual Moment moment() const = 0;
  /// Left, top, right and bottom of all that its plane shows, or of its frame where it goes on for ever; of no size: there is no
  /// picture. Those that are not asked say so.
  [[nodiscard]] virtual std::array<double, 4> filled() const { return {}; }
  /// The same at this moment, where that is another.
  [[nodiscard]] virtual std::array<double, 4> filledNow() const { return filled(); }
  /// From its plane to that of the layer that asks for it, as both stand in the scene.
  [[nodiscard]] virtual Affine standing() const { return {}; }
};

}  // namespace oa
