// Looks: what a layer's recipe does behind its source, and how the layer moves, kept to be given to others.
#pragma once

#include <string>
#include <string_view>

#include "edit/layers.h"

namespace oa::edit {

inline constexpr std::size_t kMostLookPicture = 400000;  ///< bytes

/// A file of its own: a scene of one layer that shows nothing but steps, with "look" beside it (docs/format.md).
struct Look {
  std::string name;
  std::string help;     ///< what it does, in a sentence; may be empty
  std::string section;  ///< those of one section stand together; may be empty
  std::string picture;  ///< a PNG of it, small; may be empty
  Scene scene;          ///< one layer
};

/// What the layer's recipe does behind its source, and the motions of its place and opacity. What shows or follows other layers is left
/// behind: elsewhere they are not there. Refused where there is nothing to keep.
Result<Look> lookOf(const Scene& scene, Id layer, std::string name);

/// Its steps come behind the layer's own, or take their place; its motions go from the layer's own values. Lengths are those of the look's
/// frame, and fit the scene's.
Result<Ids> applyLook(Scene& scene, Id layer, const Look& look, bool instead);

std::string lookToText(const Look& look);
/// Checked like a scene's file: it may come from anywhere.
Result<Look> lookFromText(std::string_view text);

}  // namespace oa::edit
