// Layers as text, for the clipboard: between scenes, between programs, through a message.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "edit/layers.h"

namespace oa::edit {

/// The layers with all that is in them, as JSON.
std::string layersToText(const Scene& scene, const Ids& layers);
/// What such a text holds, checked like a file: it may come from anywhere. Other text is an error.
Result<std::vector<Layer>> layersFromText(std::string_view text);
/// Puts what a text holds above layer `above` (0: on top of the scene).
Result<Ids> pasteLayers(Scene& scene, Id above, std::string_view text);

}  // namespace oa::edit
