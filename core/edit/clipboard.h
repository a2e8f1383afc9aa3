// Layers, steps and motions as text, for the clipboard: between scenes, between programs, through a message. What comes from there is
// checked like a file: it may come from anywhere.
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

/// Steps of a recipe, none of them a source.
std::string stepsToText(const std::vector<RecipeStep>& steps);
Result<std::vector<RecipeStep>> stepsFromText(std::string_view text);
bool holdsSteps(std::string_view text);
/// Puts what a text holds behind a step of a layer's recipe. The last of them is the one to go on with.
Result<int> pasteSteps(Scene& scene, Id layer, int after, std::string_view text);

/// All motions of a value, with what they move and how far that can go.
std::string motionsToText(const ParamSpec& spec, const Param& param);
bool holdsMotions(std::string_view text);
/// The value with the motions that a text holds: from its own base, and as far as they went of the range they were made for. Refused
/// where this kind of value cannot move like that.
Result<Param> withMotionsFromText(const ParamSpec& spec, const Param& param, std::string_view text);

}  // namespace oa::edit
