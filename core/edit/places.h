// What can be done to the places of layers.
#pragma once

#include "base/geometry.h"
#include "edit/layers.h"

namespace oa::edit {

enum class Fitting {
  Fit,      ///< as large as goes into the frame that the layer lies in
  Cover,    ///< as small as covers it
  Natural,  ///< its own size
  Reset,    ///< as a new layer lies, at rest
};
/// Motions of the size stay as they are, shifted (withBase); Reset takes them away.
Result<Ids> fitLayers(Scene& scene, const Ids& layers, Fitting fitting);

enum class Align { Left, Centre, Right, Top, Middle, Bottom };
/// Brings what several layers show to one line: one of their own, or with a single layer one of the frame. Places are those at
/// the beginning of the loop.
Result<Ids> alignLayers(Scene& scene, const Ids& layers, Align how);
/// Gives three or more layers equal distances from centre to centre, between the outermost two.
Result<Ids> distributeLayers(Scene& scene, const Ids& layers, bool across);
/// Moves them by so many pixels of the frame they lie in.
Result<Ids> shiftLayers(Scene& scene, const Ids& layers, Point by);

}  // namespace oa::edit
