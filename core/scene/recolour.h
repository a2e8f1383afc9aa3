// The colours of a scene, and a scene in other colours.
#pragma once

#include <functional>
#include <vector>

#include "image/palette.h"
#include "scene/scene.h"

namespace oa {

/// Calls `visit` with every colour that the scene shows or could show: background, parameters, stops, and all that
/// their motions hold. Hidden parts of a step (ShownWhen) are left out.
void eachColour(Scene& scene, const std::function<void(Colour&)>& visit);

/// The scene's different colours apart from their alpha, in the order of first appearance.
std::vector<Colour> coloursOf(const Scene& scene);

/// The scene with every colour replaced by its match in `palette` (matchedColours), and with that palette as its own.
Scene recoloured(const Scene& scene, const Palette& palette);

}  // namespace oa
