// What a scene shows: whether two show the same, and what one layer of it shows.
#pragma once

#include "scene/scene.h"

namespace oa {

/// True if they differ in nothing but what no picture shows: names, locks, the palette, keys that are not known.
bool looksSame(const Scene& a, const Scene& b);

/// The scene with this layer (0 to the number of layers - 1) for its only one: visible, over nothing, unblended.
Scene onlyLayer(const Scene& scene, std::size_t layer);

}  // namespace oa
