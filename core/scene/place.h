// Where a layer lies: its position, size, turn, anchor and flip.
#pragma once

#include <span>
#include <vector>

#include "base/affine.h"
#include "params/param.h"

namespace oa {

/// The parameters of a place, in this order.
enum class PlaceParam { Position, Size, Linked, Turn, Anchor, Flip };
inline constexpr int kPlaceParams = 6;

std::span<const ParamSpec> placeSpecs();
std::vector<Param> defaultPlace();
bool isDefaultPlace(const std::vector<Param>& place);

/// A place at one moment. The layer is taken at its anchor, flipped, sized and turned about it, and the anchor put to the position.
struct PlaceAt {
  Point position{0.5, 0.5};  ///< shares of the frame that the layer lies in
  Point size{1, 1};          ///< times as wide and as high as it is
  double turn = 0;           ///< degrees, clockwise
  Point anchor{0.5, 0.5};    ///< shares of the layer's own frame
  bool flipAcross = false;
  bool flipDown = false;
};
PlaceAt placeAt(const std::vector<Param>& place, const Moment& at);

/// From the plane of the layer to the one it lies in; both frames in pixels of the scene.
Affine placeMap(const PlaceAt& place, Point ownFrame, Point outerFrame);

/// The greatest common divisor of its laps; 0 if it rests.
std::int64_t commonLaps(const std::vector<Param>& place);

}  // namespace oa
